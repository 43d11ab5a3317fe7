import { mixture } from "../colour/mixture";

// Thresholds: what they decide is measured by `npm run films`, flat drawings.

/** Luma and two differences of colour. */
export type Sharp = readonly [number, number, number];

export interface Pair {
  readonly one: number;
  readonly other: number;
  readonly part: number;
  /** How far a pixel is from the two's mixtures, as a share of the way between them. */
  readonly off: number;
}

/** How much the two differences of colour count beside luma. */
const COLOUR = 0.6;

/**
 * A colour as luma and two differences of colour, these weakened: JPEG keeps luma of each pixel and blurs the rest over
 * four or more, so what is beside a thin dark stroke colours it. Mixtures of two colours keep their shares.
 *
 * @see ITU-R BT.601
 */
export function sharply(codes: ArrayLike<number>, at = 0): Sharp {
  const [r, g, b] = [codes[at], codes[at + 1], codes[at + 2]];
  const luma = 0.299 * r + 0.587 * g + 0.114 * b;
  return [luma, 0.564 * COLOUR * (b - luma), 0.713 * COLOUR * (r - luma)];
}

export const bestPair = (pixel: Sharp, centres: readonly Sharp[], among: readonly number[]): Pair =>
  bestOf(
    pixel,
    centres,
    among.flatMap((one, k) => among.slice(k + 1).map((other) => [one, other] as const)),
  );

export function bestOf(
  pixel: Sharp,
  centres: readonly Sharp[],
  pairs: readonly (readonly [number, number])[],
): Pair {
  let best: Pair = { one: pairs[0][0], other: pairs[0][0], part: 1, off: Infinity };
  let least = Infinity;
  for (const [one, other] of pairs) {
    const { share, off, whole } = mixture(pixel, centres[one], centres[other]);
    const part = Math.min(1, Math.max(0, share));
    // Beyond either end the pixel is off by what is left as well; counted in code values, as pairs differ in length.
    const distance = Math.sqrt((off * off + (share - part) * (share - part)) * whole);
    if (distance < least) [least, best] = [distance, { one, other, part, off: distance / Math.sqrt(whole) }];
  }
  return best;
}
