import { type Point } from "./lens";

interface Size {
  readonly width: number;
  readonly height: number;
}

/** What four corners tell of a rectangle in the room. */
export interface Told {
  /** Width by height. */
  readonly proportion: number;
  /** The camera's focal length in pixels; null where the sides are too nearly parallel to tell. */
  readonly focal: number | null;
}

/** A camera's focal length is within these shares of a picture's longer side. */
const [LEAST_FOCAL, MOST_FOCAL] = [0.4, 6];
/** What a phone's usually is, in longer sides. */
export const USUAL_FOCAL = 0.9;

/**
 * The proportion of a rectangle that is seen askew, its corners clockwise from the upper left, by a camera without skew
 * whose axis meets the picture's middle.
 * @see Zhang & He, "Whiteboard scanning and image enhancement", Digital Signal Processing 17, 2007, section 4
 */
export function toldBy(corners: readonly Point[], picture: Size): Told {
  const [m1, m2, m4, m3] = corners.map(([x, y]): Vec => [x - picture.width / 2, y - picture.height / 2, 1]);
  const k2 = dot(cross(m1, m4), m3) / dot(cross(m2, m4), m3);
  const k3 = dot(cross(m1, m4), m2) / dot(cross(m3, m4), m2);
  const [n2, n3] = [less(m2, m1, k2), less(m3, m1, k3)];
  const long = Math.max(picture.width, picture.height);
  const square = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2]);
  const known =
    Number.isFinite(square) && square > (LEAST_FOCAL * long) ** 2 && square < (MOST_FOCAL * long) ** 2;
  const f2 = known ? square : (USUAL_FOCAL * long) ** 2;
  const length = (n: Vec): number => (n[0] * n[0] + n[1] * n[1]) / f2 + n[2] * n[2];
  const proportion = Math.sqrt(length(n2) / length(n3));
  return {
    proportion: Number.isFinite(proportion) ? proportion : 1,
    focal: known ? Math.sqrt(square) : null,
  };
}

export type Vec = readonly [number, number, number];
export const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec, b: Vec): Vec => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const less = (m: Vec, from: Vec, k: number): Vec => [
  k * m[0] - from[0],
  k * m[1] - from[1],
  k * m[2] - from[2],
];

/** Papers that are known by their proportion, longer side by shorter: how far a found one may differ from it. */
const NEAR = 0.025;
export const KNOWN_PAPERS = [
  { name: "A4 and its kin", proportion: Math.SQRT2 },
  { name: "Letter", proportion: 11 / 8.5 },
  { name: "Card, 85 × 55", proportion: 85 / 55 },
  { name: "Bank card", proportion: 85.6 / 53.98 },
  { name: "Cheque, 150 × 70", proportion: 150 / 70 },
  { name: "Screen, 16 to 9", proportion: 16 / 9 },
  { name: "Photograph, 3 to 2", proportion: 1.5 },
  { name: "Square", proportion: 1 },
] as const;

/** The known paper that a proportion is nearest to, lying or standing; null where none is near. */
export function knownPaper(proportion: number): (typeof KNOWN_PAPERS)[number] | null {
  const lying = Math.max(proportion, 1 / proportion);
  const off = (p: number): number => Math.abs(lying / p - 1);
  const best = KNOWN_PAPERS.reduce((a, b) => (off(b.proportion) < off(a.proportion) ? b : a));
  return off(best.proportion) <= NEAR ? best : null;
}
