import { MM_PER_INCH } from "../maths/units";
import { rowsAtOnce, type Work } from "../maths/work";
import { type Bits, type Gray } from "../raster/types";
import { BLUE_NOISE } from "../screen/blueNoise";
import { threshold } from "../screen/threshold";
import { markByMask, markRows, type Mask } from "../screen/mask";

/** How a plate becomes dots: thresholds, and the side of the squares in which its tone is read, in dots of the film. */
export interface Dotting {
  readonly mask: Mask;
  readonly side: number;
}

const HALF = 128;

/** A plate without tones: printed from half on. */
export const SOLID: Dotting = {
  mask: { width: 1, height: 1, shift: 0, thresholds: Uint8Array.of(HALF) },
  side: 1,
};

/** So far one plate's scatter is moved against the one before it, so that dots of two inks meet by chance. */
const MOVED = [37, 53];

/** Scattered dots of at least a size. @param plate  number of the plate; each has a scatter of its own */
export function scattered(mm: number, plate: number, dotsPerInch: number): Dotting {
  const side = Math.max(1, Math.ceil((mm * dotsPerInch) / MM_PER_INCH - 1e-6));
  const { width, height, thresholds } = BLUE_NOISE;
  const [dx, dy] = [(MOVED[0] * plate) % width, (MOVED[1] * plate) % height];
  const large = new Uint8Array(width * side * height * side);
  for (let y = 0, i = 0; y < height * side; y++)
    for (let x = 0; x < width * side; x++, i++) {
      const [u, v] = [(Math.floor(x / side) + dx) % width, (Math.floor(y / side) + dy) % height];
      large[i] = thresholds[v * width + u];
    }
  return { mask: { width: width * side, height: height * side, shift: 0, thresholds: large }, side };
}

/**
 * The dots of a plate at the film's resolution, row by row, so that no more than the dots themselves is held: tones
 * between the finish's pixels are read between them, which keeps edges smooth.
 *
 * @param times  dots of the film along the side of one pixel
 */
export function* plateDots(tone: Gray, times: number, { mask, side }: Dotting): Work<Bits> {
  if (times === 1 && mask === SOLID.mask) return yield* threshold(tone, HALF);
  if (times === 1 && side === 1) return yield* markByMask(tone, mask);
  const { width, height } = tone;
  const across = placesAlong(width, times, side);
  const down = placesAlong(height, times, side);
  const [row, next] = [new Uint16Array(width), new Uint8Array(width * times)];
  let from = -1;
  const rowAt = (y: number): Uint8Array => {
    const place = down.first[y] * 2 ** 16 + down.part[y];
    if (place === from) return next;
    from = place;
    const above = down.first[y] * width;
    const below = Math.min(height - 1, down.first[y] + 1) * width;
    const part = down.part[y];
    for (let x = 0; x < width; x++)
      row[x] = tone.data[above + x] * (128 - part) + tone.data[below + x] * part;
    for (let x = 0; x < next.length; x++) {
      const at = across.first[x];
      const p = across.part[x];
      const beside = at + 1 < width ? at + 1 : at;
      next[x] = (row[at] * (128 - p) + row[beside] * p + 8192) >> 14;
    }
    return next;
  };
  return yield* markRows(width * times, height * times, rowAt, mask, 0, rowsAtOnce(2 * width * times));
}

/** For each dot the pixel at or before it, and how far on to the next in 128ths. */
function placesAlong(pixels: number, times: number, side: number): { first: Int32Array; part: Uint8Array } {
  const count = pixels * times;
  const [first, part] = [new Int32Array(count), new Uint8Array(count)];
  for (let x = 0; x < count; x++) {
    // The middle of the square that the dot is of.
    const middle = Math.min(count, Math.floor(x / side) * side + side / 2);
    const at = Math.min(pixels - 1, Math.max(0, (side === 1 ? x + 0.5 : middle) / times - 0.5));
    first[x] = Math.floor(at);
    part[x] = Math.round(128 * (at - first[x]));
  }
  return { first, part };
}
