import { rectangleKnots, roundKnots } from "../../path/outline";
import { type KnotPath } from "../../path/pathSet";
import { openPath } from "../shapes";
import { flat } from "../flat";
import { defineThing, ETCHED } from "../thing";

const wheel = (x: number, y: number, r: number): KnotPath => ({
  closed: true,
  knots: roundKnots(x - r, y - r, 2 * r, 2 * r),
});

export const vanSide = defineThing({
  ...{ id: "van-side", title: "Van, side", group: "Signs" },
  ...{ stuff: "painted", colour: "#f2f3f4", ink: "onTop", etched: ETCHED.painted, sizes: [] },
  draw: () =>
    flat({
      ...{ widthMm: 5200, heightMm: 2350 },
      outline: {
        closed: true,
        knots: [
          { at: [140, 260], out: [10, -190] },
          { at: [420, 60], in: [-170, 0] },
          { at: [3750, 60], out: [330, 10] },
          { at: [4560, 960], in: [-260, -560], out: [340, 70] },
          { at: [5080, 1280], in: [-90, -160], out: [60, 120] },
          { at: [5130, 1860], in: [10, -220] },
          { at: [140, 1890], out: [-60, -400] },
        ],
      },
      origin: [1800, 60],
      limits: { x: -1500, y: 140, width: 3000, height: 1420 },
      name: "Side",
      below: "the roof",
      seams: [
        [
          [-760, 150],
          [-760, 1640],
        ],
        [
          [620, 150],
          [620, 1640],
        ],
        [
          [-1620, 780],
          [1780, 780],
        ],
      ],
      places: [
        { name: "middle of the side", area: "Side", at: [-70, 300] },
        { name: "rear half", area: "Side", at: [-1160, 300] },
        { name: "under the waist", area: "Side", at: [-70, 860] },
      ],
      more: {
        parts: [
          { path: wheel(980, 1890, 400), colour: "#23262a", behind: true },
          { path: wheel(4180, 1890, 400), colour: "#23262a", behind: true },
          {
            path: {
              closed: true,
              knots: [
                { at: [3640, 330] },
                { at: [3900, 330], out: [130, 40] },
                { at: [4330, 900], in: [-160, -330] },
                { at: [3640, 900] },
              ],
            },
            colour: "#4a5a66",
          },
          ...[980, 4180].flatMap((x) => [
            { path: wheel(x, 1900, 330), colour: "#1b1d20" },
            { path: wheel(x, 1900, 190), colour: "#9da1a5" },
            { path: wheel(x, 1900, 60), colour: "#5e6266" },
          ]),
          { path: { closed: true, knots: rectangleKnots(4800, 1330, 250, 130, 50, 50) }, colour: "#e9e2c4" },
          { path: { closed: true, knots: rectangleKnots(120, 1240, 70, 260, 20, 20) }, colour: "#b02a20" },
        ],
        lines: [
          ...[1040, 2420].map((x) => ({ path: openPath([x, 230], [x, 1790]), widthMm: 10, shade: 0.7 })),
          { path: openPath([3560, 230], [3560, 1800]), widthMm: 10, shade: 0.7 },
          { path: openPath([180, 840], [3560, 840]), widthMm: 9, shade: 0.8 },
          { path: openPath([2540, 980], [2700, 980]), widthMm: 34, shade: 0.45 },
        ],
        rounded: { mm: 70, shade: 0.72 },
        light: (_, y) => 1.06 - 0.16 * Math.abs(y / 2000 - 0.3),
      },
      roomMm: 260,
    }),
});
