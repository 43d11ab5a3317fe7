import { direction, span, type Point } from "../../fit/line";

/** A stroke's middle line between two junctions; -1 where it ends free. */
export interface Stroke {
  readonly points: readonly Point[];
  /** In pixels. */
  readonly wide: number;
  readonly from: number;
  readonly to: number;
  readonly closed: boolean;
}

/** Within so many widths of a junction a middle is pulled aside by the other strokes. */
const PULLED = 0.75;
/** A stretch of so many pixels beyond it says which way a stroke comes. */
const STRETCH = 6;
/** Strokes between two junctions that are shorter than so many widths are the junction itself. */
const BRIDGE = 1;
/** Cosine of the turn up to which two strokes go on as one: 40 degrees. */
const STRAIGHT = 0.77;

/**
 * Strokes that meet, as lines that go straight on to the place where they meet. Where two of them go on as one line, they
 * are one; junctions with hardly anything between them are one.
 */
export function joinedAt(strokes: readonly Stroke[], middles: readonly Point[]): Stroke[] {
  const node = sameNodes(strokes, middles);
  const left = strokes
    .filter(
      (s) =>
        s.closed || s.from < 0 || s.to < 0 || node[s.from] !== node[s.to] || s.points.length > 3 * s.wide,
    )
    .map((s) => ({ ...s, from: s.from < 0 ? -1 : node[s.from], to: s.to < 0 ? -1 : node[s.to] }));
  const ends = new Map<
    number,
    { readonly stroke: number; readonly end: boolean; readonly at: Point; readonly way: Point }[]
  >();
  left.forEach((s, k) => {
    for (const end of [false, true]) {
      const at = end ? s.to : s.from;
      if (at < 0 || s.closed) continue;
      ends.set(at, [...(ends.get(at) ?? []), { stroke: k, end, ...comingIn(s, end) }]);
    }
  });
  const places = new Map([...ends].map(([k, meeting]) => [k, meetingOf(meeting, middles[k])]));
  const drawn = left.map((s) => (s.closed ? s : straightened(s, places)));
  return merged(drawn, ends);
}

/** For each junction the one it counts as. */
function sameNodes(strokes: readonly Stroke[], middles: readonly Point[]): number[] {
  const node = middles.map((_, k) => k);
  const find = (k: number): number => (node[k] === k ? k : (node[k] = find(node[k])));
  for (const { from, to, points, wide, closed } of strokes)
    if (!closed && from >= 0 && to >= 0 && from !== to && points.length < BRIDGE * wide)
      node[find(from)] = find(to);
  return node.map((_, k) => find(k));
}

/** How many of a stroke's points at an end are pulled aside; some are always left. */
const pulled = ({ points, wide }: Stroke): number =>
  Math.max(0, Math.min(Math.ceil(PULLED * wide), Math.floor((points.length - 2) / 2)));

function comingIn(stroke: Stroke, end: boolean): { readonly at: Point; readonly way: Point } {
  const { points } = stroke;
  const skip = pulled(stroke);
  const near = end ? points.length - 1 - skip : skip;
  const far = end ? Math.max(0, near - STRETCH) : Math.min(points.length - 1, near + STRETCH);
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

function straightened(stroke: Stroke, places: ReadonlyMap<number, Point>): Stroke {
  const { points, from, to } = stroke;
  const skip = pulled(stroke);
  const kept = points.slice(from >= 0 ? skip : 0, points.length - (to >= 0 ? skip : 0));
  const [first, last] = [places.get(from), places.get(to)];
  return { ...stroke, points: [...(first ? [first] : []), ...kept, ...(last ? [last] : [])] };
}

/** Joins, at every junction, the two strokes that go on straightest, then the next two. */
function merged(
  strokes: readonly Stroke[],
  ends: ReadonlyMap<
    number,
    readonly { readonly stroke: number; readonly end: boolean; readonly way: Point }[]
  >,
): Stroke[] {
  const next = new Map<string, string>();
  const name = (stroke: number, end: boolean) => `${stroke} ${end}`;
  for (const meeting of ends.values()) {
    const pairs = meeting.flatMap((a, k) =>
      meeting.slice(k + 1).map((b) => ({ a, b, cosine: -(a.way[0] * b.way[0] + a.way[1] * b.way[1]) })),
    );
    for (const { a, b, cosine } of pairs.sort((p, q) => q.cosine - p.cosine)) {
      if (cosine < STRAIGHT) break;
      const [one, other] = [name(a.stroke, a.end), name(b.stroke, b.end)];
      if (next.has(one) || next.has(other) || one === other) continue;
      next.set(one, other);
      next.set(other, one);
    }
  }
  const used = new Set<number>();
  const out: Stroke[] = [];
  /** Goes out of a stroke by its end, or its beginning, and on along what goes on from there. */
  const chain = (start: number, outByEnd: boolean): void => {
    const first = strokes[start];
    let points = turnedTo(first, outByEnd);
    let [last, byEnd, wide, count, closed] = [start, outByEnd, first.wide, 1, false];
    used.add(start);
    for (;;) {
      const on = next.get(name(last, byEnd));
      if (!on) break;
      const [stroke, enters] = on.split(" ");
      if (used.has(Number(stroke))) {
        closed = Number(stroke) === start && count > 1;
        break;
      }
      [last, byEnd] = [Number(stroke), enters !== "true"];
      used.add(last);
      points = [...points, ...turnedTo(strokes[last], byEnd).slice(1)];
      wide += strokes[last].wide;
      count++;
    }
    const from = outByEnd ? first.from : first.to;
    const to = byEnd ? strokes[last].to : strokes[last].from;
    out.push({ points: closed ? points.slice(0, -1) : points, wide: wide / count, from, to, closed });
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
