import { inStretches, workSlice, rowsAtOnce, type Work } from "../maths/work";
import { packRow, unpackRow } from "../raster/bits";
import { newBits, type Bits } from "../raster/types";
import { componentsOf } from "../region/components";
import { squaredDistanceTo } from "../region/distance";
import { alongMiddles, inverted } from "./middle";

/**
 * Takes specks off and fills pinholes that are shorter than `size` both ways. How long something is decides, not how
 * much: a hairline of a single dot's width stays where a blot of more dots goes.
 *
 * @param mask  width x height bytes, 0 or 1; changed in place
 * @param size  in pixels
 */
export function* cleanStrokes(mask: Uint8Array, width: number, height: number, size: number): Work<void> {
  yield* workSlice(dropShort(mask, width, height, size, 1), 0, 0.5);
  yield* workSlice(dropShort(mask, width, height, size, 0), 0.5, 1);
}

function* dropShort(mask: Uint8Array, width: number, height: number, size: number, kind: 0 | 1): Work<void> {
  const rowAt = (y: number, row: Uint8Array) => {
    for (let x = 0, i = y * width; x < width; x++, i++) row[x] = mask[i] === kind ? 1 : 0;
  };
  const found = yield* workSlice(componentsOf(width, height, rowAt), 0, 0.9);
  for (const [k, part] of found.entries()) {
    if (k % ERASED_AT_ONCE === 0) yield 0.9 + (0.1 * k) / found.length;
    if (Math.max(part.width, part.height) < size) eraseComponent(mask, width, part, part.seed, kind);
  }
}

/** Parts looked at between two slices. */
const ERASED_AT_ONCE = 4096;

/** Turns one small component, joined over edges and corners, into the other kind. */
export function eraseComponent(
  mask: Uint8Array,
  width: number,
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  [sx, sy]: readonly [number, number],
  kind: 0 | 1,
): void {
  const stack = [sy * width + sx];
  const [right, bottom] = [box.x + box.width - 1, box.y + box.height - 1];
  while (stack.length > 0) {
    const i = stack.pop()!;
    if (mask[i] !== kind) continue;
    mask[i] = 1 - kind;
    const [x, y] = [i % width, Math.floor(i / width)];
    for (let v = Math.max(box.y, y - 1); v <= Math.min(bottom, y + 1); v++)
      for (let u = Math.max(box.x, x - 1); u <= Math.min(right, x + 1); u++)
        if (mask[v * width + u] === kind) stack.push(v * width + u);
  }
}

/**
 * A disc of so many dots more than its name: half-way between moving straight edges and slanted ones, whose rows of
 * pixels lie nearer together, by the length that was asked for.
 */
const BETWEEN = 0.25;

/**
 * Moves every edge of the strokes by a length: outwards by a disc of that radius, or inwards. A stroke too thin to lose
 * so much keeps its middle.
 *
 * @param mask  width x height bytes, 0 or 1; changed in place
 * @param by    in pixels; positive makes strokes wider by twice as much
 * @see region/distance.ts
 */
export function* moveEdges(mask: Uint8Array, width: number, height: number, by: number): Work<void> {
  const radius = Math.abs(by) + BETWEEN;
  if (radius < 1) return;
  const from: 0 | 1 = by > 0 ? 1 : 0;
  const kept: number[] = [];
  if (by < 0)
    yield* workSlice(
      alongMiddles(mask, width, height, (x, y, wide) => {
        if (wide <= 2 * radius) kept.push(y * width + x);
      }),
      0,
      0.5,
    );
  const source = from === 1 ? mask : yield* inverted(mask);
  const square = yield* workSlice(squaredDistanceTo(source, width, height), by < 0 ? 0.5 : 0, 0.9);
  yield* workSlice(
    inStretches(mask.length, (first, end) => {
      for (let i = first; i < end; i++) if (square[i] <= radius * radius) mask[i] = from;
    }),
    0.9,
    1,
  );
  for (const i of kept) mask[i] = 1;
}

/** Bits as bytes, 0 or 1. */
export function* maskOf(bits: Bits): Work<Uint8Array> {
  const { width, height } = bits;
  const mask = new Uint8Array(width * height);
  const atOnce = 2 * rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    unpackRow(bits, y, mask.subarray(y * width, (y + 1) * width));
  }
  return mask;
}

/** Bytes, 0 or 1, as bits. */
export function* bitsOf(mask: Uint8Array, width: number, height: number): Work<Bits> {
  const bits = newBits(width, height);
  const atOnce = 2 * rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    packRow(mask.subarray(y * width, (y + 1) * width), bits, y);
  }
  return bits;
}
