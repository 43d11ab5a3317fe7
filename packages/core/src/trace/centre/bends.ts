import { cornersOf, REACH, ROUNDED } from "../../fit/corners";
import { direction, indexAt, lineOf, type Point } from "../../fit/line";
import { workSlice, type Work } from "../../maths/work";
import { PULLED, type Stroke } from "./junctions";

/**
 * Strokes parted where they bend at once: so near to a bend a middle is pulled aside as it is where strokes meet, so that
 * a bend is a junction of two. A curve is none, however tight: what it turns by its own bend does not count.
 *
 * @param middles    of the junctions that there are
 * @param readiness  how readily a bend is a corner, 0..1
 * @param times      how many pixels make up one of the picture itself
 */
export function* partedAtBends(
  strokes: readonly Stroke[],
  middles: readonly Point[],
  readiness: number,
  times: number,
): Work<{ readonly strokes: Stroke[]; readonly middles: Point[] }> {
  const parted: Stroke[] = [];
  const nodes = [...middles];
  for (const [k, stroke] of strokes.entries()) {
    yield k / strokes.length;
    const { points, widths, wide, closed } = stroke;
    // What is pulled aside, and what is blurred, counts as no more than what is blurred at the corner of an outline.
    const scale = ROUNDED / (PULLED * wide + ROUNDED * times);
    const before = closed ? [] : [beyond(points, REACH / scale)];
    const all = [...before, ...points, ...(closed ? [] : [beyond(points.toReversed(), REACH / scale)])];
    const line = lineOf(
      all.flatMap(([x, y]) => [x * scale, y * scale]),
      closed,
    );
    const found = yield* workSlice(cornersOf(line, readiness), k / strokes.length, (k + 1) / strokes.length);
    const [first, last] = [stroke.from, stroke.to].map((end) =>
      closed ? -1 : REACH + (end < 0 ? APART : BESIDE * wide * scale + APART),
    );
    const cuts = found
      .filter(({ at }) => at > first && at < line.length - last)
      .map(({ at }) => indexAt(line, at) - before.length)
      .filter((c) => c > 0 && c < points.length - 1);
    if (cuts.length === 0) {
      parted.push(stroke);
      continue;
    }
    const ids = cuts.map((c) => nodes.push(points[c]) - 1);
    const part = (from: number, to: number, a: number, b: number): void => {
      const own =
        to > from ? points.slice(from, to + 1) : [...points.slice(from), ...points.slice(0, to + 1)];
      parted.push({ points: own, widths, wide, from: a, to: b, closed: false, corners: [] });
    };
    cuts.forEach((c, i) => {
      if (i + 1 < cuts.length) part(c, cuts[i + 1], ids[i], ids[i + 1]);
    });
    const end = cuts.length - 1;
    if (closed) part(cuts[end], cuts[0], ids[end], ids[0]);
    else {
      part(0, cuts[0], stroke.from, ids[0]);
      part(cuts[end], points.length - 1, ids[end], stroke.to);
    }
  }
  return { strokes: parted, middles: nodes };
}

/** A place so far before the first point of a line as its beginning goes straight on. */
function beyond(points: readonly Point[], far: number): Point {
  const way = direction(points[Math.min(points.length - 1, ALONG)], points[0]);
  return [points[0][0] + far * way[0], points[0][1] + far * way[1]];
}
/** Points of its beginning that say which way it goes. */
const ALONG = 6;

/** Nearer to its end than this, scaled, a stroke's way says nothing of a bend. */
const APART = ROUNDED;
/** Nearer to a junction than so many widths a stroke is pulled aside by others, and does not bend. */
const BESIDE = 2.5;
