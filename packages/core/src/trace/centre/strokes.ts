import { inStretches, workSlice, type Work } from "../../maths/work";
import { newGray, type Gray } from "../../raster/types";
import { squaredDistanceTo } from "../../region/distance";
import { resampleGray } from "../../resample/resample";

/** What is dark, parted into strokes and what is too wide for one. */
export interface Strokes {
  /** The picture at so many times its size that a stroke of a pixel hangs together and a gap of one is open. */
  readonly fine: Gray;
  readonly times: number;
  /** Pixels of strokes in it, 0 or 1. */
  readonly mask: Uint8Array;
  /** The picture without them, at its own size. */
  readonly rest: Gray;
}

/** A picture is looked at three times as large where that has no more than so many pixels. */
const [TIMES, MOST_FINE] = [3, 16e6];
/** A patch is a stroke when it is so many times longer than it is wide: a dot is not, nor what is left at a wide shape's corner. */
const LONG = 2;

/**
 * Parts what is dark by its width: what no disc of a diameter fits into is a stroke. Leftovers at the corners of wide
 * shapes, and dots, are none.
 *
 * @param widest  in pixels
 */
export function* strokesIn(gray: Gray, threshold: number, widest: number): Work<Strokes> {
  const times = gray.data.length * TIMES * TIMES <= MOST_FINE ? TIMES : 1;
  const [width, height] = [gray.width * times, gray.height * times];
  const fine = times > 1 ? yield* workSlice(resampleGray(gray, width, height, "bicubic"), 0, 0.2) : gray;
  const bare = fine.data.map((g) => +(g >= threshold));
  const radius = (widest * times) / 2;
  const depth = yield* workSlice(squaredDistanceTo(bare, width, height), 0.2, 0.45);
  const core = new Uint8Array(bare.length);
  yield* inStretches(core.length, (from, to) => {
    for (let i = from; i < to; i++) core[i] = +(bare[i] === 0 && depth[i] > (radius + 0.5) * (radius + 0.5));
  });
  const wide = yield* workSlice(squaredDistanceTo(core, width, height), 0.45, 0.7);
  const mask = new Uint8Array(bare.length);
  yield* inStretches(core.length, (from, to) => {
    for (let i = from; i < to; i++) mask[i] = +(!bare[i] && wide[i] > (radius + 1) * (radius + 1));
  });
  yield* workSlice(withoutStubs(mask, depth, width), 0.7, 0.9);
  const rest = yield* workSlice(withoutStrokes(gray, threshold, mask, bare, times), 0.9, 1);
  return { fine, times, mask, rest };
}

/** Pixels of patches that are looked at between two slices. */
const AT_ONCE = 1 << 16;

/** Takes patches that are no strokes out of a mask. Two pixels hang together over edges and corners. */
function* withoutStubs(mask: Uint8Array, depth: ArrayLike<number>, width: number): Work<void> {
  const known = new Uint8Array(mask.length);
  const patch: number[] = [];
  let looked = 0;
  for (let i = 0; i < mask.length; i++) {
    if (i % AT_ONCE === 0) yield i / mask.length;
    if (!mask[i] || known[i]) continue;
    patch.length = 0;
    patch.push(i);
    known[i] = 1;
    let deepest = 0;
    for (const p of patch) {
      if (++looked % AT_ONCE === 0) yield i / mask.length;
      if (depth[p] > deepest) deepest = depth[p];
      const x = p % width;
      for (let v = -width; v <= width; v += width)
        for (let u = x > 0 ? -1 : 0; u <= (x < width - 1 ? 1 : 0); u++) {
          const q = p + v + u;
          if (mask[q] !== 1 || known[q]) continue;
          known[q] = 1;
          patch.push(q);
        }
    }
    // A line of one pixel is one pixel from what is bare.
    const own = 2 * Math.sqrt(deepest) - 1;
    if (patch.length < LONG * own * own) for (const p of patch) mask[p] = 0;
  }
}

/** A picture without its strokes: white where more of a pixel's dark is of a stroke than of anything wide. */
function* withoutStrokes(
  { width, height, data }: Gray,
  threshold: number,
  mask: Uint8Array,
  bare: Uint8Array,
  times: number,
): Work<Gray> {
  const rest = newGray(width, height);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % 64 === 0) yield y / height;
    for (let x = 0; x < width; x++, i++) {
      let [strokes, others] = [0, 0];
      for (let v = 0; v < times; v++)
        for (let u = 0; u < times; u++) {
          const j = (y * times + v) * width * times + x * times + u;
          strokes += mask[j];
          others += +(!mask[j] && !bare[j]);
        }
      // A gap between strokes that only the larger picture shows is none of the rest.
      const goes = strokes > others || (others === 0 && data[i] < threshold);
      rest.data[i] = goes ? 255 : data[i];
    }
  }
  return rest;
}
