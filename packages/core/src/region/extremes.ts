import { type Work } from "../maths/work";

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
  const [least, greatest] = [plane.slice(), plane.slice()];
  const longest = Math.max(width, height) + 2 * reach + (2 * reach + 1);
  const lines = { own: new Uint8Array(longest), on: new Uint8Array(longest), back: new Uint8Array(longest) };
  for (const [n, [length, count, step, next]] of [
    [width, height, 1, width],
    [height, width, width, 1],
  ].entries()) {
    const atOnce = Math.max(1, Math.floor(AT_ONCE / length));
    for (let line = 0; line < count; line++) {
      if (line % atOnce === 0) yield 0.5 * (n + line / count);
      passLine(least, line * next, step, length, reach, lines, false);
      passLine(greatest, line * next, step, length, reach, lines, true);
    }
  }
  return [least, greatest];
}

/** One row or column: the extreme of what is before in its block, and of what is after, tell that of a window. */
function passLine(
  plane: Uint8Array,
  from: number,
  step: number,
  length: number,
  reach: number,
  { own, on, back }: Record<"own" | "on" | "back", Uint8Array>,
  greatest: boolean,
): void {
  const wide = 2 * reach + 1;
  const all = Math.ceil((length + 2 * reach) / wide) * wide;
  const extreme = greatest ? Math.max : Math.min;
  own.fill(greatest ? 0 : 255, 0, all);
  for (let k = 0, i = from; k < length; k++, i += step) own[k + reach] = plane[i];
  for (let k = 0; k < all; k++) on[k] = k % wide === 0 ? own[k] : extreme(on[k - 1], own[k]);
  for (let k = all - 1; k >= 0; k--) back[k] = k % wide === wide - 1 ? own[k] : extreme(back[k + 1], own[k]);
  for (let k = 0, i = from; k < length; k++, i += step) plane[i] = extreme(back[k], on[k + wide - 1]);
}
