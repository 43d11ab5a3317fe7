import { garment } from "../garment";
import { CHILD, measuresOf, namesOf } from "../shirtSizes";
import { defineThing, ETCHED, type UsualPlace } from "../thing";

const PLACES: readonly UsualPlace[] = [
  { name: "full front", area: "Front", at: [0, 55] },
  { name: "left chest", area: "Front", at: [65, 50] },
  { name: "middle of the chest", area: "Front", at: [0, 40] },
  { name: "left sleeve", area: "Left sleeve", at: [0, 45] },
  { name: "right sleeve", area: "Right sleeve", at: [0, 45] },
];

export const childShirt = defineThing({
  ...{ id: "child-shirt", title: "Child's shirt", group: "Garments" },
  ...{ stuff: "cloth", colour: "#f4d35e", ink: "onTop", etched: ETCHED.cloth },
  sizes: namesOf(CHILD),
  draw(size) {
    const [chest, length] = measuresOf(CHILD, size);
    return garment({
      cut: {
        chest,
        length,
        neck: 74,
        neckDrop: 66,
        sleeve: 0.38 * chest,
        cuff: 0.34 * chest,
        slant: 0.78,
        collarMm: 16,
      },
      side: "front",
      printWidth: 0.68 * chest,
      places: PLACES,
    });
  },
});
