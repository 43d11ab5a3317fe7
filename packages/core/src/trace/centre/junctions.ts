import { direction, span, type Point } from "../../fit/line";

/** A stroke's middle line between two junctions; -1 where it ends free. */
export interface Stroke {
  readonly points: readonly Point[];
  /** In pixels. */
  readonly wide: number;
  /** Along its points, where both edges were found. */
  readonly widths: readonly number[];
  readonly from: number;
  readonly to: number;
  readonly closed: boolean;
  /** Numbers of its points at which it bends at once. */
  readonly corners: readonly number[];
}

/** Within so many widths of a junction a middle is pulled aside by the other strokes; further where they meet at a sharp angle. */
export const PULLED = 0.75;
/** Sine of half the angle from which on it is no further. */
const SQUARE = 0.7;
/** It is no further than so many widths. */
const MOST_PULLED = 3;
/** A stretch of so many pixels beyond it says which way a stroke comes. */
const STRETCH = 6;
/** Strokes between two junctions that are shorter than so many widths are the junction itself. */
const BRIDGE = 1;
/** What two strokes share where they cross at a sharp angle is no longer than so many widths. */
const SHARED = 8;
/** Strokes on both sides of it are one when the cosine of their turn is so much, and they pass each other no further off, in widths. */
const [ONE_WAY, ONE_LINE] = [0.96, 0.4];
/** One that ends where it begins, and is no longer than so many widths, is the junction itself. */
export const LOOP = 3;
/** Cosine of the turn up to which two strokes go on as one: 40 degrees. */
const STRAIGHT = 0.77;

/** A stroke's end at a junction: where it comes from, and which way. */
interface Arm {
  readonly stroke: number;
  readonly end: boolean;
  readonly at: Point;
  readonly way: Point;
}

/**
 * Strokes that meet, as lines that go straight on to the place where they meet. Where two of them go on as one line, or no
 * third one is there, they are one; junctions with hardly anything between them are one.
 *
 * @param times  how many pixels make up one of the picture itself
 * @param holds  whether a stroke so wide may have its middle at a place: a bend that would lie elsewhere is none, but a curve
 */
export function joinedAt(
  strokes: readonly Stroke[],
  middles: readonly Point[],
  times: number,
  holds: (place: Point, wide: number) => boolean,
): Stroke[] {
  const { node, bridges } = sameNodes(strokes, middles, times);
  const widest = widestAt(strokes);
  const isNothing = ({ closed, from, to, points }: Stroke): boolean =>
    !closed && from >= 0 && to >= 0 && node[from] === node[to] && points.length <= LOOP * widest.get(from)!;
  const left = strokes
    .filter((s) => !bridges.has(s) && !isNothing(s))
    .map((s) => ({ ...s, from: s.from < 0 ? -1 : node[s.from], to: s.to < 0 ? -1 : node[s.to] }));
  // The sharper two strokes meet the further both are pulled aside, which shows only where they are not.
  const skips = left.map((stroke) => [pulled(stroke, 1), pulled(stroke, 1)]);
  const meetings = () => armsOf(left, (_, k, end) => skips[k][+end], times);
  for (let turn = 0; turn < 2; turn++)
    for (const meeting of meetings().values())
      for (const arm of meeting) {
        const sine = meeting.reduce(
          (least, o) => (o === arm ? least : Math.min(least, sineOfHalf(arm, o))),
          1,
        );
        const further = Math.min(MOST_PULLED / PULLED, SQUARE / sine);
        skips[arm.stroke][+arm.end] = pulled(left[arm.stroke], further);
      }
  left.forEach(({ from, to }, k) => {
    if (from < 0) skips[k][0] = 0;
    if (to < 0) skips[k][1] = 0;
  });
  const arms = meetings();
  const places = new Map([...arms].map(([k, meeting]) => [k, meetingOf(meeting, middles[k])]));
  for (const [k, meeting] of arms) {
    const wide = Math.min(...meeting.map((arm) => left[arm.stroke].wide));
    if (meeting.length !== 2 || holds(places.get(k)!, wide)) continue;
    places.set(k, middles[k]);
    for (const { stroke, end } of meeting) skips[stroke][+end] = 0;
  }
  const drawn = left.map((s, k) => (s.closed ? s : straightened(s, skips[k], places)));
  return merged(drawn, arms);
}

/** The greatest width of the strokes at each junction. */
export function widestAt(strokes: readonly Stroke[]): ReadonlyMap<number, number> {
  const widest = new Map<number, number>();
  for (const { from, to, wide } of strokes)
    for (const node of [from, to]) widest.set(node, Math.max(widest.get(node) ?? 0, wide));
  return widest;
}

/** Sine of half the angle between two strokes that come to one place. */
const sineOfHalf = (a: Arm, b: Arm): number =>
  Math.sqrt(Math.max(1e-4, (1 - a.way[0] * b.way[0] - a.way[1] * b.way[1]) / 2));

/** For each junction the strokes that come to it. */
function armsOf(
  strokes: readonly Stroke[],
  skip: (stroke: Stroke, k: number, end: boolean) => number,
  times: number,
): Map<number, Arm[]> {
  const arms = new Map<number, Arm[]>();
  strokes.forEach((s, k) => {
    for (const end of [false, true]) {
      const at = end ? s.to : s.from;
      if (at < 0 || s.closed) continue;
      const arm = { stroke: k, end, ...comingIn(s, end, skip(s, k, end), STRETCH * times) };
      const meeting = arms.get(at);
      if (meeting) meeting.push(arm);
      else arms.set(at, [arm]);
    }
  });
  return arms;
}

/** For each junction the one it counts as, and what lies between those that are one. */
function sameNodes(
  strokes: readonly Stroke[],
  middles: readonly Point[],
  times: number,
): { readonly node: readonly number[]; readonly bridges: ReadonlySet<Stroke> } {
  const bridges = new Set<Stroke>();
  const node = middles.map((_, k) => k);
  const find = (k: number): number => (node[k] === k ? k : (node[k] = find(node[k])));
  const arms = armsOf(strokes, (s) => pulled(s, 1), times);
  const widest = widestAt(strokes);
  strokes.forEach((stroke, k) => {
    const { from, to, points, closed } = stroke;
    if (closed || from < 0 || to < 0 || from === to) return;
    const wide = Math.min(widest.get(from)!, widest.get(to)!);
    const isBridge =
      points.length < BRIDGE * wide ||
      (points.length < SHARED * wide && isCrossing(arms.get(from)!, arms.get(to)!, k, wide));
    if (!isBridge) return;
    node[find(from)] = find(to);
    bridges.add(stroke);
  });
  return { node: node.map((_, k) => find(k)), bridges };
}

/** Whether a stroke between two junctions is what two others share that cross: each goes on straight on the other side. */
function isCrossing(here: readonly Arm[], there: readonly Arm[], own: number, wide: number): boolean {
  const [a, b] = [here, there].map((meeting) => meeting.filter((arm) => arm.stroke !== own));
  if (a.length !== 2 || b.length !== 2) return false;
  const goesOn = (p: Arm, q: Arm): boolean => {
    if (-(p.way[0] * q.way[0] + p.way[1] * q.way[1]) < ONE_WAY) return false;
    const [dx, dy] = [q.at[0] - p.at[0], q.at[1] - p.at[1]];
    return Math.abs(p.way[0] * dy - p.way[1] * dx) < ONE_LINE * wide;
  };
  return (goesOn(a[0], b[0]) && goesOn(a[1], b[1])) || (goesOn(a[0], b[1]) && goesOn(a[1], b[0]));
}

/** How many of a stroke's points at an end are pulled aside, so many times as far as usual; some are always left. */
const pulled = ({ points, wide }: Stroke, further: number): number =>
  Math.max(0, Math.min(Math.ceil(PULLED * wide * Math.max(1, further)), Math.floor((points.length - 2) / 2)));

function comingIn(
  { points }: Stroke,
  end: boolean,
  skip: number,
  stretch: number,
): { readonly at: Point; readonly way: Point } {
  const near = end ? points.length - 1 - skip : skip;
  const far = end ? Math.max(0, near - stretch) : Math.min(points.length - 1, near + stretch);
  const at = points[near] ?? points[0];
  return { at, way: direction(points[far] ?? at, at) };
}

/** Where lines through places come nearest to each other, by least squares; what was there where they are parallel. */
function meetingOf(lines: readonly { readonly at: Point; readonly way: Point }[], usual: Point): Point {
  let [xx, xy, yy, bx, by] = [0, 0, 0, 0, 0];
  for (const { at, way } of lines) {
    const [px, py, q] = [1 - way[0] * way[0], 1 - way[1] * way[1], -way[0] * way[1]];
    xx += px;
    yy += py;
    xy += q;
    bx += px * at[0] + q * at[1];
    by += q * at[0] + py * at[1];
  }
  const under = xx * yy - xy * xy;
  const mean: Point = [
    lines.reduce((s, l) => s + l.at[0], 0) / lines.length,
    lines.reduce((s, l) => s + l.at[1], 0) / lines.length,
  ];
  if (under < 0.05 * lines.length) return lines.length > 1 ? mean : usual;
  const place: Point = [(bx * yy - by * xy) / under, (by * xx - bx * xy) / under];
  const far = Math.max(4, ...lines.map((l) => 2 * span(l.at[0] - usual[0], l.at[1] - usual[1])));
  return span(place[0] - usual[0], place[1] - usual[1]) <= far ? place : usual;
}

function straightened(
  stroke: Stroke,
  [before, after]: readonly number[],
  places: ReadonlyMap<number, Point>,
): Stroke {
  const { points, from, to } = stroke;
  const kept = points.slice(before, points.length - after);
  const [first, last] = [places.get(from), places.get(to)];
  return { ...stroke, points: [...(first ? [first] : []), ...kept, ...(last ? [last] : [])] };
}

/** Joins, at every junction, the two strokes that go on straightest, then the next two. */
function merged(strokes: readonly Stroke[], ends: ReadonlyMap<number, readonly Arm[]>): Stroke[] {
  const next = new Map<string, string>();
  const sharp = new Set<string>();
  const name = (stroke: number, end: boolean) => `${stroke} ${end}`;
  for (const meeting of ends.values()) {
    const pairs = meeting.flatMap((a, k) =>
      meeting.slice(k + 1).map((b) => ({ a, b, cosine: -(a.way[0] * b.way[0] + a.way[1] * b.way[1]) })),
    );
    for (const { a, b, cosine } of pairs.sort((p, q) => q.cosine - p.cosine)) {
      if (cosine < STRAIGHT && meeting.length > 2) break;
      const [one, other] = [name(a.stroke, a.end), name(b.stroke, b.end)];
      if (next.has(one) || next.has(other) || one === other) continue;
      next.set(one, other);
      next.set(other, one);
      if (cosine < STRAIGHT) sharp.add(one).add(other);
    }
  }
  const used = new Set<number>();
  const out: Stroke[] = [];
  /** Goes out of a stroke by its end, or its beginning, and on along what goes on from there. */
  const chain = (start: number, outByEnd: boolean): void => {
    const first = strokes[start];
    let points = turnedTo(first, outByEnd);
    let [last, byEnd, wide, count, closed] = [start, outByEnd, first.wide, 1, false];
    const corners: number[] = [];
    used.add(start);
    for (;;) {
      const on = next.get(name(last, byEnd));
      if (!on) break;
      const [stroke, enters] = on.split(" ");
      const bends = sharp.has(on);
      if (used.has(Number(stroke))) {
        closed = Number(stroke) === start && enters !== `${outByEnd}`;
        if (closed && bends) corners.unshift(0);
        break;
      }
      if (bends) corners.push(points.length - 1);
      [last, byEnd] = [Number(stroke), enters !== "true"];
      used.add(last);
      points = [...points, ...turnedTo(strokes[last], byEnd).slice(1)];
      wide += strokes[last].wide;
      count++;
    }
    const from = outByEnd ? first.from : first.to;
    const to = byEnd ? strokes[last].to : strokes[last].from;
    const all = closed ? points.slice(0, -1) : points;
    out.push({ points: all, wide: wide / count, widths: [], from, to, closed, corners });
  };
  strokes.forEach((s, k) => {
    if (s.closed) {
      used.add(k);
      out.push(s);
    } else if (!used.has(k) && !next.has(name(k, false))) chain(k, true);
    else if (!used.has(k) && !next.has(name(k, true))) chain(k, false);
  });
  // What is left goes round.
  strokes.forEach((_, k) => {
    if (!used.has(k)) chain(k, true);
  });
  return out;
}

/** A stroke's points so that its end, or its beginning, comes last. */
const turnedTo = ({ points }: Stroke, end: boolean): readonly Point[] => (end ? points : points.toReversed());
