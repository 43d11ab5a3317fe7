import { fitDrawn } from "@hardline/core/fit/refine/refine";
import { runToEnd } from "@hardline/core/maths/work";
import { coverOfPolygon } from "@hardline/core/path/cover";
import { polygonOf, roundKnots, type Knot } from "@hardline/core/path/outline";
import { type Gray } from "@hardline/core/raster/types";
import { outlinesOf } from "@hardline/core/trace/outlines";

export type Point = readonly [number, number];

/** A shape whose outline is known, in pixels of a small picture. */
export interface KnownShape {
  readonly name: string;
  readonly outline: readonly Point[];
  /** Lines and curves that describe it. */
  readonly pieces: number;
  /** No rule was set by it. */
  readonly unseen?: true;
}

export const SIDE = 160;
const [MX, MY] = [80.3, 79.6];

const around = (n: number, radius: (k: number) => number, turn: number): Point[] =>
  Array.from({ length: n }, (_, k) => {
    const a = turn + (2 * Math.PI * k) / n;
    return [MX + radius(k) * Math.cos(a), MY + radius(k) * Math.sin(a)] as const;
  });
const polygon = (n: number, r: number, turn: number) => around(n, () => r, turn);
const star = (n: number, r: number, inner: number, turn: number) =>
  around(2 * n, (k) => (k % 2 ? inner : r), turn);

/** A band that winds outwards. */
function spiral(turns: number, wide: number): Point[] {
  const steps = 400;
  const arm = (off: number) =>
    Array.from({ length: steps + 1 }, (_, k): Point => {
      const a = (2 * Math.PI * turns * k) / steps;
      const r = 8 + (62 * k) / steps + off;
      return [MX + r * Math.cos(a), MY + r * Math.sin(a)];
    });
  return [...arm(wide / 2), ...arm(-wide / 2).reverse()];
}

/** A wheel with square teeth. */
const wheel = (teeth: number, r: number, depth: number): Point[] =>
  Array.from({ length: teeth }, (_, k) => {
    const at = (share: number, radius: number): Point => {
      const a = 0.21 + (2 * Math.PI * (k + share)) / teeth;
      return [MX + radius * Math.cos(a), MY + radius * Math.sin(a)];
    };
    return [at(0, r - depth), at(0.06, r), at(0.44, r), at(0.5, r - depth)];
  }).flat();

const rounded = (x: number, y: number, w: number, h: number, r: number): Point[] => {
  const c = r * 0.5522847498;
  const knots: Knot[] = [
    { at: [x + r, y], in: [-c, 0] },
    { at: [x + w - r, y], out: [c, 0] },
    { at: [x + w, y + r], in: [0, -c] },
    { at: [x + w, y + h - r], out: [0, c] },
    { at: [x + w - r, y + h], in: [c, 0] },
    { at: [x + r, y + h], out: [-c, 0] },
    { at: [x, y + h - r], in: [0, c] },
    { at: [x, y + r], out: [0, -c] },
  ];
  return polygonOf(knots);
};

export const SHAPES: readonly KnownShape[] = [
  { name: "circle of 92", outline: polygonOf(roundKnots(34.2, 33.7, 92, 92)), pieces: 4 },
  { name: "circle of 13", outline: polygonOf(roundKnots(70.2, 73.7, 13, 13)), pieces: 4 },
  { name: "ellipse", outline: polygonOf(roundKnots(18.2, 49.7, 122, 60)), pieces: 4 },
  { name: "square, askew", outline: polygon(4, 60, 0.1), pieces: 4 },
  { name: "hexagon", outline: polygon(6, 64, 0.2), pieces: 6 },
  { name: "star of five", outline: star(5, 70, 28, 0.3), pieces: 10 },
  { name: "rounded square", outline: rounded(20.4, 22.2, 110, 104, 24), pieces: 8 },
  { name: "triangle", outline: polygon(3, 66, 0.45), pieces: 3 },
  { name: "spiral, two turns", outline: spiral(2, 11), pieces: 18 },
  { name: "heptagon", outline: polygon(7, 61, 0.77), pieces: 7, unseen: true },
  { name: "star of seven", outline: star(7, 68, 40, 0.9), pieces: 14, unseen: true },
  { name: "wheel of nine teeth", outline: wheel(9, 68, 16), pieces: 36, unseen: true },
  { name: "flat ellipse", outline: polygonOf(roundKnots(12.6, 61.3, 134, 37)), pieces: 4, unseen: true },
  { name: "pill", outline: rounded(15.3, 55.8, 128, 44, 21.9), pieces: 8, unseen: true },
  { name: "spiral, three turns", outline: spiral(3, 8), pieces: 26, unseen: true },
];

export interface Measured {
  /** 99th percentile of the distance between traced and true outline, the larger way round, in pixels. */
  readonly off: number;
  readonly pieces: number;
}

export function measure({ outline }: KnownShape, tolerance: number): Measured {
  const cover = runToEnd(
    coverOfPolygon(
      outline.map(([x, y]): [number, number] => [x, y]),
      SIDE,
      SIDE,
    ),
  );
  const picture: Gray = { width: SIDE, height: SIDE, data: cover.map((c) => 255 - c) };
  const { points, starts } = runToEnd(outlinesOf(picture, 128));
  const lines = [points.subarray(0, 2 * starts[1])];
  const [knots] = runToEnd(fitDrawn(lines, picture, 128, { tolerance, corners: 0.5 }));
  const traced = polygonOf(knots);
  return { off: Math.max(p99(dense(traced), outline), p99(dense(outline), traced)), pieces: knots.length };
}

/** Points a tenth of a pixel apart. */
const dense = (line: readonly Point[]): Point[] =>
  line.flatMap((p, k) => {
    const q = line[(k + 1) % line.length];
    const n = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1]) / 0.1));
    return Array.from({ length: n }, (_, i): Point => [
      p[0] + ((q[0] - p[0]) * i) / n,
      p[1] + ((q[1] - p[1]) * i) / n,
    ]);
  });

function p99(points: readonly Point[], line: readonly Point[]): number {
  const off = points.map(([px, py]) => {
    let best = Infinity;
    for (let k = 0; k < line.length; k++) {
      const [[ax, ay], [bx, by]] = [line[k], line[(k + 1) % line.length]];
      const [dx, dy] = [bx - ax, by - ay];
      const square = dx * dx + dy * dy;
      const t = square > 0 ? Math.min(1, Math.max(0, ((px - ax) * dx + (py - ay) * dy) / square)) : 0;
      best = Math.min(best, (px - ax - t * dx) ** 2 + (py - ay - t * dy) ** 2);
    }
    return Math.sqrt(best);
  });
  return off.sort((a, b) => a - b)[Math.floor(0.99 * (off.length - 1))];
}
