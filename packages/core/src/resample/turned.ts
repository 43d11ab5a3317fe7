import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { sinPi } from "../maths/steady";
import { type Work } from "../maths/work";
import { cosPi, straightenedSize, type Turn } from "../raster/turn";
import { type Rgba } from "../raster/types";
import { FILTERS } from "./filters";

/** The picture turned. Quarters and mirroring move pixels as they are. */
export function* turned(picture: Rgba, how: Turn): Work<Rgba> {
  const upright = how.straighten === 0 ? picture : yield* straightened(picture, how.straighten);
  return how.turn === 0 && !how.mirror ? upright : yield* moved(upright, how);
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
 * Turned clockwise about its middle by cubic interpolation of premultiplied linear light.
 * @see Keys, "Cubic Convolution Interpolation for Digital Image Processing", IEEE Trans. ASSP 29, 1981
 */
function* straightened({ width, height, data }: Rgba, degrees: number): Work<Rgba> {
  const [w, h] = straightenedSize(width, height, degrees);
  const out = new Uint8Array(w * h * 4);
  const [c, s] = [cosPi(degrees / 180), sinPi(degrees / 180)];
  const sum = new Float64Array(4);
  const atOnce = Math.max(1, Math.floor(16384 / w));
  for (let y = 0; y < h; y++) {
    if (y % atOnce === 0) yield y / h;
    for (let x = 0, o = y * w * 4; x < w; x++, o += 4) {
      const [dx, dy] = [x + 0.5 - w / 2, y + 0.5 - h / 2];
      const sx = c * dx + s * dy + width / 2 - 0.5;
      const sy = c * dy - s * dx + height / 2 - 0.5;
      if (sx < -1 || sy < -1 || sx > width || sy > height) continue;
      const [x0, y0] = [Math.floor(sx), Math.floor(sy)];
      const [wx, wy] = [Math.round((sx - x0) * FINE) * 4, Math.round((sy - y0) * FINE) * 4];
      sum.fill(0);
      for (let v = 0; v < 4; v++) {
        const row = y0 + v - 1;
        if (row < 0 || row >= height) continue;
        for (let u = 0; u < 4; u++) {
          const column = x0 + u - 1;
          if (column < 0 || column >= width) continue;
          const i = (row * width + column) * 4;
          const part = WEIGHTS[wx + u] * WEIGHTS[wy + v] * data[i + 3];
          sum[0] += part * LINEAR_OF_CODE[data[i]];
          sum[1] += part * LINEAR_OF_CODE[data[i + 1]];
          sum[2] += part * LINEAR_OF_CODE[data[i + 2]];
          sum[3] += part;
        }
      }
      const alpha = Math.round(Math.min(255, Math.max(0, sum[3])));
      if (alpha === 0) continue;
      for (let k = 0; k < 3; k++) {
        const light = Math.min(1, Math.max(0, sum[k] / sum[3]));
        out[o + k] = CODE_OF_LINEAR[Math.round(light * CODE_STEPS)];
      }
      out[o + 3] = alpha;
    }
  }
  return { width: w, height: h, data: out };
}
