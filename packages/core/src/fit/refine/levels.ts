import { type Gray } from "../../raster/types";
import { span } from "../line";

/** Greys of what is dark all over, and of what is not at all. */
export interface Levels {
  readonly dark: number;
  readonly light: number;
}

/** So far to either side of an outline, in pixels, an edge that is drawn has come to an end. */
const BESIDE = 2;
/** One point of so many is looked at. */
const EVERY = 2;
/** A threshold so far from the middle of both greys, as a share of what lies between, asks for thicker or thinner outlines. */
const MIDDLE = 0.1;

/**
 * The median of the greys beside outlines, to the right of their way what is dark, to the left what is light. Null where
 * there is none of both, or where the threshold does not lie halfway: then half a pixel is not what was asked for.
 */
export function levelsBeside(
  lines: readonly Float64Array[],
  { width, height, data }: Gray,
  threshold: number,
): Levels | null {
  const [dark, light] = [new Uint32Array(256), new Uint32Array(256)];
  for (const points of lines) {
    const count = points.length / 2;
    for (let k = 0; k < count; k += EVERY) {
      const [before, after] = [(k + count - 1) % count, (k + 1) % count];
      const [dx, dy] = [
        points[2 * after] - points[2 * before],
        points[2 * after + 1] - points[2 * before + 1],
      ];
      const long = span(dx, dy);
      if (long === 0) continue;
      for (const side of [1, -1]) {
        const x = Math.floor(points[2 * k] - (side * BESIDE * dy) / long);
        const y = Math.floor(points[2 * k + 1] + (side * BESIDE * dx) / long);
        const isIn = x >= 0 && y >= 0 && x < width && y < height;
        const grey = isIn ? data[y * width + x] : 255;
        if (side > 0 && grey < threshold) dark[grey]++;
        if (side < 0 && grey >= threshold) light[grey]++;
      }
    }
  }
  const found = { dark: middleOf(dark), light: middleOf(light) };
  if (found.dark < 0 || found.light < 0) return null;
  const share = (found.light - (threshold - 0.5)) / (found.light - found.dark);
  return Math.abs(share - 0.5) <= MIDDLE ? found : null;
}

/** The median of what a histogram counts; -1 where it counts nothing. */
function middleOf(counts: Uint32Array): number {
  const total = counts.reduce((sum, n) => sum + n, 0);
  let below = 0;
  for (let grey = 0; grey < counts.length; grey++) {
    below += counts[grey];
    if (below > 0 && 2 * below >= total) return grey;
  }
  return -1;
}
