import { rectangleKnots, roundKnots } from "../../path/outline";
import { openPath } from "../shapes";
import { flat } from "../flat";
import { defineThing, ETCHED } from "../thing";

const SCREWS = [
  [8, 8],
  [192, 8],
  [8, 72],
  [192, 72],
] as const;

export const doorPlate = defineThing({
  ...{ id: "door-plate", title: "Door plate", group: "Signs" },
  ...{ stuff: "brass", colour: "#c9a65a", ink: "etched", etched: ETCHED.brass, sizes: [] },
  draw: () =>
    flat({
      ...{ widthMm: 200, heightMm: 80 },
      outline: { knots: rectangleKnots(0, 0, 200, 80, 4, 4), closed: true },
      origin: [100, 0],
      limits: { x: -84, y: 8, width: 168, height: 64 },
      places: [{ name: "middle", area: "Front", at: [0, 16] }],
      more: {
        parts: SCREWS.map(([x, y]) => ({
          ...{ path: { knots: roundKnots(x - 3, y - 3, 6, 6), closed: true }, shade: 0.72 },
        })),
        lines: SCREWS.map(([x, y]) => ({
          path: openPath([x - 2, y - 2], [x + 2, y + 2]),
          widthMm: 0.8,
          shade: 0.45,
        })),
        rounded: { mm: 2, shade: 0.72 },
        light: (x, y) => 1.04 - 0.1 * Math.abs((x + y) / 280 - 0.4),
      },
    }),
});
