import { workSlice, type Work } from "../../maths/work";
import { type KnotPath } from "../../path/pathSet";
import { type Gray } from "../../raster/types";
import { fitClosed, fitSides, type Fitting } from "../../fit/fit";
import { direction, span, type Point } from "../../fit/line";
import { acrossAt, darkUntil } from "./across";
import { branchesOf } from "./branches";
import { joinedAt, type Stroke } from "./junctions";
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

/**
 * Single lines along the middle of strokes. The middle lies between the two places where the grey passes the threshold
 * across the line, so that it is finer than a pixel; where strokes meet, their lines go on straight to one place.
 *
 * @param mask  which pixels are strokes, width x height bytes; used up
 * @see Guo & Hall, as in `thin`; Steger, "An unbiased detector of curvilinear structures", IEEE Trans. PAMI 20, 1998, for
 *      taking the middle from both edges
 */
export function* centreLines(
  gray: Gray,
  threshold: number,
  mask: Uint8Array,
  fitting: Fitting,
  mostWide: number,
): Work<CentreLine[]> {
  const { width } = gray;
  yield* workSlice(thin(mask, width, gray.height), 0, 0.5);
  const { branches, junctions } = branchesOf(mask, width);
  yield 0.6;
  const level = threshold - 0.5;
  const strokes: Stroke[] = [];
  for (const [k, { pixels, from, to, closed }] of branches.entries()) {
    if (k % 64 === 0) yield 0.6 + (0.1 * k) / branches.length;
    const raw = pixels.map((i): Point => [(i % width) + 0.5, Math.floor(i / width) + 0.5]);
    const stroke = refined(gray, level, raw, closed, mostWide / 2);
    strokes.push({ ...stroke, from, to, closed });
  }
  const widest = (node: number): number =>
    strokes.reduce((most, s) => (s.from === node || s.to === node ? Math.max(most, s.wide) : most), 0);
  const isSpur = ({ from, to, points }: Stroke): boolean =>
    from < 0 !== to < 0 && points.length < SPUR * widest(Math.max(from, to)) + SPUR_PX;
  const real = strokes.filter((s) => !isSpur(s));
  const middles = junctions.map((cluster): Point => {
    const sum = cluster.reduce(
      ([x, y], i) => [x + (i % width) + 0.5, y + Math.floor(i / width) + 0.5],
      [0, 0],
    );
    return [sum[0] / cluster.length, sum[1] / cluster.length];
  });
  const lines = joinedAt(real, middles);
  const out: CentreLine[] = [];
  for (const [k, line] of lines.entries()) {
    const points = line.closed ? line.points : withEnds(line, gray, level);
    if (points.length < 2) continue;
    const work =
      line.closed && points.length > 7 ? fitClosed(points.flat(), fitting) : fitSides(points.flat(), fitting);
    const knots = yield* workSlice(
      work,
      0.7 + (0.3 * k) / lines.length,
      0.7 + (0.3 * (k + 1)) / lines.length,
    );
    out.push({ knots, closed: line.closed, wide: line.wide });
  }
  return out;
}

/** A line of pixels moved to the middle of its stroke, and smoothed by as much as a pixel is uncertain. */
function refined(
  gray: Gray,
  level: number,
  raw: readonly Point[],
  closed: boolean,
  most: number,
): { readonly points: Point[]; readonly wide: number } {
  const count = raw.length;
  const at = (k: number): Point =>
    closed ? raw[(k + WAY * count) % count] : raw[Math.max(0, Math.min(count - 1, k))];
  const widths: number[] = [];
  const points = raw.map((place, k): Point => {
    const way = direction(at(k - WAY), at(k + WAY));
    const across = way[0] === 0 && way[1] === 0 ? null : acrossAt(gray, level, place, way, most);
    if (!across) return place;
    widths.push(across.wide);
    return across.middle;
  });
  widths.sort((a, b) => a - b);
  return { points, wide: widths.length > 0 ? widths[widths.length >> 1] : 1 };
}

/** Places at a free end that say which way the stroke comes there. */
const END = 4;

/** A free end lies half a width before its stroke's tip, where the middle of a round end is: it goes on, or back, to there. */
function withEnds({ points, from, to, wide }: Stroke, gray: Gray, level: number): Point[] {
  let out = [...points];
  const settle = (line: Point[]): Point[] => {
    const last = line.length - 1;
    const back = Math.min(last, END);
    if (back === 0) return line;
    const way = direction(line[last - back], line[last]);
    const tip = darkUntil(gray, level, line[last], way, 2 * wide + 2);
    if (tip === null) return line;
    const on = tip - wide / 2;
    let keep = last;
    while (on < 0 && keep > 1 && span(line[keep][0] - line[last][0], line[keep][1] - line[last][1]) < -on)
      keep--;
    const end: Point = [line[last][0] + way[0] * on, line[last][1] + way[1] * on];
    return [...line.slice(0, on < 0 ? keep : last + 1), end];
  };
  if (to < 0) out = settle(out);
  if (from < 0) out = settle(out.toReversed()).toReversed();
  return out.filter((p, k) => k === 0 || span(p[0] - out[k - 1][0], p[1] - out[k - 1][1]) > 1e-6);
}
