import { rectangleKnots, roundKnots } from "../../path/outline";
import { closedLine } from "../shapes";
import { flat } from "../flat";
import { defineThing, ETCHED } from "../thing";

export const keyTag = defineThing({
  ...{ id: "key-tag", title: "Key tag", group: "Small things" },
  ...{ stuff: "leather", colour: "#a8693b", ink: "etched", etched: ETCHED.leather, sizes: [] },
  draw: () =>
    flat({
      ...{ widthMm: 40, heightMm: 78 },
      outline: { knots: rectangleKnots(0, 0, 40, 78, 10, 10), closed: true },
      origin: [20, 0],
      limits: { x: -16, y: 18, width: 32, height: 54 },
      seams: [
        [
          [-4, 14],
          [4, 14],
        ],
      ],
      places: [{ name: "middle", area: "Front", at: [0, 24] }],
      more: {
        parts: [{ path: { knots: roundKnots(16.5, 5.5, 7, 7), closed: true }, colour: "#f0efec" }],
        lines: [{ path: closedLine(roundKnots(14.5, 3.5, 11, 11)), widthMm: 1.6, shade: 0.6 }],
        rounded: { mm: 2.2, shade: 0.62 },
      },
    }),
});
