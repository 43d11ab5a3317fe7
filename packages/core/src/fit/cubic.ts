import { direction, span, type Line, type Point } from "./line";

/** A cubic curve from one point of a line to another, by its handles relative to them. */
export interface Cubic {
  readonly out: Point;
  readonly in: Point;
  /** Greatest distance of the points between from it. */
  readonly off: number;
}

/** Rounds in which points look for their own place on the curve. */
const ROUNDS = 4;

/**
 * The cubic curve that comes nearest to the points of a line from `from` to `to`, by least squares; its ends are those
 * points. A direction that is given is kept there.
 *
 * @param start, end  directions at the ends, of one length, both the way the line runs; null = free
 * @see Schneider, "An algorithm for automatically fitting digitized curves", Graphics Gems, 1990, for the least squares
 *      and for moving the parameters by Newton's method
 */
export function fitCubic(
  line: Line,
  from: number,
  to: number,
  start: Point | null,
  end: Point | null,
): Cubic {
  const { x, y, at } = line;
  const count = to - from - 1;
  const length = at[to] - at[from];
  const u = new Float64Array(Math.max(0, count));
  for (let k = 0; k < count; k++) u[k] = (at[from + 1 + k] - at[from]) / length;
  let fitted = third(line, from, to, start, end);
  for (let round = 0; round < ROUNDS; round++) {
    const next = leastSquares(line, from, to, u, start, end);
    if (!next) break;
    fitted = next;
    reparametrize(line, from, to, u, fitted);
  }
  let off = 0;
  for (let k = 0; k < count; k++) {
    const [px, py] = pointOn(line, from, to, fitted, u[k]);
    off = Math.max(off, span(px - x[from + 1 + k], py - y[from + 1 + k]));
  }
  return { ...fitted, off };
}

type Handles = Pick<Cubic, "out" | "in">;

/** Handles of a third of the chord, where there is nothing to go by. */
function third({ x, y }: Line, from: number, to: number, start: Point | null, end: Point | null): Handles {
  const d = span(x[to] - x[from], y[to] - y[from]) / 3;
  const along = direction([x[from], y[from]], [x[to], y[to]]);
  const [s, e] = [start ?? along, end ?? along];
  return { out: [s[0] * d, s[1] * d], in: [-e[0] * d, -e[1] * d] };
}

/** Each end has one unknown, the length of its handle, or two. @returns null where they cannot be told, run back, or swing out */
function leastSquares(
  line: Line,
  from: number,
  to: number,
  u: Float64Array,
  start: Point | null,
  end: Point | null,
): Handles | null {
  const { x, y } = line;
  const first: readonly Point[] = start
    ? [start]
    : [
        [1, 0],
        [0, 1],
      ];
  const last: readonly Point[] = end
    ? [[-end[0], -end[1]]]
    : [
        [1, 0],
        [0, 1],
      ];
  const size = first.length + last.length;
  if (u.length * 2 < size) return null;
  const matrix = Array.from({ length: size }, () => new Float64Array(size + 1));
  const row = new Float64Array(size);
  for (let k = 0; k < u.length; k++) {
    const [t, s] = [u[k], 1 - u[k]];
    const [b1, b2] = [3 * s * s * t, 3 * s * t * t];
    const [w0, w3] = [s * s * s + b1, t * t * t + b2];
    for (let c = 0; c < 2; c++) {
      const plane = c === 0 ? x : y;
      first.forEach((d, i) => (row[i] = b1 * d[c]));
      last.forEach((d, i) => (row[first.length + i] = b2 * d[c]));
      const rest = plane[from + 1 + k] - w0 * plane[from] - w3 * plane[to];
      for (let i = 0; i < size; i++) {
        for (let j = 0; j < size; j++) matrix[i][j] += row[i] * row[j];
        matrix[i][size] += row[i] * rest;
      }
    }
  }
  const found = solved(matrix);
  if (!found) return null;
  if ((start && !(found[0] > 0)) || (end && !(found[first.length] > 0))) return null;
  const sum = (directions: readonly Point[], offset: number): Point => [
    directions.reduce((a, d, i) => a + d[0] * found[offset + i], 0),
    directions.reduce((a, d, i) => a + d[1] * found[offset + i], 0),
  ];
  const [out, back] = [sum(first, 0), sum(last, first.length)];
  // A few points can be met by a curve that swings far out between them.
  const most = line.at[to] - line.at[from];
  return span(out[0], out[1]) > most || span(back[0], back[1]) > most ? null : { out, in: back };
}

/** Gauss's elimination with the largest pivot. @returns null when the rows depend on each other */
function solved(matrix: readonly Float64Array[]): Float64Array | null {
  const size = matrix.length;
  const rows = [...matrix];
  for (let i = 0; i < size; i++) {
    let pivot = i;
    for (let r = i + 1; r < size; r++) if (Math.abs(rows[r][i]) > Math.abs(rows[pivot][i])) pivot = r;
    if (Math.abs(rows[pivot][i]) < 1e-9) return null;
    [rows[i], rows[pivot]] = [rows[pivot], rows[i]];
    for (let r = 0; r < size; r++) {
      if (r === i) continue;
      const factor = rows[r][i] / rows[i][i];
      for (let c = i; c <= size; c++) rows[r][c] -= factor * rows[i][c];
    }
  }
  return Float64Array.from(rows, (r, i) => r[size] / r[i]);
}

function pointOn({ x, y }: Line, from: number, to: number, { out, in: back }: Handles, t: number): Point {
  const s = 1 - t;
  const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [
    (w0 + w1) * x[from] + w1 * out[0] + w2 * back[0] + (w2 + w3) * x[to],
    (w0 + w1) * y[from] + w1 * out[1] + w2 * back[1] + (w2 + w3) * y[to],
  ];
}

/** Each point moves to where the curve is nearest to it, a step of Newton's method. */
function reparametrize(line: Line, from: number, to: number, u: Float64Array, handles: Handles): void {
  const { x, y } = line;
  const [ax, ay] = handles.out;
  const [bx, by] = [x[to] - x[from] + handles.in[0] - ax, y[to] - y[from] + handles.in[1] - ay];
  const [cx, cy] = [-handles.in[0], -handles.in[1]];
  for (let k = 0; k < u.length; k++) {
    const [t, s] = [u[k], 1 - u[k]];
    const [px, py] = pointOn(line, from, to, handles, t);
    const [ex, ey] = [px - x[from + 1 + k], py - y[from + 1 + k]];
    const d1x = 3 * (s * s * ax + 2 * s * t * bx + t * t * cx);
    const d1y = 3 * (s * s * ay + 2 * s * t * by + t * t * cy);
    const d2x = 6 * (s * (bx - ax) + t * (cx - bx));
    const d2y = 6 * (s * (by - ay) + t * (cy - by));
    const under = d1x * d1x + d1y * d1y + ex * d2x + ey * d2y;
    if (Math.abs(under) < 1e-12) continue;
    const next = t - (ex * d1x + ey * d1y) / under;
    if (next > 0 && next < 1) u[k] = next;
  }
}
