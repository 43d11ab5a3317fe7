import { inStretches, workSlice, rowsAtOnce, type Work } from "../maths/work";
import { type Rect } from "../raster/types";
import { flood } from "../region/flood";
import { Alike, wordsOf } from "./alike";
import { pixelAt, type At } from "../path/frame";
import { takeAway, type Clearing } from "./clearing";

/** An enclosed island of background inside the art. */
export interface Gap extends Rect {
  readonly pixels: number;
  /** A pixel of it, the topmost, then leftmost. */
  readonly seed: readonly [number, number];
  /** Taken away, or left for now. */
  readonly taken: boolean;
  /** Which of the wish's `but` points lie in it and turn it round. */
  readonly by: readonly number[];
}

export interface GapWish {
  /** Where the background was picked. */
  readonly like: At;
  /** In hundredths of OKLab. */
  readonly tolerance: number;
  /** Islands from this size are taken; null takes none. */
  readonly smallestPixels: number | null;
  /** Points in islands that are to be the other way round. */
  readonly but: readonly At[];
}

// Thresholds: what they decide is measured by `npm run clears`.

/** Islands of fewer pixels are noise, not gaps, and are not listed. */
export const LEAST_GAP = 6;
/** Islands between two slices: most are small. */
const AT_ONCE = 4096;

/** What a pixel of the gap plane means. */
export const GAP_TAKEN = 1;
export const GAP_LEFT = 2;

/**
 * Finds every enclosed island of the picked colour (over edges, four neighbours; one that touches the picture's
 * edge is not enclosed) in what is still there, and takes away those that are wished.
 *
 * @returns the islands, largest first, and for each pixel 0, `GAP_TAKEN` or `GAP_LEFT`
 */
export function* takeGaps(
  clearing: Clearing,
  { like, tolerance, smallestPixels, but }: GapWish,
): Work<{ gaps: Gap[]; plane: Uint8Array }> {
  const { source, data } = clearing;
  const { width, height } = source;
  const plane = new Uint8Array(width * height);
  const at = pixelAt(clearing, like);
  if (!at) return { gaps: [], plane };
  const words = wordsOf(source.data);
  const alike = new Alike(words[at[1] * width + at[0]] & 0xffffff, tolerance);
  const [OPEN, SEEN, SMALL] = [3, 4, 0];
  yield* workSlice(
    inStretches(plane.length, (from, to) => {
      for (let i = from; i < to; i++)
        if (data[i * 4 + 3] !== 0 && alike.has(words[i] & 0xffffff) === 1) plane[i] = OPEN;
    }),
    0,
    0.5,
  );
  const atOnce = rowsAtOnce(width);
  const found: { gap: Omit<Gap, "taken" | "by">; index: number; by: number[] }[] = [];
  for (let i = 0, told = 0; i < plane.length; i++) {
    if (i === told) {
      told += atOnce * width;
      yield 0.5 + (0.4 * i) / plane.length;
    }
    if (plane[i] !== OPEN) continue;
    // Met from the top left, a pixel with nothing to its right and below stands alone: grain, and mostly that.
    if (plane[i + width] !== OPEN && (plane[i + 1] !== OPEN || (i + 1) % width === 0)) {
      plane[i] = SMALL;
      continue;
    }
    const filled = yield* flood(plane, width, height, [i], OPEN, SEEN);
    const enclosed =
      filled.x > 0 &&
      filled.y > 0 &&
      filled.x + filled.width < width &&
      filled.y + filled.height < height &&
      filled.pixels >= LEAST_GAP;
    if (!enclosed) yield* flood(plane, width, height, [i], SEEN, SMALL);
    else found.push({ gap: { ...filled, seed: [i % width, Math.floor(i / width)] }, index: i, by: [] });
  }
  // Each point turns the island that it lies in: told by flooding that island to another value and back.
  for (const [n, point] of but.entries()) {
    const p = pixelAt(clearing, point);
    const i = p ? p[1] * width + p[0] : -1;
    if (i < 0 || plane[i] !== SEEN) continue;
    const MARKED = 5;
    yield* flood(plane, width, height, [i], SEEN, MARKED);
    found.find(({ index }) => plane[index] === MARKED)?.by.push(n);
    yield* flood(plane, width, height, [i], MARKED, SEEN);
  }
  const gaps: Gap[] = [];
  for (const [k, { gap, index, by }] of found.entries()) {
    if (k % AT_ONCE === 0) yield 0.9 + (0.05 * k) / found.length;
    const byRule = smallestPixels !== null && gap.pixels >= smallestPixels;
    const taken = byRule !== by.length > 0;
    yield* flood(plane, width, height, [index], SEEN, taken ? GAP_TAKEN : GAP_LEFT);
    gaps.push({ ...gap, taken, by });
  }
  yield* workSlice(
    inStretches(plane.length, (from, to) => {
      for (let i = from; i < to; i++) if (plane[i] === GAP_TAKEN) takeAway(clearing, i);
    }),
    0.95,
    1,
  );
  return { gaps: gaps.sort((a, b) => b.pixels - a.pixels || a.y - b.y || a.x - b.x), plane };
}
