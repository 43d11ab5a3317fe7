import { workSlice, type Work } from "../maths/work";
import { type Knot } from "../path/outline";
import { type KnotPath } from "../path/pathSet";
import { scaledKnot } from "../path/scaled";
import { fitSides } from "../fit/fit";
import { span, type Point } from "../fit/line";
import { flat } from "./find";
import { after, sampled } from "./points";

/** A place of every so many mm; a fifth of what a rub reaches at most. */
const [APART_MM, APART_SHARE] = [0.1, 0.2];
/** What was evened out is fitted this near, as a share of what a rub reaches, in units of which there are so many to a millimetre. */
const [TOLERANCE, PER_MM] = [0.05, 20];
/** Times that every place becomes the mean of its neighbours: each evens out a little more. */
const TURNS = 12;

/**
 * Evens out whatever of a path lies within reach of a stroke. Ends of the stretch stay where they are.
 * @returns the path itself where nothing does
 */
export function* rubbed(path: KnotPath, along: readonly Point[], reachMm: number): Work<KnotPath> {
  const touched = segmentsNear(path, along, reachMm);
  if (touched.every((t) => !t)) return path;
  const { knots, closed } = path;
  const count = touched.length;
  // A closed path begins where nothing is touched, if there is such a place.
  const start = closed
    ? Math.max(
        0,
        touched.findIndex((t, k) => !t && touched[(k + 1) % count]),
      )
    : -1;
  const order = Array.from({ length: count }, (_, k) => (start + 1 + k) % count);
  const out: Knot[] = [];
  let entering: Point | undefined; // the handle by which the next knot is come to
  for (let i = 0; i < order.length;) {
    const k = order[i];
    const knot = { ...knots[k], ...(entering ? { in: entering } : {}) };
    if (!touched[k]) {
      out.push(knot);
      entering = knots[after(path, k)].in;
      i++;
      continue;
    }
    let end = i;
    while (end + 1 < order.length && touched[order[end + 1]]) end++;
    const stretch: Point[] = [];
    for (let j = i; j <= end; j++)
      stretch.push(...sampled(knots[order[j]], knots[after(path, order[j])]).slice(j > i ? 1 : 0));
    const fitted = yield* workSlice(
      fittedStretch(stretch, reachMm),
      i / order.length,
      (end + 1) / order.length,
    );
    const { in: _, ...first } = fitted[0];
    out.push({ ...first, ...(knot.in && out.length > 0 ? { in: knot.in } : {}) }, ...fitted.slice(1, -1));
    entering = fitted[fitted.length - 1].in;
    i = end + 1;
  }
  if (closed) {
    const first = out[0];
    const { in: _, ...bare } = first;
    out[0] = entering ? { ...bare, in: entering } : bare;
  } else out.push({ at: knots[knots.length - 1].at, ...(entering ? { in: entering } : {}) });
  return { knots: out, closed };
}

function segmentsNear(path: KnotPath, along: readonly Point[], reachMm: number): boolean[] {
  const { points, segment, box } = flat(path);
  const count = path.closed ? path.knots.length : path.knots.length - 1;
  const near = Array.from({ length: count }, () => false);
  for (const [x, y] of along) {
    if (x < box[0] - reachMm || y < box[1] - reachMm || x > box[2] + reachMm || y > box[3] + reachMm)
      continue;
    for (let k = 1; k < segment.length; k++) {
      if (near[segment[k]]) continue;
      const [ax, ay] = [points[2 * k - 2], points[2 * k - 1]];
      const [dx, dy] = [points[2 * k] - ax, points[2 * k + 1] - ay];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
      if (span(ax + t * dx - x, ay + t * dy - y) <= reachMm) near[segment[k]] = true;
    }
  }
  return near;
}

function* fittedStretch(places: readonly Point[], reachMm: number): Work<Knot[]> {
  let even = spaced(places, Math.min(APART_MM, APART_SHARE * reachMm));
  const step = Math.max(1, Math.round(reachMm / (2 * APART_MM)));
  for (let turn = 0; turn < TURNS; turn++) {
    const from = even;
    even = from.map((p, k): Point => {
      const reach = Math.min(step, k, from.length - 1 - k);
      if (reach === 0) return p;
      const [a, b] = [from[k - reach], from[k + reach]];
      return [(a[0] + 2 * p[0] + b[0]) / 4, (a[1] + 2 * p[1] + b[1]) / 4];
    });
  }
  const units = even.flatMap(([x, y]) => [x * PER_MM, y * PER_MM]);
  const knots = yield* fitSides(units, { tolerance: TOLERANCE * reachMm * PER_MM, corners: 0 });
  return knots.map((knot) => scaledKnot(knot, 1 / PER_MM));
}

/** The same line with a place at even distances. */
function spaced(places: readonly Point[], apart: number): Point[] {
  const out: Point[] = [places[0]];
  let left = apart;
  for (let k = 1; k < places.length; k++) {
    let [a, b] = [places[k - 1], places[k]];
    for (let d = span(b[0] - a[0], b[1] - a[1]); d >= left; d = span(b[0] - a[0], b[1] - a[1])) {
      const t = left / d;
      a = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
      out.push(a);
      left = apart;
      b = places[k];
    }
    left -= span(b[0] - a[0], b[1] - a[1]);
  }
  const last = places[places.length - 1];
  const end = out[out.length - 1];
  if (span(last[0] - end[0], last[1] - end[1]) > apart / 4) out.push(last);
  else out[out.length - 1] = last;
  return out;
}
