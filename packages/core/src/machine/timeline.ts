import { type Work } from "../maths/work";
import { cornerSpeed, entrySpeed, placeAfter, secondsOf, type Motion } from "./motion";
import { type Moves } from "./moves";

/** When a head is where: for each move its length, the speeds at its ends and the second at which it begins. */
export interface Timeline {
  readonly moves: Moves;
  readonly motion: Motion;
  readonly length: Float64Array;
  /** Speed at the beginning of every move, and at the end of the last. */
  readonly entry: Float64Array;
  /** Second at which every move begins, its pause before it; one more for the end. */
  readonly start: Float64Array;
}

/** Moves looked at between two slices. */
const AT_ONCE = 100000;

/**
 * When every move of a program begins and ends: corners decide how fast a move may begin, and a look from the end back
 * how fast it must not, so that the head can still slow down.
 *
 * @see Bobrow, Dubowsky & Gibson, "Time-optimal control of robotic manipulators along specified paths", Int. J.
 *      Robotics Research 4, 1985: the pass forwards and the pass back
 */
export function* timelineOf(moves: Moves, motion: Motion): Work<Timeline> {
  const { count, x, y, speed, pause } = moves;
  const accel = motion.accelMmPerS2;
  const length = new Float64Array(count);
  const entry = new Float64Array(count + 1);
  let [lastX, lastY, last] = [0, 0, -1]; // direction and number of the last move that goes anywhere
  for (let k = 0; k < count; k++) {
    if (k % AT_ONCE === 0) yield (0.4 * k) / count;
    const [dx, dy] = [x[k + 1] - x[k], y[k + 1] - y[k]];
    length[k] = Math.sqrt(dx * dx + dy * dy);
    if (length[k] === 0) continue;
    const [ux, uy] = [dx / length[k], dy / length[k]];
    if (last >= 0 && pause[k] === 0)
      entry[k] = Math.min(speed[k], speed[last], cornerSpeed(ux * lastX + uy * lastY, motion));
    [lastX, lastY, last] = [ux, uy, k];
  }
  // A move that goes nowhere hands its speed on; one that stands still for a while has none.
  for (let k = count - 1; k >= 0; k--) {
    if (k % AT_ONCE === 0) yield 0.4 + (0.2 * (count - k)) / count;
    if (length[k] === 0) entry[k] = pause[k] > 0 ? 0 : entry[k + 1];
    else entry[k] = Math.min(entry[k], entrySpeed(entry[k + 1], length[k], accel));
    if (pause[k] > 0) entry[k] = 0;
  }
  const start = new Float64Array(count + 1);
  for (let k = 0; k < count; k++) {
    if (k % AT_ONCE === 0) yield 0.6 + (0.4 * k) / count;
    if (length[k] > 0) entry[k + 1] = Math.min(entry[k + 1], entrySpeed(entry[k], length[k], accel));
    const moving = length[k] > 0 ? secondsOf(length[k], entry[k], speed[k], entry[k + 1], accel) : 0;
    start[k + 1] = start[k] + pause[k] + moving;
  }
  return { moves, motion, length, entry, start };
}

/** Seconds of a whole program. */
export const secondsIn = ({ start }: Timeline): number => start[start.length - 1];

/** Seconds of each pass, in their order. */
export function passSeconds({
  moves,
  start,
}: Timeline): { readonly name: string; readonly seconds: number }[] {
  const seconds = new Float64Array(moves.passes.length);
  for (let k = 0; k < moves.count; k++) seconds[moves.pass[k]] += start[k + 1] - start[k];
  return moves.passes.map((name, k) => ({ name, seconds: seconds[k] }));
}

/** The move that is being made at a second. */
export function moveAt({ start, moves }: Timeline, second: number): number {
  let [low, high] = [0, moves.count];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (start[middle] <= second) low = middle;
    else high = middle;
  }
  return low;
}

/** How far along a move is at a second, 0..1. */
export function shareOf(
  { moves, length, entry, start, motion }: Timeline,
  k: number,
  second: number,
): number {
  const since = second - start[k] - moves.pause[k];
  if (since <= 0) return 0;
  if (length[k] === 0) return 1;
  const came = placeAfter(since, length[k], entry[k], moves.speed[k], entry[k + 1], motion.accelMmPerS2);
  return Math.min(1, came / length[k]);
}

/** The second at which a line of the program is done. */
export function secondOfLine({ moves, start }: Timeline, line: number): number {
  let [low, high] = [0, moves.count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (moves.line[middle] <= line) low = middle + 1;
    else high = middle;
  }
  return start[low];
}
