import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { sinPi } from "../maths/steady";
import { type Work } from "../maths/work";
import { FILTERS } from "../resample/filters";
import { type Rgba } from "./types";

/** How a picture is brought upright: straightened first, then turned by quarters, then mirrored left to right. */
export interface Turn {
  /** Clockwise, in degrees; what is gained at the corners is clear. */
  readonly straighten: number;
  /** Clockwise, in degrees. */
  readonly turn: 0 | 90 | 180 | 270;
  readonly mirror: boolean;
}

export const NO_TURN: Turn = { straighten: 0, turn: 0, mirror: false };

export const isTurned = ({ straighten, turn, mirror }: Turn): boolean =>
  straighten !== 0 || turn !== 0 || mirror;

const cosPi = (x: number): number => sinPi(x + 0.5);

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Size of a picture once it is turned: straightened, it has room for all of its corners. */
export function turnedSize({ width, height }: Size, { straighten, turn }: Turn): Size {
  const [w, h] = straightenedSize(width, height, straighten);
  return turn === 90 || turn === 270 ? { width: h, height: w } : { width: w, height: h };
}

function straightenedSize(width: number, height: number, degrees: number): [number, number] {
  if (degrees === 0) return [width, height];
  const [c, s] = [Math.abs(cosPi(degrees / 180)), Math.abs(sinPi(degrees / 180))];
  // A hair less, so that a side that comes out whole is not one pixel more.
  return [Math.ceil(width * c + height * s - 1e-6), Math.ceil(width * s + height * c - 1e-6)];
}

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

export type Quarter = "left" | "right" | "mirrored" | "upside down";

/** The turn after a further one of what is seen. */
export function turnedOn(now: Turn, further: Quarter): Turn {
  const by = (degrees: number): Turn["turn"] => ((now.turn + degrees + 360) % 360) as Turn["turn"];
  switch (further) {
    case "right":
      return { ...now, turn: by(now.mirror ? -90 : 90) };
    case "left":
      return { ...now, turn: by(now.mirror ? 90 : -90) };
    case "mirrored":
      return { ...now, mirror: !now.mirror };
    case "upside down":
      return { ...now, turn: by(180), mirror: !now.mirror };
  }
}

/** Where a point of the picture (fractions of its sides) lies after a further turn of what is seen. */
export function pointTurnedOn([u, v]: readonly [number, number], further: Quarter): [number, number] {
  switch (further) {
    case "right":
      return [1 - v, u];
    case "left":
      return [v, 1 - u];
    case "mirrored":
      return [1 - u, v];
    case "upside down":
      return [u, 1 - v];
  }
}

/** A box (left, top, width, height as fractions) after a further turn of what is seen. */
export function boxTurnedOn(
  [x, y, w, h]: readonly [number, number, number, number],
  further: Quarter,
): [number, number, number, number] {
  const [a, b] = [pointTurnedOn([x, y], further), pointTurnedOn([x + w, y + h], further)];
  const round = (value: number): number => Math.round(value * 1e9) / 1e9;
  const [left, top] = [Math.min(a[0], b[0]), Math.min(a[1], b[1])];
  return [round(left), round(top), round(Math.abs(a[0] - b[0])), round(Math.abs(a[1] - b[1]))];
}
