import { seeded } from "@hardline/core/maths/seeded";
import { type NestPiece } from "@hardline/core/sheet/arrangement";

/** A set of pieces and the sheet that they go on. */
export interface NestSet {
  readonly name: string;
  readonly pieces: readonly NestPiece[];
  readonly widthMm: number;
  readonly heightMm: number;
  readonly spacingMm: number;
  /** Outlines that leave much of their boxes empty. */
  readonly ragged: boolean;
  /** Rules were set without looking at it. */
  readonly unseen: boolean;
}

type Point = readonly [number, number];

const polar = (count: number, radius: (k: number) => number, turn = 0): Point[] =>
  Array.from({ length: count }, (_, k) => {
    const a = (2 * Math.PI * k) / count + turn;
    return [radius(k) * Math.cos(a), radius(k) * Math.sin(a)];
  });

function pieceOf(points: readonly Point[], turns: readonly number[] = [0, 90, 180, 270]): NestPiece {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  const box = { x: 0, y: 0, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
  const outline = Float64Array.from(points.flatMap(([px, py]) => [px - x, py - y]));
  return { outline, box, count: 10000, turns, mirror: false };
}

const rectangle = (w: number, h: number): Point[] => [
  [0, 0],
  [w, 0],
  [w, h],
  [0, h],
];
const ell = (a: number, t: number): Point[] => [
  [0, 0],
  [t, 0],
  [t, a - t],
  [a, a - t],
  [a, a],
  [0, a],
];
const tee = (a: number, t: number): Point[] => [
  [0, 0],
  [a, 0],
  [a, t],
  [(a + t) / 2, t],
  [(a + t) / 2, a],
  [(a - t) / 2, a],
  [(a - t) / 2, t],
  [0, t],
];
const crescent = (r: number): Point[] => {
  const out = Array.from({ length: 25 }, (_, k): Point => {
    const a = Math.PI * (0.5 + k / 24);
    return [r * Math.cos(a), r * Math.sin(a)];
  });
  const back = Array.from({ length: 23 }, (_, k): Point => {
    const a = Math.PI * (1.5 - (k + 1) / 24);
    return [0.55 * r * Math.cos(a), 0.95 * r * Math.sin(a)];
  });
  return [...out, ...back];
};
const arrow = (l: number): Point[] => [
  [0, 0.35 * l],
  [0.6 * l, 0.35 * l],
  [0.6 * l, 0.1 * l],
  [l, 0.5 * l],
  [0.6 * l, 0.9 * l],
  [0.6 * l, 0.65 * l],
  [0, 0.65 * l],
];
const blob = (r: number, seed: number): Point[] => {
  const chance = seeded(seed);
  const waves = [1, 2, 3, 4].map((n) => ({ n, size: (0.35 * chance()) / n, phase: 6.28 * chance() }));
  return polar(
    60,
    (k) => r * (1 + waves.reduce((s, w) => s + w.size * Math.cos((w.n * k * Math.PI) / 30 + w.phase), 0)),
  );
};
const star = (points: number, r: number, inner: number): Point[] =>
  polar(2 * points, (k) => (k % 2 === 0 ? r : inner * r), -Math.PI / 2);
const mixed = (...shapes: readonly Point[][]): NestPiece[] =>
  shapes.map((s) => ({ ...pieceOf(s), count: Math.ceil(10000 / shapes.length) }));
/** A set in which as many of each are wanted, so that no shape is taken for the others. */
const even = (count: number, ...shapes: readonly Point[][]): NestPiece[] =>
  shapes.map((s) => ({ ...pieceOf(s), count }));

const set = (
  name: string,
  pieces: readonly NestPiece[],
  [widthMm, heightMm]: readonly [number, number],
  { ragged = false, unseen = false, spacingMm = 2 } = {},
): NestSet => ({ name, pieces, widthMm, heightMm, spacingMm, ragged, unseen });

/** Twenty sets; of the last eight, rules know nothing. */
export const NEST_SETS: readonly NestSet[] = [
  set("rectangles", mixed(rectangle(47, 31)), [580, 380]),
  set("discs", mixed(polar(64, () => 24)), [580, 380]),
  set("hexagons", mixed(polar(6, () => 27)), [580, 380]),
  set(
    "triangles",
    mixed([
      [0, 0],
      [52, 0],
      [26, 45],
    ]),
    [580, 380],
    { ragged: true },
  ),
  set("L-shapes", mixed(ell(55, 18)), [580, 380], { ragged: true }),
  set("crescents", mixed(crescent(28)), [580, 380], { ragged: true }),
  set("stars of five", mixed(star(5, 30, 0.45)), [580, 380], { ragged: true }),
  set("arrows", mixed(arrow(60)), [580, 380], { ragged: true }),
  set("three rectangles", even(30, rectangle(60, 40), rectangle(33, 21), rectangle(90, 25)), [400, 300]),
  set("blobs", even(12, blob(24, 5), blob(20, 9), blob(26, 12)), [280, 200]),
  set("L and T", even(40, ell(50, 17), tee(48, 15)), [400, 300], { ragged: true }),
  set("small discs, wide apart", mixed(polar(48, () => 9)), [300, 200], { spacingMm: 5 }),
  set("T-shapes", mixed(tee(50, 14)), [580, 380], { ragged: true, unseen: true }),
  set(
    "right-angled triangles",
    mixed([
      [0, 0],
      [60, 0],
      [0, 35],
    ]),
    [580, 380],
    { ragged: true, unseen: true },
  ),
  set(
    "chevrons",
    mixed([
      [0, 0],
      [25, 18],
      [50, 0],
      [50, 22],
      [25, 40],
      [0, 22],
    ]),
    [580, 380],
    { ragged: true, unseen: true },
  ),
  set("stars of four", mixed(star(4, 30, 0.35)), [580, 380], { ragged: true, unseen: true }),
  set(
    "crescents and discs",
    even(
      60,
      crescent(24),
      polar(48, () => 11),
    ),
    [300, 220],
    { ragged: true, unseen: true },
  ),
  set("octagons", mixed(polar(8, () => 22)), [500, 300], { unseen: true }),
  set(
    "five rectangles",
    even(15, rectangle(30, 44), rectangle(70, 20), rectangle(51, 51), rectangle(15, 80), rectangle(25, 25)),
    [330, 260],
    { unseen: true },
  ),
  set("other blobs", even(14, blob(22, 31), blob(25, 44), blob(18, 57), blob(21, 68)), [300, 220], {
    unseen: true,
  }),
];
