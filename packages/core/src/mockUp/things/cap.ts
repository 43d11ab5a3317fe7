import { lightOfRound } from "../round";
import { bend, mirroredAt } from "../shapes";
import { roundSurface } from "../surface";
import { defineThing, ETCHED } from "../thing";

const [MIDDLE, RADIUS] = [125, 88];

/** A cap from the front: what is printed lies on the round front above the peak. */
export const cap = defineThing({
  ...{ id: "cap", title: "Cap", group: "Garments" },
  ...{ stuff: "cloth", colour: "#27384d", ink: "onTop", etched: ETCHED.cloth, sizes: [] },
  draw: () => ({
    ...{ widthMm: 250, heightMm: 220 },
    parts: [
      {
        path: mirroredAt(MIDDLE, [
          { at: [0, 24], out: [58, 0] },
          { at: [RADIUS + 4, 128], in: [0, -66], out: [2, 14] },
          { at: [0, 146], in: [60, 0] },
        ]),
      },
      {
        path: mirroredAt(MIDDLE, [
          { at: [0, 141], out: [48, 0] },
          { at: [RADIUS + 4, 126], in: [-26, 13], out: [18, 6] },
          { at: [0, 184], in: [84, 0] },
        ]),
        shade: 0.9,
      },
      {
        path: mirroredAt(MIDDLE, [
          { at: [0, 19], out: [7, 0] },
          { at: [8, 25], in: [0, -4] },
          { at: [0, 28] },
        ]),
        shade: 0.8,
      },
    ],
    lines: [
      { path: bend([MIDDLE - 4, 26], [MIDDLE - 62, 60], [MIDDLE - 66, 132]), widthMm: 1.2, shade: 0.78 },
      { path: bend([MIDDLE + 4, 26], [MIDDLE + 62, 60], [MIDDLE + 66, 132]), widthMm: 1.2, shade: 0.78 },
      { path: bend([MIDDLE - 82, 128], [MIDDLE, 152], [MIDDLE + 82, 128]), widthMm: 1.6, shade: 0.66 },
      { path: bend([MIDDLE - 80, 142], [MIDDLE, 186], [MIDDLE + 80, 142]), widthMm: 0.9, shade: 0.86 },
    ],
    folds: [],
    rounded: { mm: 9, shade: 0.82 },
    light: (x) => 0.5 + 0.5 * lightOfRound((x - MIDDLE) / (RADIUS + 6)),
    areas: [
      {
        name: "Front",
        limits: { x: -56, y: 10, width: 112, height: 56 },
        edges: { x: -70, y: -40, width: 140, height: 120 },
        below: "the button",
        seams: [],
        surfaces: [roundSurface({ origin: [MIDDLE, 54], radiusMm: RADIUS, facing: 0, sagMm: 5 })],
      },
    ],
    places: [
      { name: "middle of the front", area: "Front", at: [0, 18] },
      { name: "low on the front", area: "Front", at: [0, 30] },
    ],
  }),
});
