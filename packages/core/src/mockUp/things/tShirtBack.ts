import { garment } from "../garment";
import { GROWN, measuresOf, namesOf } from "../shirtSizes";
import { defineThing, ETCHED, type UsualPlace } from "../thing";

const PLACES: readonly UsualPlace[] = [
  { name: "full back", area: "Back", at: [0, 90] },
  { name: "between the shoulders", area: "Back", at: [0, 40] },
  { name: "foot of the back", area: "Back", at: [0, 480] },
  { name: "left sleeve", area: "Left sleeve", at: [0, 60] },
  { name: "right sleeve", area: "Right sleeve", at: [0, 60] },
];

export const tShirtBack = defineThing({
  ...{ id: "t-shirt-back", title: "T-shirt, back", group: "Garments" },
  ...{ stuff: "cloth", colour: "#f1eee6", ink: "onTop", etched: ETCHED.cloth },
  sizes: namesOf(GROWN),
  draw(size) {
    const [chest, length] = measuresOf(GROWN, size);
    return garment({
      cut: {
        chest,
        length,
        neck: 92,
        neckDrop: 26,
        sleeve: 0.4 * chest,
        cuff: 0.34 * chest,
        slant: 0.78,
        collarMm: 20,
      },
      side: "back",
      printWidth: 0.68 * chest,
      places: PLACES,
    });
  },
});
