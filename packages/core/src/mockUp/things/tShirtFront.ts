import { garment } from "../garment";
import { GROWN, measuresOf, namesOf } from "../shirtSizes";
import { defineThing, ETCHED, type UsualPlace } from "../thing";

const PLACES: readonly UsualPlace[] = [
  { name: "full front", area: "Front", at: [0, 75] },
  { name: "left chest", area: "Front", at: [95, 65] },
  { name: "right chest", area: "Front", at: [-95, 65] },
  { name: "middle of the chest", area: "Front", at: [0, 55] },
  { name: "pocket", area: "Front", at: [95, 85] },
  { name: "left sleeve", area: "Left sleeve", at: [0, 60] },
  { name: "right sleeve", area: "Right sleeve", at: [0, 60] },
];

export const tShirtFront = defineThing({
  ...{ id: "t-shirt-front", title: "T-shirt, front", group: "Garments" },
  ...{ stuff: "cloth", colour: "#f1eee6", ink: "onTop", etched: ETCHED.cloth },
  sizes: namesOf(GROWN),
  draw(size) {
    const [chest, length] = measuresOf(GROWN, size);
    return garment({
      cut: {
        chest,
        length,
        neck: 92,
        neckDrop: 98,
        sleeve: 0.4 * chest,
        cuff: 0.34 * chest,
        slant: 0.78,
        collarMm: 20,
      },
      side: "front",
      printWidth: 0.66 * chest,
      places: PLACES,
    });
  },
});
