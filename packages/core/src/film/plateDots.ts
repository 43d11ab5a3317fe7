import { SOLID, type Dotting } from "../screen/dotting";
import { rowsAtOnce, type Work } from "../maths/work";
import { type Bits, type Gray } from "../raster/types";
import { threshold } from "../screen/threshold";
import { markByMask, markRows } from "../screen/mask";

const HALF = SOLID.mask.thresholds[0];

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
