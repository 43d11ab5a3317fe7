import { degreesOf } from "../maths/steady";
import { type Knot } from "../path/outline";
import { type Rect } from "../raster/types";
import { bend, mirrored, movedPath, openPath } from "./shapes";
import { flatSurface, type Point } from "./surface";
import { type Drawn, type Fold, type Part, type PrintArea, type UsualPlace } from "./thing";

/** A garment with sleeves, laid flat: measures in mm. */
export interface Cut {
  /** Across under the arms. */
  readonly chest: number;
  /** From where collar and shoulder meet down to the hem. */
  readonly length: number;
  /** Half of the neck's width, and how far its middle hangs below where collar and shoulder meet. */
  readonly neck: number;
  readonly neckDrop: number;
  /** From the shoulder down the sleeve, and across its end. */
  readonly sleeve: number;
  readonly cuff: number;
  /** How steeply sleeves hang: run across for each mm down. */
  readonly slant: number;
  /** A band at the sleeves' ends and the hem. */
  readonly ribMm?: number;
  readonly collarMm: number;
}

export interface GarmentWish {
  readonly cut: Cut;
  readonly side: "front" | "back";
  /** What may be printed across at most, and how far down below the collar. */
  readonly printWidth: number;
  readonly places: readonly UsualPlace[];
  readonly more?: (
    middle: number,
    top: number,
    cut: Cut,
  ) => {
    readonly parts: readonly Part[];
    readonly lines: Drawn["lines"];
    readonly seams: PrintArea["seams"];
  };
}

/** Room about a thing in its picture. */
const ROOM = 45;

/** A shirt or top with two sleeves: its body, collar, sleeves, seams and folds, and three areas to print on. */
export function garment({ cut, side, printWidth, places, more }: GarmentWish): Drawn {
  const { chest, length, neck, neckDrop, sleeve, cuff, slant, ribMm = 0, collarMm } = cut;
  const half = chest / 2;
  const shoulder: Point = [0.86 * half, 0.075 * chest];
  const armpit: Point = [half, 0.075 * chest + 0.42 * chest];
  const long = Math.sqrt(slant * slant + 1);
  const [ux, uy] = [slant / long, 1 / long];
  const outer: Point = [shoulder[0] + sleeve * ux, shoulder[1] + sleeve * uy];
  const inner: Point = [outer[0] - cuff * uy, outer[1] + cuff * ux];
  const hem = [0.98 * half, length] as const;
  const knots: Knot[] = [
    { at: [0, neckDrop], out: [0.62 * neck, 0] },
    { at: [neck, 0], in: [-0.06 * neck, 0.62 * neckDrop] },
    { at: shoulder, out: [0.25 * sleeve * ux, 0.12 * sleeve * uy] },
    { at: outer, in: [-0.3 * sleeve * ux, -0.34 * sleeve * uy] },
    { at: inner },
    {
      at: armpit,
      in: [0.1 * (inner[0] - armpit[0]), 0.25 * (inner[1] - armpit[1])],
      out: [-0.02 * chest, 0.12 * length],
    },
    { at: hem, in: [-0.012 * chest, -0.2 * length] },
    { at: [0, length + 0.008 * length], in: [0.5 * half, 0] },
  ];
  const reach = Math.max(outer[0], half);
  const [middle, top] = [reach + ROOM, ROOM];
  const [widthMm, heightMm] = [2 * middle, length + 2 * ROOM];
  const at = ([x, y]: Point): Point => [middle + x, top + y];
  const place = (path: Parameters<typeof movedPath>[0], flip = false) => movedPath(path, [middle, top], flip);
  const both = (path: Parameters<typeof movedPath>[0]) => [place(path), place(path, true)];
  const armhole = bend(shoulder, [shoulder[0] - 0.03 * chest, armpit[1] - 0.1 * chest], armpit);
  const collar = mirrored([
    { at: [0, neckDrop], out: [0.62 * neck, 0] },
    { at: [neck, 0], in: [-0.06 * neck, 0.62 * neckDrop] },
    { at: [neck + 0.8 * collarMm, 0.35 * collarMm], out: [-0.04 * neck, 0.7 * neckDrop] },
    { at: [0, neckDrop + collarMm], in: [0.66 * neck, 0] },
  ]);
  const inside = mirrored([
    { at: [0, side === "front" ? 0.16 * neck : neckDrop - 1], out: [0.5 * neck, 0] },
    { at: [neck - 1, -3], in: [-0.1 * neck, 0.2 * neck] },
    { at: [neck, 0], out: [-0.06 * neck, 0.62 * neckDrop] },
    { at: [0, neckDrop + 1], in: [0.62 * neck, 0] },
  ]);
  const thin = (path: Parameters<typeof movedPath>[0], shade = 0.8, wide = 1.6) => ({
    path,
    widthMm: wide,
    shade,
  });
  /** Across the sleeve, so far up from its end, and not beyond its edges. */
  const across = (up: number) => {
    const [a, b]: Point[] = [
      [outer[0] - up * ux, outer[1] - up * uy],
      [inner[0] - up * ux, inner[1] - up * uy],
    ];
    const at = (t: number): Point => [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
    return openPath(at(0.03), at(0.95));
  };
  const ribs =
    ribMm > 0
      ? [
          thin(place(openPath([-hem[0], length - ribMm], [hem[0], length - ribMm])), 0.78, 2.2),
          ...both(across(ribMm)).map((p) => thin(p, 0.78, 2.2)),
        ]
      : [
          thin(place(openPath([-hem[0], length - 22], [hem[0], length - 22])), 0.88, 1.2),
          ...both(across(20)).map((p) => thin(p, 0.88, 1.2)),
        ];
  const extra = more?.(middle, top, cut);
  const folds: Fold[] = [-1, 1].flatMap((s) => [
    {
      from: at([s * 0.93 * half, armpit[1] + 8]),
      to: at([s * 0.45 * half, armpit[1] + 0.2 * length]),
      widthMm: 16,
      depth: s * -0.1,
    },
    {
      from: at([s * 0.97 * half, armpit[1] + 0.1 * length]),
      to: at([s * 0.62 * half, armpit[1] + 0.42 * length]),
      widthMm: 22,
      depth: s * 0.075,
    },
    {
      from: at([s * 0.9 * half, 0.95 * length]),
      to: at([s * 0.55 * half, 0.6 * length]),
      widthMm: 26,
      depth: s * -0.06,
    },
    { from: at([s * (neck + 14), 20]), to: at([s * 0.5 * half, 0.3 * length]), widthMm: 15, depth: s * 0.05 },
    {
      from: at([s * (shoulder[0] + 0.1 * sleeve * ux), shoulder[1] + 0.3 * sleeve * uy]),
      to: at([s * (inner[0] + 0.35 * cuff), inner[1] - 12]),
      widthMm: 14,
      depth: s * 0.09,
    },
    {
      from: at([s * (armpit[0] + 0.2 * (inner[0] - armpit[0])), armpit[1] + 0.06 * chest]),
      to: at([s * (outer[0] - 0.25 * cuff), outer[1] - 0.25 * sleeve * uy]),
      widthMm: 12,
      depth: s * -0.08,
    },
  ]);
  folds.push({
    from: at([-0.18 * half, 0.98 * length]),
    to: at([-0.05 * half, 0.52 * length]),
    widthMm: 30,
    depth: 0.05,
  });
  const originY = neckDrop;
  const below = "the collar";
  const limits: Rect = {
    x: -printWidth / 2,
    y: 20,
    width: printWidth,
    height: length - neckDrop - 20 - Math.max(50, ribMm + 25),
  };
  const edges: Rect = { x: -half, y: -neckDrop, width: chest, height: length };
  const seamX = (s: number) =>
    [shoulder, [shoulder[0] - 0.018 * chest, (shoulder[1] + armpit[1]) / 2], armpit].map(([x, y]): Point => [
      s * x,
      y - originY,
    ]);
  const sides = [-1, 1].map((s): Point[] => [
    [s * half, armpit[1] - originY],
    [s * hem[0], length - originY],
  ]);
  const body: PrintArea = {
    ...{ name: side === "front" ? "Front" : "Back", limits, edges, below },
    seams: [seamX(-1), seamX(1), ...sides, ...(extra?.seams ?? [])],
    surfaces: [flatSurface(at([0, originY]))],
  };
  const degrees = degreesOf(ux, uy);
  const end: Point = [(outer[0] + inner[0]) / 2, (outer[1] + inner[1]) / 2];
  const sleeveArea = (s: number, name: string): PrintArea => ({
    name,
    limits: {
      x: -0.4 * cuff,
      y: 40,
      width: 0.8 * cuff,
      height: Math.max(20, sleeve - 50 - Math.max(20, ribMm)),
    },
    edges: { x: -0.5 * cuff, y: 0, width: cuff, height: sleeve },
    below: "the shoulder seam",
    seams: [],
    surfaces: [flatSurface(at([s * (end[0] - sleeve * ux), end[1] - sleeve * uy]), -s * degrees)],
  });
  // On the back the wearer's left is on the left.
  const [right, left] = side === "front" ? ["Left sleeve", "Right sleeve"] : ["Right sleeve", "Left sleeve"];
  return {
    ...{ widthMm, heightMm },
    parts: [
      { path: place(inside), shade: 0.55, behind: true },
      { path: place(mirrored(knots)) },
      { path: place(collar), shade: 0.95 },
      ...(extra?.parts ?? []),
    ],
    lines: [
      thin(
        place(
          bend(
            [-neck - 0.8 * collarMm, 0.35 * collarMm],
            [0, 2 * (neckDrop + collarMm) - 0.35 * collarMm],
            [neck + 0.8 * collarMm, 0.35 * collarMm],
          ),
        ),
        0.82,
        1.2,
      ),
      ...both(armhole).map((p) => thin(p)),
      ...ribs,
      ...(extra?.lines ?? []),
    ],
    folds,
    rounded: { mm: 26, shade: 0.8 },
    areas: [body, sleeveArea(1, right), sleeveArea(-1, left)],
    places: places.map((p) => ({ ...p, area: p.area || body.name })),
  };
}
