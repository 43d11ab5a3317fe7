import { rectangleKnots } from "../../path/outline";
import { flat } from "../flat";
import { defineThing, ETCHED } from "../thing";

export const signBoard = defineThing({
  ...{ id: "sign-board", title: "Sign board", group: "Signs" },
  ...{ stuff: "painted", colour: "#f5f3ee", ink: "onTop", etched: ETCHED.painted, sizes: [] },
  draw: () =>
    flat({
      ...{ widthMm: 1200, heightMm: 800 },
      outline: { knots: rectangleKnots(0, 0, 1200, 800, 14, 14), closed: true },
      origin: [600, 0],
      limits: { x: -560, y: 40, width: 1120, height: 720 },
      places: [
        { name: "middle", area: "Front", at: [0, 200] },
        { name: "upper half", area: "Front", at: [0, 80] },
      ],
      more: {
        parts: [
          {
            path: { knots: rectangleKnots(170, 790, 60, 240), closed: true },
            colour: "#6a6d70",
            behind: true,
          },
          {
            path: { knots: rectangleKnots(970, 790, 60, 240), closed: true },
            colour: "#6a6d70",
            behind: true,
          },
        ],
        rounded: { mm: 10, shade: 0.8 },
        light: (x, y) => 1.03 - 0.08 * (y / 800) - 0.03 * (x / 1200),
      },
      roomMm: 150,
    }),
});
