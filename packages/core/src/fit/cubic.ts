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

/** The two unknowns of a handle whose direction is free. */
const AXES: readonly Point[] = [
  [1, 0],
  [0, 1],
];

/** Held once: a fit is made of many small ones, and none begins before another has ended. */
const SCRATCH = {
  ...{ dx: new Float64Array(4), dy: new Float64Array(4) },
  ...{ rowX: new Float64Array(4), rowY: new Float64Array(4) },
  matrices: [0, 1, 2, 3, 4].map((size) => Array.from({ length: size }, () => new Float64Array(size + 1))),
};

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
  const first = start ? [start] : AXES;
  const last = end ? [[-end[0], -end[1]] as const] : AXES;
  const ends = first.length;
  const size = ends + last.length;
  if (u.length * 2 < size) return null;
  const { dx, dy, rowX, rowY } = SCRATCH;
  for (let i = 0; i < size; i++) {
    const d = i < ends ? first[i] : last[i - ends];
    [dx[i], dy[i]] = [d[0], d[1]];
  }
  const matrix = SCRATCH.matrices[size];
  for (const own of matrix) own.fill(0);
  const [x0, y0, x3, y3] = [x[from], y[from], x[to], y[to]];
  for (let k = 0; k < u.length; k++) {
    const t = u[k];
    const s = 1 - t;
    const b1 = 3 * s * s * t;
    const b2 = 3 * s * t * t;
    const w0 = s * s * s + b1;
    const w3 = t * t * t + b2;
    const restX = x[from + 1 + k] - w0 * x0 - w3 * x3;
    const restY = y[from + 1 + k] - w0 * y0 - w3 * y3;
    for (let i = 0; i < size; i++) {
      const w = i < ends ? b1 : b2;
      rowX[i] = w * dx[i];
      rowY[i] = w * dy[i];
    }
    for (let i = 0; i < size; i++) {
      const own = matrix[i];
      const [ax, ay] = [rowX[i], rowY[i]];
      for (let j = 0; j < size; j++) {
        own[j] += ax * rowX[j];
        own[j] += ay * rowY[j];
      }
      own[size] += ax * restX;
      own[size] += ay * restY;
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
