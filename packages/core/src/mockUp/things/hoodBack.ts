import { garment } from "../garment";
import { hoodOfBack } from "../hood";
import { GROWN, measuresOf, namesOf } from "../shirtSizes";
import { defineThing, ETCHED, type UsualPlace } from "../thing";

const PLACES: readonly UsualPlace[] = [
  { name: "full back", area: "Back", at: [0, 230] },
  { name: "under the hood", area: "Back", at: [0, 215] },
  { name: "foot of the back", area: "Back", at: [0, 470] },
  { name: "left sleeve", area: "Left sleeve", at: [0, 60] },
  { name: "right sleeve", area: "Right sleeve", at: [0, 60] },
];

export const hoodBack = defineThing({
  ...{ id: "hooded-back", title: "Hooded top, back", group: "Garments" },
  ...{ stuff: "cloth", colour: "#39424e", ink: "onTop", etched: ETCHED.cloth },
  sizes: namesOf(GROWN),
  draw(size) {
    const [chest, length] = measuresOf(GROWN, size);
    return garment({
      cut: {
        chest: chest + 40,
        length: length - 25,
        neck: 100,
        neckDrop: 30,
        sleeve: 1.06 * chest,
        cuff: 0.22 * chest,
        slant: 0.42,
        ribMm: 65,
        collarMm: 14,
      },
      side: "back",
      printWidth: 0.66 * chest,
      places: PLACES,
      more: hoodOfBack,
    });
  },
});
