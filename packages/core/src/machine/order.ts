import { type Work } from "../maths/work";
import { goesRound, ringArea, ringBox, type Ring } from "../polygon/rings";
import { type Rect } from "../raster/types";

/** A line as a head follows it: x, y of every corner; a closed one names its first place again at its end. */
export interface Line {
  readonly points: Float64Array;
  readonly closed: boolean;
}

export interface Ordered {
  readonly lines: readonly Line[];
  /** How far the head travels between lines, from where it began: as they were given, and as they are now. */
  readonly givenMm: number;
  readonly travelMm: number;
}

// Thresholds: what they decide is measured by `npm run runs`.

/** Rounds of improvement, each through all pairs, at most. */
const MOST_ROUNDS = 40;
/** Above so many groups only the nearest are followed. */
const MOST_GROUPS = 3000;

/**
 * Lines in an order in which a head travels little: what lies inside a closed line goes before it, so that nothing moves
 * before it is done; of what lies beside each other, always the nearest next, then any two ways turned round between
 * which that is shorter. Closed lines begin at whichever corner is nearest.
 *
 * @param from  where the head is
 * @see Rosenkrantz, Stearns & Lewis, "An analysis of several heuristics for the traveling salesman problem", SIAM J.
 *      Comput. 6, 1977: nearest neighbour
 * @see Croes, "A method for solving traveling-salesman problems", Operations Research 6, 1958: 2-opt
 */
export function* ordered(given: readonly Line[], from: readonly [number, number]): Work<Ordered> {
  const lines = given.filter((line) => line.points.length >= 4);
  const groups = yield* groupsOf(lines);
  const tour = nearestNext(groups, from);
  if (tour.length <= MOST_GROUPS) yield* untangled(tour, from);
  const inOrder = beginningNear(
    tour.flatMap((group) => group.lines),
    from,
  );
  return { lines: inOrder, givenMm: travelOf(lines, from), travelMm: travelOf(inOrder, from) };
}

/** A line that nothing goes round, after everything inside it. */
interface Group {
  readonly lines: readonly Line[];
  readonly in: readonly [number, number];
  readonly out: readonly [number, number];
}

const startOf = ({ points }: Line): readonly [number, number] => [points[0], points[1]];
const endOf = ({ points }: Line): readonly [number, number] => [
  points[points.length - 2],
  points[points.length - 1],
];
const apart = (a: readonly [number, number], b: readonly [number, number]): number =>
  Math.sqrt((a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]));

/** Travel between lines in the order in which they stand. */
export function travelOf(lines: readonly Line[], from: readonly [number, number]): number {
  let sum = 0;
  let at = from;
  for (const line of lines) {
    sum += apart(at, startOf(line));
    at = endOf(line);
  }
  return sum;
}

function* groupsOf(lines: readonly Line[]): Work<Group[]> {
  const boxes = lines.map((line) => ringBox(line.points));
  const areas = lines.map((line) => (line.closed ? Math.abs(ringArea(line.points)) : 0));
  const depth = new Int32Array(lines.length);
  const outermost = Int32Array.from(lines.keys());
  for (let k = 0; k < lines.length; k++) {
    if (k % 64 === 0) yield k / lines.length;
    for (let j = 0; j < lines.length; j++) {
      if (j === k || !lines[j].closed || areas[j] <= areas[k] || !holds(boxes[j], boxes[k])) continue;
      if (!goesRound(lines[j].points, lines[k].points[0], lines[k].points[1])) continue;
      depth[k]++;
      if (areas[j] > areas[outermost[k]] || outermost[k] === k) outermost[k] = j;
    }
  }
  const members = new Map<number, number[]>();
  outermost.forEach((top, k) => members.set(top, [...(members.get(top) ?? []), k]));
  return [...members.values()].map((group) => {
    const deepest = group.toSorted((a, b) => depth[b] - depth[a]);
    const inside = deepest.slice(0, -1).map((k) => lines[k]);
    const own = [...byDepth(inside, deepest.slice(0, -1), depth), lines[deepest.at(-1)!]];
    return { lines: own, in: startOf(own[0]), out: endOf(own.at(-1)!) };
  });
}

/** Lines of one depth after those of a greater; of one depth always the nearest next. */
function byDepth(lines: readonly Line[], index: readonly number[], depth: Int32Array): Line[] {
  const out: Line[] = [];
  let at: readonly [number, number] | null = null;
  for (let k = 0; k < lines.length;) {
    let end = k;
    while (end < lines.length && depth[index[end]] === depth[index[k]]) end++;
    const left = lines.slice(k, end);
    while (left.length > 0) {
      const here: readonly [number, number] = at ?? startOf(left[0]);
      let best = 0;
      left.forEach((line, j) => {
        if (apart(here, startOf(line)) < apart(here, startOf(left[best]))) best = j;
      });
      const [next] = left.splice(best, 1);
      out.push(next);
      at = endOf(next);
    }
    k = end;
  }
  return out;
}

const holds = (a: Rect, b: Rect): boolean =>
  a.x <= b.x && a.y <= b.y && a.x + a.width >= b.x + b.width && a.y + a.height >= b.y + b.height;

function nearestNext(groups: readonly Group[], from: readonly [number, number]): Group[] {
  const left = [...groups];
  const tour: Group[] = [];
  let at = from;
  while (left.length > 0) {
    let best = 0;
    for (let k = 1; k < left.length; k++) if (apart(at, left[k].in) < apart(at, left[best].in)) best = k;
    const [next] = left.splice(best, 1);
    tour.push(next);
    at = next.out;
  }
  return tour;
}

/** Turns stretches of the tour round where that makes it shorter. */
function* untangled(tour: Group[], from: readonly [number, number]): Work<void> {
  const out = (k: number): readonly [number, number] => (k < 0 ? from : tour[k].out);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let better = false;
    for (let i = 0; i < tour.length - 1; i++) {
      if (i % 16 === 0) yield Math.min(1, (round + i / tour.length) / MOST_ROUNDS);
      // Links inside a stretch run between other ends once it is turned round: both sums grow with it.
      let [now, turned] = [0, 0];
      for (let j = i + 1; j < tour.length; j++) {
        now += apart(tour[j - 1].out, tour[j].in);
        turned += apart(tour[j].out, tour[j - 1].in);
        const after = tour[j + 1];
        const before = apart(out(i - 1), tour[i].in) + now + (after ? apart(tour[j].out, after.in) : 0);
        const instead = apart(out(i - 1), tour[j].in) + turned + (after ? apart(tour[i].out, after.in) : 0);
        if (instead > before - 1e-9) continue;
        for (let a = i, b = j; a < b; a++, b--) [tour[a], tour[b]] = [tour[b], tour[a]];
        better = true;
        break;
      }
    }
    if (!better) return;
  }
}

/** Each closed line begun at the corner that is nearest to where the one before ended. */
function beginningNear(lines: readonly Line[], from: readonly [number, number]): Line[] {
  let at = from;
  return lines.map((line) => {
    const near = line.closed ? begunNear(line, at) : line;
    at = endOf(near);
    return near;
  });
}

function begunNear({ points }: Line, at: readonly [number, number]): Line {
  const ring: Ring = points.subarray(0, points.length - 2);
  let best = 0;
  for (let k = 2; k < ring.length; k += 2)
    if (apart(at, [ring[k], ring[k + 1]]) < apart(at, [ring[best], ring[best + 1]])) best = k;
  const out = new Float64Array(points.length);
  out.set(ring.subarray(best));
  out.set(ring.subarray(0, best), ring.length - best);
  out.set([ring[best], ring[best + 1]], ring.length);
  return { points: out, closed: true };
}
