import { cosPi, degreesOf, sinPi } from "../maths/steady";
import { type Work } from "../maths/work";
import { type Planes } from "./planes";

// Thresholds: what they decide is measured by `npm run papers`.

/** A line x cos t + y sin t = away, its angle t in degrees 0..180. */
export interface Line {
  readonly degrees: number;
  readonly cos: number;
  readonly sin: number;
  readonly away: number;
}

export const lineAt = (degrees: number, away: number): Line => ({
  degrees,
  ...{ cos: cosPi(degrees / 180), sin: sinPi(degrees / 180) },
  away,
});

/** Where two lines cross; null where they hardly do. */
export function crossing(a: Line, b: Line): [number, number] | null {
  const by = a.cos * b.sin - a.sin * b.cos;
  if (Math.abs(by) < 0.05) return null;
  return [(a.away * b.sin - b.away * a.sin) / by, (b.away * a.cos - a.away * b.cos) / by];
}

/** How steep the picture is at each pixel, and which way. */
export interface Steepness {
  readonly width: number;
  readonly height: number;
  /** Codes from a pixel to the next, in the channel where that is most. */
  readonly much: Float32Array;
  /** The angle of its normal in degrees, 0..180. */
  readonly degrees: Float32Array;
}

/** @see Scharr, "Optimale Operatoren in der Digitalen Bildverarbeitung", 2000 (the slopes) */
export function* steepnessOf({ width, height, data }: Planes): Work<Steepness> {
  const much = new Float32Array(width * height);
  const degrees = new Float32Array(width * height);
  for (let y = 1; y + 1 < height; y++) {
    if (y % 64 === 0) yield y / height;
    for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++)
      for (const plane of data) {
        const [above, below] = [i - width, i + width];
        const gx =
          (3 * (plane[above + 1] - plane[above - 1]) +
            10 * (plane[i + 1] - plane[i - 1]) +
            3 * (plane[below + 1] - plane[below - 1])) /
          32;
        const gy =
          (3 * (plane[below - 1] - plane[above - 1]) +
            10 * (plane[below] - plane[above]) +
            3 * (plane[below + 1] - plane[above + 1])) /
          32;
        const size = Math.sqrt(gx * gx + gy * gy);
        if (size <= much[i]) continue;
        much[i] = size;
        const angle = degreesOf(gy, gx);
        degrees[i] = angle < 0 ? angle + 180 : angle >= 180 ? angle - 180 : angle;
      }
  }
  return { width, height, much, degrees };
}

/** Slopes below this are grain; above that, one edge counts as another. */
const [LEAST_SLOPE, EQUAL_SLOPE] = [2.5, 10];
/** Angles about a slope's own that it speaks for, in degrees: an edge of pixels is not told more finely. */
const ABOUT = 3;
/** Lines that are gone on with, and how far apart they are at least: degrees, pixels. */
const [MOST_LINES, APART_DEGREES, APART_PX] = [44, 4, 5];

/**
 * The lines that most slopes lie on.
 * @see Duda & Hart, "Use of the Hough transformation to detect lines and curves in pictures", CACM 15, 1972; O'Gorman &
 *      Clowes, "Finding picture edges through collinearity of feature points", IEEE Trans. Computers C-25, 1976
 */
export function* linesIn({ width, height, much, degrees }: Steepness): Work<Line[]> {
  const reach = Math.ceil(Math.sqrt(width * width + height * height));
  const bins = 2 * reach + 1;
  const votes = new Float32Array(180 * bins);
  const [cos, sin] = [0, 1].map((k) =>
    Float64Array.from({ length: 180 }, (_, t) => (k ? sinPi(t / 180) : cosPi(t / 180))),
  );
  for (let y = 1; y + 1 < height; y++) {
    if (y % 32 === 0) yield y / height;
    for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
      if (much[i] < LEAST_SLOPE) continue;
      const weight = Math.min(much[i], EQUAL_SLOPE);
      const own = Math.round(degrees[i]);
      for (let d = -ABOUT; d <= ABOUT; d++) {
        const t = (own + d + 180) % 180;
        const away = (x + 0.5) * cos[t] + (y + 0.5) * sin[t];
        votes[t * bins + Math.round(away) + reach] += weight;
      }
    }
  }
  const wide = Float32Array.from(votes, (v, k) => v + (votes[k - 1] ?? 0) + (votes[k + 1] ?? 0));
  const lines: Line[] = [];
  for (let n = 0; n < MOST_LINES; n++) {
    let best = 0;
    for (let k = 1; k < wide.length; k++) if (wide[k] > wide[best]) best = k;
    if (wide[best] <= 0) break;
    const [t, away] = [Math.floor(best / bins), (best % bins) - reach];
    lines.push(lineAt(t, away));
    yield n / MOST_LINES;
    for (let d = -APART_DEGREES; d <= APART_DEGREES; d++) {
      const turned = t + d;
      // over the end of the half turn a line is counted from the other side
      const [row, from] =
        turned < 0 ? [turned + 180, -away] : turned >= 180 ? [turned - 180, -away] : [turned, away];
      for (let a = -APART_PX; a <= APART_PX; a++) {
        const k = row * bins + from + a + reach;
        if (from + a + reach >= 0 && from + a + reach < bins) wide[k] = 0;
      }
    }
  }
  return lines;
}
