import { runToEnd } from "../maths/work";
import { greyOf } from "../colour/grey";
import { type Gray, type Rgba } from "../raster/types";

// Thresholds: what they decide is measured by `npm run kinds`.

/** Slopes are counted in so many bins. */
const BINS = 201;
/** A window of 25 bins is two and a half degrees. */
const HALF = 12;
/** Tangent of the widest angle that is taken for a skew: ten degrees. */
const WIDEST = 0.1763;

/**
 * By how many degrees a scan is turned, counter-clockwise: the angle that most strong edges near level or upright
 * share. Null when no angle stands out.
 * @see Scharr, "Optimale Operatoren in der Digitalen Bildverarbeitung", 2000 (the slopes)
 */
export function skewOf(small: Rgba): number | null {
  const { width, height } = small;
  const data = softened(runToEnd(greyOf(small)));
  const bins = new Float64Array(BINS);
  let all = 0;
  for (let y = 2; y + 2 < height; y++)
    for (let x = 2, i = y * width + 2; x + 2 < width; x++, i++) {
      const [above, below] = [i - width, i + width];
      const right = 3 * data[above + 1] + 10 * data[i + 1] + 3 * data[below + 1];
      const left = 3 * data[above - 1] + 10 * data[i - 1] + 3 * data[below - 1];
      const foot = 3 * data[below - 1] + 10 * data[below] + 3 * data[below + 1];
      const top = 3 * data[above - 1] + 10 * data[above] + 3 * data[above + 1];
      const [gx, gy] = [(right - left) / 16, (foot - top) / 16];
      const strong = gx * gx + gy * gy;
      if (strong < 12 * 12) continue;
      all++;
      // an edge that is all but level has its gradient all but upright, and the other way round
      const t = Math.abs(gy) > Math.abs(gx) ? gx / gy : -gy / gx;
      if (Math.abs(t) <= WIDEST) bins[Math.round(((t / WIDEST + 1) / 2) * (BINS - 1))]++;
    }
  if (all < 200) return null;
  // Steps of pixels scatter the slopes of one straight edge over a degree or two; their mean is right.
  const windows = Array.from({ length: BINS - 2 * HALF }, (_, k) =>
    bins.subarray(k, k + 2 * HALF + 1).reduce((a, b) => a + b, 0),
  );
  const best = Math.max(...windows);
  const at = windows.indexOf(best) + HALF;
  const usual = [...windows].sort((a, b) => a - b)[windows.length >> 1];
  if (best < 0.12 * all || best < 2 * usual) return null;
  let [weighted, count] = [0, 0];
  for (let k = at - HALF; k <= at + HALF; k++) {
    weighted += bins[k] * k;
    count += bins[k];
  }
  const t = ((weighted / count / (BINS - 1)) * 2 - 1) * WIDEST;
  const degrees = ((t - (t * t * t) / 3) * 180) / Math.PI;
  return Math.round(degrees * 10) / 10 + 0;
}

/** Means over 3 x 3 pixels, twice. */
function softened({ width, height, data }: Gray): Float32Array {
  let from = Float32Array.from(data);
  for (let round = 0; round < 2; round++) {
    const to = from.slice();
    for (let y = 1; y + 1 < height; y++)
      for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
        let sum = 0;
        for (let d = -width; d <= width; d += width) sum += from[i + d - 1] + from[i + d] + from[i + d + 1];
        to[i] = sum / 9;
      }
    from = to;
  }
  return from;
}
