import { type Lab } from "../colour/oklab";
import { rowsAtOnce, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { labOf } from "./glareLab";

/** A colour of a picture, and how many of the pixels looked at have it. */
export interface Counted {
  readonly red: number;
  readonly green: number;
  readonly blue: number;
  readonly lab: Lab;
  readonly count: number;
}

// Thresholds: what they decide is measured by `npm run films`.

/** So many pixels tell a picture's colours. */
const LOOKED_AT = 400_000;
/** A pixel less whole than this shows the art's colour too faintly. */
const WHOLE = 250;
/** Neighbours further apart than this, in any channel, are an edge: its colours are mixtures. */
const ALIKE = 14;
/** Colours that are told apart, five bits a channel. */
const BINS = 1 << 15;

/**
 * The colours of a picture with how often they come, those of edges and of soft pixels left out; most frequent first.
 *
 * @param edges  take edges as well: in a photograph all is slope
 */
export function* countColours({ width, height, data }: Rgba, edges = false): Work<Counted[]> {
  const [reds, greens, blues, counts] = [0, 1, 2, 3].map(() => new Float64Array(BINS));
  const every = Math.max(1, Math.floor(Math.sqrt((width * height) / LOOKED_AT)));
  const atOnce = Math.max(1, Math.floor(rowsAtOnce(width) / 4)) * every;
  for (let y = 0; y < height; y += every) {
    if (y % atOnce < every) yield y / height;
    for (let x = 0; x < width; x += every) {
      const o = 4 * (y * width + x);
      if (data[o + 3] < WHOLE) continue;
      if (!edges && !isEven(data, o, x + 1 < width ? 4 : -4, (y + 1 < height ? 4 : -4) * width)) continue;
      const bin = ((data[o] >> 3) << 10) | ((data[o + 1] >> 3) << 5) | (data[o + 2] >> 3);
      reds[bin] += data[o];
      greens[bin] += data[o + 1];
      blues[bin] += data[o + 2];
      counts[bin]++;
    }
  }
  const found: Counted[] = [];
  for (let bin = 0; bin < BINS; bin++) {
    const count = counts[bin];
    if (count === 0) continue;
    const [red, green, blue] = [reds[bin] / count, greens[bin] / count, blues[bin] / count];
    found.push({ red, green, blue, lab: labOf(red, green, blue), count });
  }
  return found.sort((a, b) => b.count - a.count);
}

function isEven(data: Uint8Array, o: number, beside: number, below: number): boolean {
  for (const by of [beside, below, -beside, -below]) {
    const p = o + by;
    if (p < 0 || p + 2 >= data.length) continue;
    for (let c = 0; c < 3; c++) if (Math.abs(data[o + c] - data[p + c]) > ALIKE) return false;
  }
  return true;
}
