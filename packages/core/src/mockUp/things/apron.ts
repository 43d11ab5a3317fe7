import { mirroredAt, openPath } from "../shapes";
import { type KnotPath } from "../../path/pathSet";
import { flat } from "../flat";
import { defineThing, ETCHED } from "../thing";

/** The strap about the neck, and the two ties. */
const STRAP: KnotPath = {
  closed: true,
  knots: [
    { at: [222, 30] },
    { at: [240, -40], out: [30, -190] },
    { at: [460, -40], in: [-30, -190] },
    { at: [478, 30] },
    { at: [450, 30] },
    { at: [434, -36], out: [-34, -150] },
    { at: [266, -36], in: [34, -150] },
    { at: [250, 30] },
  ],
};
const TIES: readonly KnotPath[] = [-1, 1].map((s) => {
  const at = (x: number, y: number) => [350 + s * x, y] as const;
  return {
    closed: true,
    knots: [
      { at: at(345, 292) },
      { at: at(425, 470), in: [0, -90] },
      { at: at(447, 470), out: [0, -100] },
      { at: at(345, 318) },
    ],
  };
});

export const apron = defineThing({
  ...{ id: "apron", title: "Apron", group: "Cloths and bags" },
  ...{ stuff: "cloth", colour: "#2f3b35", ink: "onTop", etched: ETCHED.cloth, sizes: [] },
  draw: () =>
    flat({
      ...{ widthMm: 700, heightMm: 860 },
      outline: mirroredAt(350, [
        { at: [0, 0] },
        { at: [135, 0], out: [6, 120] },
        { at: [350, 290], in: [-120, -20] },
        { at: [350, 850], out: [0, 8] },
        { at: [0, 860] },
      ]),
      origin: [350, 0],
      limits: { x: -125, y: 30, width: 250, height: 320 },
      name: "Bib",
      seams: [
        [
          [-230, 420],
          [230, 420],
        ],
      ],
      places: [
        { name: "middle of the bib", area: "Bib", at: [0, 70] },
        { name: "left of the bib", area: "Bib", at: [70, 60] },
      ],
      roomMm: 190,
      more: {
        parts: [
          { path: STRAP, shade: 0.8, behind: true },
          { path: TIES, shade: 0.8, behind: true },
          {
            path: {
              knots: [{ at: [120, 420] }, { at: [580, 420] }, { at: [580, 640] }, { at: [120, 640] }],
              closed: true,
            },
            shade: 0.98,
          },
        ],
        lines: [
          {
            path: openPath([120, 420], [580, 420], [580, 640], [120, 640], [120, 420]),
            widthMm: 1.6,
            shade: 0.75,
          },
          { path: openPath([350, 420], [350, 640]), widthMm: 1.4, shade: 0.82 },
        ],
        folds: [
          { from: [170, 330], to: [120, 780], widthMm: 30, depth: 0.09 },
          { from: [540, 320], to: [590, 760], widthMm: 26, depth: -0.08 },
          { from: [350, 660], to: [330, 850], widthMm: 34, depth: 0.07 },
        ],
        rounded: { mm: 18, shade: 0.85 },
      },
    }),
});
