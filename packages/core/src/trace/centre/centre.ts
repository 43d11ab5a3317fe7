import { workSlice, type Work } from "../../maths/work";
import { type Knot } from "../../path/outline";
import { type KnotPath } from "../../path/pathSet";
import { type Gray } from "../../raster/types";
import { fitClosed, fitSides, type Fitting } from "../../fit/fit";
import { direction, span, type Point } from "../../fit/line";
import { acrossAt, darkUntil, isDarkRound } from "./across";
import { partedAtBends } from "./bends";
import { branchesOf } from "./branches";
import { joinedAt, LOOP, widestAt, type Stroke } from "./junctions";
import { thin } from "./thin";

/** A line along the middle of a stroke, in pixels, and the stroke's width along it. */
export interface CentreLine extends KnotPath {
  /** Mean width, in pixels. */
  readonly wide: number;
}

/** The way along a line is taken over so many pixels to either side. */
const WAY = 3;
/** A branch that ends free, and reaches hardly further from the middle of another stroke than its edge, is a bump of it. */
const [SPUR, SPUR_PX] = [0.65, 1.5];
/** Where a stroke bends, a disc about its middle is dark up to this share of its width, less what the place is unsure by. */
const [FILLED, UNSURE] = [0.8, 0.5];
/** One up to so many widths long that gets so much narrower from its first third to its last is the tip of a bend. */
const [TIP, NARROWER] = [4, 0.6];

/**
 * Single lines along the middle of strokes. The middle lies between the two places where the grey passes the threshold
 * across the line, so that it is finer than a pixel; where strokes meet, their lines go on straight to one place.
 *
 * @param fine      the picture at so many `times` its size
 * @param mask      which pixels of that are strokes; used up
 * @param fitting   in pixels of the picture itself, as are `mostWide` and what comes out
 * @see Guo & Hall, as in `thin`; Steger, "An unbiased detector of curvilinear structures", IEEE Trans. PAMI 20, 1998, for
 *      taking the middle from both edges
 */
export function* centreLines(
  fine: Gray,
  threshold: number,
  mask: Uint8Array,
  times: number,
  fitting: Fitting,
  mostWide: number,
): Work<CentreLine[]> {
  const { width } = fine;
  yield* workSlice(thin(mask, width, fine.height), 0, 0.5);
  const { branches, junctions } = yield* workSlice(branchesOf(mask, width), 0.5, 0.6);
  const level = threshold - 0.5;
  const placeOf = (i: number): Point => [(i % width) + 0.5, Math.floor(i / width) + 0.5];
  const strokes: Stroke[] = [];
  for (const [k, { pixels, from, to, closed }] of branches.entries()) {
    if (k % 64 === 0) yield 0.6 + (0.1 * k) / branches.length;
    const stroke = refined(fine, level, pixels.map(placeOf), closed, (mostWide * times) / 2, WAY * times);
    strokes.push({ ...stroke, from, to, closed, corners: [] });
  }
  const middles = junctions.map((cluster): Point => {
    const places = cluster.map(placeOf);
    const mean = (d: 0 | 1) => places.reduce((sum, p) => sum + p[d], 0) / places.length;
    return [mean(0), mean(1)];
  });
  const bent = partedAtBends(withoutSpurs(strokes, times), middles, fitting.corners, times);
  const parted = yield* workSlice(bent, 0.7, 0.75);
  const holds = (place: Point, wide: number): boolean =>
    isDarkRound(fine, level, place, Math.max(0, (FILLED * wide) / 2 - UNSURE * times));
  const lines = joinedAt(parted.strokes, parted.middles, times, holds);
  const out: CentreLine[] = [];
  for (const [k, line] of lines.entries()) {
    const ended = line.closed ? line : withEnds(line, fine, level, times);
    const points = ended.points.map(([x, y]): Point => [x / times, y / times]);
    if (points.length < 2) continue;
    const at = (done: number) => 0.75 + (0.25 * done) / lines.length;
    const knots = yield* workSlice(fitBetween(points, ended.corners, line.closed, fitting), at(k), at(k + 1));
    out.push({ knots, closed: line.closed, wide: line.wide / times });
  }
  return out;
}

/** Knots of a line whose corners are known: each stretch between two of them by itself. */
function* fitBetween(
  points: readonly Point[],
  corners: readonly number[],
  closed: boolean,
  fitting: Fitting,
): Work<Knot[]> {
  if (closed && corners.length === 0 && points.length > 7) return yield* fitClosed(points.flat(), fitting);
  const first = closed ? (corners[0] ?? 0) : 0;
  const turned = closed ? [...points.slice(first), ...points.slice(0, first + 1)] : points;
  const cuts = [...new Set([0, ...corners.map((c) => c - first), turned.length - 1])];
  const knots: Knot[] = [];
  for (let k = 0; k + 1 < cuts.length; k++) {
    const stretch = turned.slice(cuts[k], cuts[k + 1] + 1).flat();
    const [from, ...others] = yield* fitSides(stretch, fitting);
    const before = knots.pop();
    knots.push({ ...from, ...(before?.in ? { in: before.in } : {}) }, ...others);
  }
  if (!closed) return knots;
  const last = knots.pop()!;
  return [{ ...knots[0], ...(last.in ? { in: last.in } : {}) }, ...knots.slice(1)];
}

/**
 * Strokes without loops that are nothing but a junction, and without those that end free and are bumps of another one's
 * edge, or the tips of its bends.
 */
function withoutSpurs(strokes: readonly Stroke[], times: number): Stroke[] {
  const widest = widestAt(strokes);
  const isLoop = ({ from, to, points, closed }: Stroke): boolean =>
    !closed && from >= 0 && from === to && points.length <= LOOP * Math.max(times, widest.get(from)!);
  const open = strokes.filter((stroke) => !isLoop(stroke));
  const ends = new Map<number, number>();
  for (const { from, to } of open) for (const node of [from, to]) ends.set(node, (ends.get(node) ?? 0) + 1);
  // Where nothing else comes, a stroke ends free.
  const end = (node: number): number => (ends.get(node) === 1 ? -1 : node);
  const freed = open.map((stroke) => ({ ...stroke, from: end(stroke.from), to: end(stroke.to) }));
  return freed.filter((stroke) => {
    const { from, to, points } = stroke;
    if (from < 0 === to < 0) return true;
    const wide = widest.get(Math.max(from, to))!;
    if (points.length < SPUR * wide + SPUR_PX * times) return false;
    return points.length > TIP * wide || !narrows(stroke);
  });
}

/** Whether a stroke that begins or ends at a junction gets narrower towards its free end. */
function narrows({ widths, from }: Stroke): boolean {
  const third = Math.floor(widths.length / 3);
  if (third === 0) return false;
  const mean = (list: readonly number[]): number => list.reduce((sum, w) => sum + w, 0) / list.length;
  const [first, last] = [mean(widths.slice(0, third)), mean(widths.slice(-third))];
  return from >= 0 ? last < NARROWER * first : first < NARROWER * last;
}

/** A line of pixels moved to the middle of its stroke, and smoothed by as much as a pixel is uncertain. */
function refined(
  gray: Gray,
  level: number,
  raw: readonly Point[],
  closed: boolean,
  most: number,
  reach: number,
): Pick<Stroke, "points" | "wide" | "widths"> {
  const count = raw.length;
  const at = (k: number): Point =>
    closed ? raw[(k + reach * count) % count] : raw[Math.max(0, Math.min(count - 1, k))];
  const widths: number[] = [];
  const points = raw.map((place, k): Point => {
    const way = direction(at(k - reach), at(k + reach));
    const across = way[0] === 0 && way[1] === 0 ? null : acrossAt(gray, level, place, way, most);
    if (!across) return place;
    widths.push(across.wide);
    return across.middle;
  });
  const sorted = widths.toSorted((a, b) => a - b);
  return { points, widths, wide: sorted.length > 0 ? sorted[sorted.length >> 1] : 1 };
}

/** Places at a free end that say which way the stroke comes there. */
const END = 4;

/** A free end lies half a width before its stroke's tip, where the middle of a round end is: it goes on, or back, to there. */
function withEnds(
  line: Stroke,
  gray: Gray,
  level: number,
  times: number,
): Pick<Stroke, "points" | "corners"> {
  const { from, to, wide } = line;
  /** How many points go at the end of a line, and where it ends then; null where it ends as it is. */
  const settled = (points: readonly Point[]): { readonly gone: number; readonly end: Point } | null => {
    const last = points.length - 1;
    const back = Math.min(last, END * times);
    if (back === 0) return null;
    const way = direction(points[last - back], points[last]);
    const tip = darkUntil(gray, level, points[last], way, 2 * (wide + times));
    if (tip === null) return null;
    const on = tip - wide / 2;
    const [x, y] = points[last];
    let keep = last;
    while (on < 0 && keep > 1 && span(points[keep][0] - x, points[keep][1] - y) < -on) keep--;
    return { gone: on < 0 ? last - keep : 0, end: [x + way[0] * on, y + way[1] * on] };
  };
  const after = to < 0 ? settled(line.points) : null;
  const before = from < 0 ? settled(line.points.toReversed()) : null;
  const [first, last] = [before?.gone ?? 0, line.points.length - (after?.gone ?? 0)];
  const points = [
    ...(before ? [before.end] : []),
    ...line.points.slice(first, Math.max(first + 1, last)),
    ...(after ? [after.end] : []),
  ];
  const moved = Number(before !== null) - first;
  const corners = line.corners.map((c) => c + moved).filter((c) => c > 0 && c < points.length - 1);
  return { points, corners };
}
