import { rectangleKnots } from "../../path/outline";
import { type KnotPath } from "../../path/pathSet";
import { openPath } from "../shapes";
import { flat } from "../flat";
import { defineThing, ETCHED } from "../thing";

/** A handle: a band bent over, its ends sewn on. */
const handle = (down: number): KnotPath => ({
  closed: true,
  knots: [
    { at: [100, 300 + down] },
    { at: [100, 130 + down], out: [0, -150] },
    { at: [280, 130 + down], in: [0, -150] },
    { at: [280, 300 + down] },
    { at: [252, 300 + down] },
    { at: [252, 136 + down], out: [0, -112] },
    { at: [128, 136 + down], in: [0, -112] },
    { at: [128, 300 + down] },
  ],
});

export const toteBag = defineThing({
  ...{ id: "tote-bag", title: "Tote bag", group: "Cloths and bags" },
  ...{ stuff: "cloth", colour: "#e9dfc8", ink: "onTop", etched: ETCHED.cloth, sizes: [] },
  draw: () =>
    flat({
      ...{ widthMm: 380, heightMm: 680 },
      outline: { knots: rectangleKnots(0, 260, 380, 420, 6, 6), closed: true },
      origin: [190, 260],
      limits: { x: -140, y: 45, width: 280, height: 330 },
      seams: [
        [
          [-190, 28],
          [190, 28],
        ],
      ],
      places: [
        { name: "middle", area: "Front", at: [0, 80] },
        { name: "low on the right", area: "Front", at: [95, 260] },
      ],
      more: {
        parts: [
          { path: handle(0), shade: 0.72, behind: true },
          { path: handle(14), shade: 0.93 },
        ],
        lines: [{ path: openPath([0, 288], [380, 288]), widthMm: 1.2, shade: 0.82 }],
        folds: [
          { from: [60, 330], to: [110, 640], widthMm: 20, depth: 0.07 },
          { from: [320, 320], to: [270, 650], widthMm: 24, depth: -0.07 },
          { from: [180, 290], to: [205, 480], widthMm: 18, depth: 0.05 },
        ],
        rounded: { mm: 16, shade: 0.84 },
      },
    }),
});
