import { garment } from "../garment";
import { hoodOfFront } from "../hood";
import { GROWN, measuresOf, namesOf } from "../shirtSizes";
import { defineThing, ETCHED, type UsualPlace } from "../thing";

const PLACES: readonly UsualPlace[] = [
  { name: "full front", area: "Front", at: [0, 60] },
  { name: "left chest", area: "Front", at: [95, 65] },
  { name: "right chest", area: "Front", at: [-95, 65] },
  { name: "middle of the chest", area: "Front", at: [0, 55] },
  { name: "pocket", area: "Front", at: [95, 85] },
  { name: "left sleeve", area: "Left sleeve", at: [0, 60] },
  { name: "right sleeve", area: "Right sleeve", at: [0, 60] },
];

export const hoodFront = defineThing({
  ...{ id: "hooded-front", title: "Hooded top, front", group: "Garments" },
  ...{ stuff: "cloth", colour: "#39424e", ink: "onTop", etched: ETCHED.cloth },
  sizes: namesOf(GROWN),
  draw(size) {
    const [chest, length] = measuresOf(GROWN, size);
    return garment({
      cut: {
        chest: chest + 40,
        length: length - 25,
        neck: 100,
        neckDrop: 88,
        sleeve: 1.06 * chest,
        cuff: 0.22 * chest,
        slant: 0.42,
        ribMm: 65,
        collarMm: 14,
      },
      side: "front",
      printWidth: 0.6 * chest,
      places: PLACES,
      more: hoodOfFront,
    });
  },
});
