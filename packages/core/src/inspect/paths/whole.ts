import { workSlice, type Work } from "../../maths/work";
import { flattenedInSlices, lengthOf, type Polyline } from "../../path/flatten";
import { type PathSet, type PathUse } from "../../path/pathSet";
import { ringBox } from "../../polygon/rings";
import { apartAlong, nearTo, segmentsOf, type Segments } from "../../polygon/segments";
import { figure, MOST_PLACES, placeInMm, type Check, type Place } from "../check";

/** Curves are looked at as straight pieces this near to them, in mm. */
const FLAT_MM = 0.01;
/** Shorter than this, in mm, a path is none. */
const NOTHING_MM = 0.05;
/** Two lines nearer than this, in mm, that run along each other are one edge run twice. */
const ONE_MM = 0.02;
/** Sine of the angle up to which they do. */
const ALONG = 0.1;
/** Doubled lengths from here on count, in mm: less is where two lines only meet. */
const DOUBLED_MM = 0.5;
/** Nearer along one line than this, in mm, two pieces of it are neighbours. */
const NEIGHBOURS_MM = 0.1;
const PIECES_AT_ONCE = 2048;

interface Found {
  readonly open: Place[];
  readonly crossing: Place[];
  readonly doubled: Place[];
  doubledMm: number;
  readonly nothing: Place[];
}

/**
 * Whether a machine can follow paths as they stand: all closed, none crossing itself or another of its set, no edge twice,
 * none of no length.
 */
export function* checkWhole(sets: readonly PathSet[]): Work<Check> {
  const found: Found = { open: [], crossing: [], doubled: [], doubledMm: 0, nothing: [] };
  let paths = 0;
  for (const [k, set] of sets.entries()) {
    const share = (done: number) => (k + done) / sets.length;
    const lines = yield* workSlice(flattenedInSlices(set, FLAT_MM), share(0), share(0.2));
    paths += lines.length;
    for (const line of lines) {
      if (lengthOf(line) < NOTHING_MM) found.nothing.push(boxOf(line.points));
      else if (!line.closed && set.use !== "score") found.open.push(endsOf(line));
    }
    const segments = yield* workSlice(segmentsOf(lines, ONE_MM), share(0.2), share(0.4));
    yield* workSlice(crossings(segments, set.use, found), share(0.4), share(1));
  }
  const { open, crossing, doubled, nothing, doubledMm } = found;
  const faults = [
    said(open.length, "open"),
    said(crossing.length, crossing.length === 1 ? "crossing" : "crossings"),
    doubled.length > 0 ? `${figure(doubledMm)} mm doubled` : null,
    said(nothing.length, "of no length"),
  ].filter((words) => words !== null);
  const places = [...open, ...crossing, ...doubled, ...nothing];
  const count = open.length + crossing.length + doubled.length + nothing.length;
  return {
    id: "wholePaths",
    level: count === 0 ? "fine" : open.length + doubled.length > 0 ? "stop" : "look",
    value: count,
    unit: "faults",
    text:
      count === 0 ? `${paths} ${paths === 1 ? "path" : "paths"}, all closed` : `Paths: ${faults.join(", ")}`,
    detail:
      count === 0
        ? "No crossing, no edge run twice."
        : "A machine would stop short, cut across, or run an edge twice.",
    places: places.slice(0, MOST_PLACES),
  };
}

const said = (count: number, what: string): string | null => (count > 0 ? `${count} ${what}` : null);

/** Of a filled path so much must be run twice to count: less is a thin place of a shape. */
const MOST_OF_IT = 0.5;

function* crossings(segments: Segments, use: PathUse, found: Found): Work<void> {
  const { count, ends, line, lengths } = segments;
  const twice = new Float64Array(lengths.length);
  const places: Place[] = [];
  for (let s = 0; s < count; s++) {
    if (s % PIECES_AT_ONCE === 0) yield s / count;
    const one = ends.subarray(4 * s, 4 * s + 4);
    const length = Math.sqrt((one[2] - one[0]) ** 2 + (one[3] - one[1]) ** 2);
    let doubled = false;
    for (const o of nearTo(segments, s, ONE_MM)) {
      const apart = apartAlong(segments, s, o);
      if (apart < NEIGHBOURS_MM || isNext(segments, s, o)) continue;
      const other = ends.subarray(4 * o, 4 * o + 4);
      if (!doubled && runsAlong(one, other)) doubled = true;
      // Lines that are run lightly may cross, as strokes of a drawing do.
      if (use !== "score" && o > s && cross(one, other)) found.crossing.push(boxOf(crossingOf(one, other)));
    }
    if (doubled && length > 0) {
      twice[line[s]] += length;
      if (places.length < MOST_PLACES) places.push(boxOf(one));
    }
  }
  const counts = (l: number) => use !== "fill" || twice[l] > MOST_OF_IT * lengths[l];
  const whole = twice.reduce((sum, mm, l) => (counts(l) ? sum + mm : sum), 0) / 2; // each of the two is met once
  if (whole < DOUBLED_MM) return;
  found.doubledMm += whole;
  found.doubled.push(...places);
}

/** Whether two pieces follow each other on one line. */
const isNext = ({ line, lengths, closed, ends }: Segments, a: number, b: number): boolean => {
  if (line[a] !== line[b]) return false;
  if (Math.abs(a - b) === 1) return true;
  const meets = (p: number, q: number) =>
    ends[4 * p + 2] === ends[4 * q] && ends[4 * p + 3] === ends[4 * q + 1];
  return closed[line[a]] && lengths[line[a]] > 0 && (meets(a, b) || meets(b, a));
};

/** Whether the middle of a piece lies on another that runs the same way, or the opposite one. */
function runsAlong(a: Float64Array, b: Float64Array): boolean {
  const [dx, dy, ex, ey] = [a[2] - a[0], a[3] - a[1], b[2] - b[0], b[3] - b[1]];
  const [d2, e2] = [dx * dx + dy * dy, ex * ex + ey * ey];
  const turn = dx * ey - dy * ex;
  if (e2 === 0 || turn * turn > ALONG * ALONG * d2 * e2) return false;
  const [mx, my] = [(a[0] + a[2]) / 2 - b[0], (a[1] + a[3]) / 2 - b[1]];
  const along = (mx * ex + my * ey) / e2;
  if (along < 0 || along > 1) return false;
  const off = mx * ey - my * ex;
  return off * off <= ONE_MM * ONE_MM * e2;
}

function cross(a: Float64Array, b: Float64Array): boolean {
  const side = (l: Float64Array, x: number, y: number) =>
    (l[2] - l[0]) * (y - l[1]) - (l[3] - l[1]) * (x - l[0]);
  return side(a, b[0], b[1]) * side(a, b[2], b[3]) < 0 && side(b, a[0], a[1]) * side(b, a[2], a[3]) < 0;
}

function crossingOf(a: Float64Array, b: Float64Array): Float64Array {
  const [dx, dy, ex, ey] = [a[2] - a[0], a[3] - a[1], b[2] - b[0], b[3] - b[1]];
  const t = ((b[0] - a[0]) * ey - (b[1] - a[1]) * ex) / (dx * ey - dy * ex);
  return Float64Array.from([a[0] + t * dx, a[1] + t * dy]);
}

const endsOf = ({ points }: Polyline): Place =>
  boxOf(Float64Array.from([...points.subarray(0, 2), ...points.subarray(points.length - 2)]));

const boxOf = (points: Float64Array): Place => placeInMm(ringBox(points));
