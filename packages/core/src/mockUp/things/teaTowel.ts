import { rectangleKnots } from "../../path/outline";
import { openPath } from "../shapes";
import { flat } from "../flat";
import { defineThing, ETCHED } from "../thing";

export const teaTowel = defineThing({
  ...{ id: "tea-towel", title: "Tea towel", group: "Cloths and bags" },
  ...{ stuff: "cloth", colour: "#f3efe4", ink: "inCloth", etched: ETCHED.cloth, sizes: [] },
  draw: () =>
    flat({
      ...{ widthMm: 500, heightMm: 700 },
      outline: { knots: rectangleKnots(0, 0, 500, 700), closed: true },
      origin: [250, 0],
      limits: { x: -220, y: 30, width: 440, height: 640 },
      places: [
        { name: "middle", area: "Front", at: [0, 150] },
        { name: "foot", area: "Front", at: [0, 420] },
      ],
      more: {
        lines: [
          { path: openPath([0, 14], [500, 14]), widthMm: 1.2, shade: 0.86 },
          { path: openPath([0, 686], [500, 686]), widthMm: 1.2, shade: 0.86 },
          { path: openPath([10, 0], [10, 700]), widthMm: 1, shade: 0.9 },
          { path: openPath([490, 0], [490, 700]), widthMm: 1, shade: 0.9 },
        ],
        folds: [
          { from: [0, 350], to: [500, 350], widthMm: 5, depth: 0.08 },
          { from: [167, 0], to: [167, 700], widthMm: 5, depth: 0.07 },
          { from: [334, 0], to: [334, 700], widthMm: 5, depth: -0.07 },
        ],
        rounded: { mm: 8, shade: 0.94 },
      },
    }),
});
