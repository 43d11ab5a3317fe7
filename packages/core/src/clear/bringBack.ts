import { inStretches, workSlice, type Work } from "../maths/work";
import { pixelAt, type At } from "../path/frame";
import { type Clearing } from "./clearing";
import { unlikeGround } from "./lostParts";

/** Pixels followed between two slices. */
const AT_ONCE = 1 << 16;
/** What is unlike the ground by itself comes back too, so many pixels about a part: as far as it was looked at together. */
const EDGE = 4;
/** A pixel that looks like the ground comes back with a part where so many of its eight neighbours do: grain makes no holes. */
const HOLE = 5;

/**
 * Brings back parts that were taken although they are unlike the ground: those that lie at the places named, as far as
 * such pixels touch. Where there is none nothing comes back.
 */
export function* bringBack(clearing: Clearing, places: readonly At[]): Work<void> {
  const { source, data, taken } = clearing;
  const { width, height } = source;
  const found = yield* workSlice(unlikeGround(source, data, null), 0, 0.8);
  if (!found) return;
  const { unlike, isOff } = found; // 2 for what comes back
  const back: number[] = [];
  for (const at of places) {
    const p = pixelAt(clearing, at);
    const seed = p && p[1] * width + p[0];
    if (seed === null || unlike[seed] !== 1) continue;
    unlike[seed] = 2;
    back.push(seed);
  }
  const follow = (i: number, comes: (j: number) => boolean): void => {
    const x = i % width;
    for (let row = -width; row <= width; row += width)
      for (let j = i + row - (x > 0 ? 1 : 0); j <= i + row + (x + 1 < width ? 1 : 0); j++) {
        if (j < 0 || j >= unlike.length || unlike[j] === 2 || !comes(j)) continue;
        unlike[j] = 2;
        back.push(j);
      }
  };
  for (let k = 0; k < back.length; k++) {
    if (k % AT_ONCE === 0) yield 0.8;
    follow(back[k], (j) => unlike[j] === 1);
  }
  for (let round = 0, from = 0; round < EDGE; round++) {
    const to = back.length;
    for (let k = from; k < to; k++) {
      if (k % AT_ONCE === 0) yield 0.82;
      follow(back[k], isOff);
    }
    from = to;
  }
  const whole = (i: number): void => {
    for (let k = 0; k < 3; k++) data[4 * i + k] = source.data[4 * i + k];
    data[4 * i + 3] = source.data[4 * i + 3];
    taken[i] = 0;
  };
  const restore = inStretches(back.length, (from, to) => {
    for (let k = from; k < to; k++) whole(back[k]);
  });
  yield* workSlice(restore, 0.85, 0.9);
  const isHole = (i: number): boolean => {
    const [above, below] = [i - width, i + width];
    let about = 0;
    for (const j of [above - 1, above, above + 1, i - 1, i + 1, below - 1, below, below + 1])
      if (unlike[j] === 2) about++;
    return about >= HOLE;
  };
  const fill = inStretches(back.length, (from, to) => {
    for (let k = from; k < to; k++)
      for (const j of [back[k] - 1, back[k] + 1, back[k] - width, back[k] + width]) {
        const [x, y] = [j % width, Math.floor(j / width)];
        if (x < 1 || y < 1 || x + 1 >= width || y + 1 >= height) continue;
        if (unlike[j] === 0 && taken[j] && isHole(j)) whole(j);
      }
  });
  yield* workSlice(fill, 0.9, 1);
}
