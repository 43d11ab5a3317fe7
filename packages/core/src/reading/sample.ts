import { runToEnd } from "../maths/work";
import { greyOf } from "../colour/grey";
import { halveRgba } from "../raster/halve";
import { cropped } from "../raster/crop";
import { type Gray, type Rgba } from "../raster/types";

// Thresholds: what they decide is measured by `npm run kinds`.

/** Kinds are told from a picture of at most so many pixels, and from a part of it at its own size, so many pixels a side. */
const SMALL_PIXELS = 260000;
const CROP_SIDE = 512;

/** What measuring looks at: the whole picture made small, and its middle pixel for pixel. */
export interface Sample {
  readonly whole: Rgba;
  readonly small: Rgba;
  /** Up to four parts of the picture as they are, in grey, none of them clear. */
  readonly parts: readonly Gray[];
}

export function sampleOf(whole: Rgba): Sample {
  let small = whole;
  while (small.width * small.height > SMALL_PIXELS && small.width > 1 && small.height > 1)
    small = halveRgba(small);
  const side = { width: Math.min(CROP_SIDE, whole.width), height: Math.min(CROP_SIDE, whole.height) };
  const at = (u: number, v: number) =>
    runToEnd(
      greyOf(
        cropped(whole, {
          x: Math.floor((whole.width - side.width) * u),
          y: Math.floor((whole.height - side.height) * v),
          ...side,
        }),
      ),
    );
  const big = whole.width * whole.height > 2 * CROP_SIDE * CROP_SIDE;
  const parts = big ? [at(0.5, 0.5), at(0.2, 0.3), at(0.8, 0.3), at(0.5, 0.85)] : [at(0.5, 0.5)];
  return { whole, small, parts };
}
