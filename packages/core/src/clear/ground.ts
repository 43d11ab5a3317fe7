import { percentile } from "../maths/percentile";
import { inStretches, rowsAtOnce, workSlice, type Work } from "../maths/work";
import { TINT, type Rgba } from "../raster/types";
import { Sums, Surface } from "./surface";

// Thresholds: what they decide is measured by `npm run losses` and `npm run translucent`.

/** The ground is taken as even over this share of the picture's shorter side; at first, before it is known what is ground, over more. */
export const CELL = 1 / 24;
const WIDE_CELL = 1 / 2;
const LEAST_CELL = 8;
/** What differs from a first idea of the ground by more than so many times its usual grain is not ground. */
const OUTLIER = 3;
/** What was taken is unlike the ground from so many code values on at least. */
export const UNLIKE = 9;
/** A ground whose own pixels are usually further from it, in code values, has too many colours. */
const COARSE = 16;
/** Distances from the ground, in code values, are counted up to here. */
export const MOST_APART = 442;

/** The ground before which art stands, as a smooth surface. */
export interface Ground {
  readonly surface: Surface;
  /** How far its own pixels usually are from it, in code values. */
  readonly grain: number;
  /** Whether there was any of it to tell it by. */
  readonly known: boolean;
}

/** The pixels that were taken from a picture: 1 where little is left of what was there. @param left  RGBA */
export function* bareOf({ data }: Rgba, left: Uint8Array, meant: Uint8Array | null): Work<Uint8Array> {
  const bare = new Uint8Array(data.length / 4);
  yield* inStretches(bare.length, (from, to) => {
    for (let i = from; i < to; i++)
      bare[i] = left[4 * i + 3] < TINT && data[4 * i + 3] >= 128 && !meant?.[i] ? 1 : 0;
  });
  return bare;
}

/**
 * The ground as what was taken tells it: first over half of the picture, then closer, without what differs.
 *
 * @param apart  gets how far each bare pixel is from it, in code values
 * @returns null where nothing was taken, or the ground has too many colours
 */
export function* groundTold(source: Rgba, bare: Uint8Array, apart: Uint16Array): Work<Ground | null> {
  const side = Math.min(source.width, source.height);
  let ground = yield* workSlice(groundOf(source, bare, null, side * WIDE_CELL, apart), 0, 0.4);
  for (const at of [0.4, 0.7]) {
    const most = Math.max(UNLIKE, OUTLIER * ground.grain);
    const isGround = (i: number): boolean => apart[i] <= most;
    ground = yield* workSlice(groundOf(source, bare, isGround, side * CELL, apart), at, at + 0.3);
  }
  return ground.known && ground.grain <= COARSE ? ground : null;
}

/** The ground as those of the bare pixels tell it that are ground. @param cellSide  in pixels  @param apart  as `groundTold` */
export function* groundOf(
  { width, height, data }: Rgba,
  bare: Uint8Array,
  isGround: ((i: number) => boolean) | null,
  cellSide: number,
  apart: Uint16Array,
): Work<Ground> {
  const cell = Math.max(LEAST_CELL, Math.round(cellSide));
  const sums = new Sums(width, height, cell);
  const atOnce = rowsAtOnce(4 * width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.4 * y) / height;
    for (let x = 0; x < width; x++, i++)
      if (bare[i] && (!isGround || isGround(i)))
        sums.add(Math.floor(x / cell), Math.floor(y / cell), data, 4 * i);
  }
  const known = !sums.isEmpty;
  if (!known) sums.add(0, 0, data, 0);
  const surface = new Surface(sums, cell);
  const counts = new Float64Array(MOST_APART + 1);
  const of = new Float64Array(3);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.4 + (0.6 * y) / height;
    for (let x = 0; x < width; x++, i++) {
      if (!bare[i]) continue;
      surface.at(x, y, of);
      const [r, g, b] = [data[4 * i] - of[0], data[4 * i + 1] - of[1], data[4 * i + 2] - of[2]];
      apart[i] = Math.round(Math.sqrt(r * r + g * g + b * b));
      counts[apart[i]]++;
    }
  }
  return { surface, grain: percentile(counts, 0.5), known };
}
