import { workSlice, type Work } from "../maths/work";

/** Numbers that are looked at between two slices. */
const AT_ONCE = 1 << 18;

/**
 * For each pixel the least and the greatest of a square about it, cut off at the edges.
 *
 * @param reach  pixels to either side, 1 or more
 * @returns the least and the greatest; of as many steps whatever the reach
 * @see van Herk, "A fast algorithm for local minimum and maximum filters", Pattern Recognit. Lett. 13, 1992
 */
export function* extremes(
  plane: Uint8Array,
  width: number,
  height: number,
  reach: number,
): Work<[least: Uint8Array, greatest: Uint8Array]> {
  const rows: [Uint8Array, Uint8Array] = [plane.slice(), plane.slice()];
  const longest = width + 2 * reach + (2 * reach + 1);
  const lines = { own: new Uint8Array(longest), on: new Uint8Array(longest), back: new Uint8Array(longest) };
  const atOnce = Math.max(1, Math.floor(AT_ONCE / width));
  let even = true;
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.5 * y) / height;
    const row = plane.subarray(y * width, (y + 1) * width);
    // A row of one value, as of art that is whole, has no other extremes.
    const own = isEven(row);
    even &&= own && row[0] === plane[0];
    if (own) continue;
    passRow(rows[0].subarray(y * width, (y + 1) * width), reach, lines, false);
    passRow(rows[1].subarray(y * width, (y + 1) * width), reach, lines, true);
  }
  if (even) return rows;
  return [
    yield* workSlice(passDown(rows[0], width, height, reach, false), 0.5, 0.75),
    yield* workSlice(passDown(rows[1], width, height, reach, true), 0.75, 1),
  ];
}

function isEven(row: Uint8Array): boolean {
  for (let x = 1; x < row.length; x++) if (row[x] !== row[0]) return false;
  return true;
}

/** One row in its own place: the extreme of what is before in its block, and of what is after, tell that of a window. */
function passRow(
  row: Uint8Array,
  reach: number,
  { own, on, back }: Record<"own" | "on" | "back", Uint8Array>,
  greatest: boolean,
): void {
  const wide = 2 * reach + 1;
  const all = Math.ceil((row.length + 2 * reach) / wide) * wide;
  const extreme = greatest ? Math.max : Math.min;
  own.fill(greatest ? 0 : 255, 0, all);
  own.set(row, reach);
  for (let k = 0; k < all; k++) on[k] = k % wide === 0 ? own[k] : extreme(on[k - 1], own[k]);
  for (let k = all - 1; k >= 0; k--) back[k] = k % wide === wide - 1 ? own[k] : extreme(back[k + 1], own[k]);
  for (let k = 0; k < row.length; k++) row[k] = extreme(back[k], on[k + wide - 1]);
}

/** All columns at once, row by row, so that memory is gone through in its own order. */
function* passDown(
  plane: Uint8Array,
  width: number,
  height: number,
  reach: number,
  greatest: boolean,
): Work<Uint8Array> {
  const wide = 2 * reach + 1;
  const nothing = new Uint8Array(width).fill(greatest ? 0 : 255);
  const out = new Uint8Array(plane.length);
  // Of each row of a block the extreme of it and all after it; of the block after that, what is before.
  const after = Array.from({ length: wide }, () => new Uint8Array(width));
  const before = new Uint8Array(width);
  const take = greatest ? takeGreater : takeLess;
  const rowAt = (y: number): Uint8Array =>
    y < 0 || y >= height ? nothing : plane.subarray(y * width, (y + 1) * width);
  const atOnce = Math.max(1, Math.floor(AT_ONCE / width));
  for (let block = 0, told = 0; block < height; block += wide) {
    if (block >= told) {
      told = block + atOnce;
      yield block / height;
    }
    for (let r = wide - 1; r >= 0; r--) {
      after[r].set(rowAt(block + r - reach));
      if (r + 1 < wide) take(after[r], after[r + 1]);
    }
    before.set(nothing);
    for (let r = 0; r < wide && block + r < height; r++) {
      if (r > 0) take(before, rowAt(block + r + reach));
      const row = out.subarray((block + r) * width, (block + r + 1) * width);
      row.set(after[r]);
      take(row, before);
    }
  }
  return out;
}

function takeGreater(row: Uint8Array, other: Uint8Array): void {
  for (let x = 0; x < row.length; x++) if (other[x] > row[x]) row[x] = other[x];
}

function takeLess(row: Uint8Array, other: Uint8Array): void {
  for (let x = 0; x < row.length; x++) if (other[x] < row[x]) row[x] = other[x];
}
