import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { workSlice, type Work } from "../maths/work";
import { evenLight } from "../paper/evenLight";
import { type Turn } from "./turn";
import { resampledBy, type Resampled } from "./turnedPlace";
import { type Rgba } from "../raster/types";
import { FILTERS } from "../resample/filters";

/** The picture turned. Quarters and mirroring move pixels as they are. */
export function* turned(picture: Rgba, how: Turn): Work<Rgba> {
  const asIs = how.straighten === 0 && !how.paper;
  const resampled = asIs ? picture : yield* workSlice(read(picture, resampledBy(picture, how)), 0, 0.8);
  const upright = how.paper?.light ? yield* workSlice(evenLight(resampled), 0.8, 0.9) : resampled;
  return how.turn === 0 && !how.mirror ? upright : yield* workSlice(moved(upright, how), 0.9, 1);
}

function* moved({ width, height, data }: Rgba, { turn, mirror }: Turn): Work<Rgba> {
  const across = turn === 90 || turn === 270;
  const [w, h] = across ? [height, width] : [width, height];
  const out = new Uint8Array(data.length);
  const from = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const to = new Uint32Array(out.buffer);
  // Of the pixel at the left of each new row, and one step to its right.
  const begin = (y: number): number =>
    turn === 0
      ? y * width
      : turn === 90
        ? (height - 1) * width + y
        : turn === 180
          ? (height - 1 - y) * width + width - 1
          : width - 1 - y;
  const step = turn === 0 ? 1 : turn === 90 ? -width : turn === 180 ? -1 : width;
  const atOnce = Math.max(1, Math.floor(262144 / w));
  for (let y = 0; y < h; y++) {
    if (y % atOnce === 0) yield y / h;
    let i = begin(y);
    if (mirror) for (let x = w - 1, o = y * w; x >= 0; x--, i += step) to[o + x] = from[i];
    else for (let x = 0, o = y * w; x < w; x++, i += step) to[o + x] = from[i];
  }
  return { width: w, height: h, data: out };
}

/** Places between two pixels that weights are kept for. */
const FINE = 256;
const WEIGHTS = Float32Array.from({ length: (FINE + 1) * 4 }, (_, i) =>
  FILTERS.bicubic.weight((i % 4) - 1 - Math.floor(i / 4) / FINE),
);

/**
 * What lies at each place by cubic interpolation of premultiplied linear light.
 * @see Keys, "Cubic Convolution Interpolation for Digital Image Processing", IEEE Trans. ASSP 29, 1981
 */
function* read(picture: Rgba, onto: Resampled): Work<Rgba> {
  const { width, height } = onto;
  const data = new Uint8Array(width * height * 4);
  const atOnce = Math.max(1, Math.floor(16384 / width));
  for (let y = 0; y < height; y += atOnce) {
    yield y / height;
    readRows(picture, onto, y, Math.min(height, y + atOnce), data);
  }
  return { width, height, data };
}

function readRows(
  { width, height, data }: Rgba,
  { width: across, from }: Resampled,
  begin: number,
  end: number,
  out: Uint8Array,
): void {
  const at = new Float64Array(2);
  for (let y = begin, o = begin * across * 4; y < end; y++)
    for (let x = 0; x < across; x++, o += 4) {
      from(x + 0.5, y + 0.5, at);
      const sx = at[0] - 0.5;
      const sy = at[1] - 0.5;
      if (!(sx >= -1 && sy >= -1 && sx <= width && sy <= height)) continue;
      const x0 = Math.floor(sx);
      const y0 = Math.floor(sy);
      const wx = Math.round((sx - x0) * FINE) * 4;
      const wy = Math.round((sy - y0) * FINE) * 4;
      const left = Math.max(0, 1 - x0);
      const right = Math.min(4, width + 1 - x0);
      const foot = Math.min(4, height + 1 - y0);
      let red = 0;
      let green = 0;
      let blue = 0;
      let cover = 0;
      for (let v = Math.max(0, 1 - y0); v < foot; v++)
        for (let u = left, i = ((y0 + v - 1) * width + x0 + left - 1) * 4; u < right; u++, i += 4) {
          const part = WEIGHTS[wx + u] * WEIGHTS[wy + v] * data[i + 3];
          red += part * LINEAR_OF_CODE[data[i]];
          green += part * LINEAR_OF_CODE[data[i + 1]];
          blue += part * LINEAR_OF_CODE[data[i + 2]];
          cover += part;
        }
      const alpha = Math.round(Math.min(255, Math.max(0, cover)));
      if (alpha === 0) continue;
      out[o] = codeOf(red / cover);
      out[o + 1] = codeOf(green / cover);
      out[o + 2] = codeOf(blue / cover);
      out[o + 3] = alpha;
    }
}

const codeOf = (light: number): number =>
  CODE_OF_LINEAR[Math.round(Math.min(1, Math.max(0, light)) * CODE_STEPS)];
