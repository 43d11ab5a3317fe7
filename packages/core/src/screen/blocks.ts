import { rowsAtOnce, type Work } from "../maths/work";
import { packRow, unpackRow } from "../raster/bits";
import { newBits, newGray, type Bits, type Cover, type Gray } from "../raster/types";

/** Grey in squares of `side` dots: the mean of each; at the right and below, the last take what is left over. */
export interface Blocks {
  readonly side: number;
  readonly gray: Gray;
  /** A square that is not all of it art is none: what of it were marked would be smaller than the square. */
  readonly cover: Cover;
}

const blocksAlong = (dots: number, side: number): number => Math.max(1, Math.floor(dots / side));

/** The mean grey of each square of dots, so that marks made of whole squares keep the tone. */
export function* inBlocks(picture: Gray, cover: Cover, side: number): Work<Blocks> {
  const { width, height, data } = picture;
  const [across, down] = [blocksAlong(width, side), blocksAlong(height, side)];
  const gray = newGray(across, down);
  const whole = cover && new Uint8Array(across * down);
  const sums = new Float64Array(across);
  const least = new Uint8Array(across);
  const atOnce = Math.max(1, Math.floor(rowsAtOnce(width) / side));
  for (let v = 0; v < down; v++) {
    if (v % atOnce === 0) yield v / down;
    const [top, bottom] = [v * side, v === down - 1 ? height : (v + 1) * side];
    sums.fill(0);
    least.fill(255);
    for (let y = top; y < bottom; y++)
      for (let u = 0, i = y * width; u < across; u++) {
        const end = y * width + (u === across - 1 ? width : (u + 1) * side);
        for (; i < end; i++) {
          sums[u] += data[i];
          if (cover && cover[i] < least[u]) least[u] = cover[i];
        }
      }
    for (let u = 0; u < across; u++) {
      const wide = u === across - 1 ? width - u * side : side;
      gray.data[v * across + u] = Math.round(sums[u] / (wide * (bottom - top)));
    }
    whole?.set(least, v * across);
  }
  return { side, gray, cover: whole };
}

/** Each dot of `small` as a square of dots. */
export function* outOfBlocks(small: Bits, side: number, width: number, height: number): Work<Bits> {
  const bits = newBits(width, height);
  const [few, row] = [new Uint8Array(small.width), new Uint8Array(width)];
  const atOnce = rowsAtOnce(width);
  let last = -1;
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    const v = Math.min(small.height - 1, Math.floor(y / side));
    if (v === last) {
      bits.data.copyWithin(y * bits.stride, (y - 1) * bits.stride, y * bits.stride);
      continue;
    }
    last = v;
    unpackRow(small, v, few);
    for (let u = 0; u < small.width; u++)
      row.fill(few[u], u * side, u === small.width - 1 ? width : (u + 1) * side);
    packRow(row, bits, y);
  }
  return bits;
}
