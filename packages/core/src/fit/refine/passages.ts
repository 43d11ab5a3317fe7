import { workSlice, type Work } from "../../maths/work";
import { type Cover, type Outline } from "./cover";
import { pieceOf } from "./piece";

/** Where outlines pass through pixels, in the order in which they run. Struct of arrays: there may be millions. */
export interface Passages {
  /** Number of the first passage of each outline, and, last, of all. */
  readonly starts: Int32Array;
  readonly cell: Int32Array;
  /** The knot that the piece begins at. */
  readonly knot: Int32Array;
  /** How far along the piece, 0..1, the middle of the passage lies. */
  readonly t: Float32Array;
  /** In pixels. */
  readonly length: Float32Array;
  /** How much more of the pixel is covered for each pixel that the piece's four points move: x and y of each. */
  readonly moves: Float32Array;
}

/** Places looked at along an outline lie no further apart, in pixels. */
const STEP = 0.15;
const OUTLINES_AT_ONCE = 64;

/** @param wanted  whether the piece from a knot is looked at */
export function* passagesOf(
  outlines: readonly Outline[],
  cover: Cover,
  wanted: (outline: number, knot: number) => boolean = () => true,
): Work<Passages> {
  const into = new Growing();
  const starts = new Int32Array(outlines.length + 1);
  for (const [o, knots] of outlines.entries()) {
    if (o % OUTLINES_AT_ONCE === 0) yield o / outlines.length;
    starts[o] = into.count;
    for (let k = 0; k < knots.length; k++) {
      if (k % OUTLINES_AT_ONCE === OUTLINES_AT_ONCE - 1) yield o / outlines.length;
      if (wanted(o, k)) follow(knots, k, cover, into);
    }
  }
  starts[outlines.length] = into.count;
  return into.ended(starts);
}

function follow(knots: Outline, k: number, cover: Cover, into: Growing): void {
  const { points: p, curved, length } = pieceOf(knots[k], knots[(k + 1) % knots.length]);
  const steps = Math.max(2, Math.ceil(length / STEP));
  let [cell, at] = [-1, -1];
  let [x0, y0] = [p[0], p[1]];
  for (let s = 0; s < steps; s++) {
    const [t, end] = [(s + 0.5) / steps, (s + 1) / steps];
    const left = 1 - end;
    let [x1, y1] = [left * p[0] + end * p[6], left * p[1] + end * p[7]];
    if (curved) {
      const [w0, w1, w2, w3] = [
        left * left * left,
        3 * left * left * end,
        3 * left * end * end,
        end * end * end,
      ];
      x1 = w0 * p[0] + w1 * p[2] + w2 * p[4] + w3 * p[6];
      y1 = w0 * p[1] + w1 * p[3] + w2 * p[5] + w3 * p[7];
    }
    const here = cover.cellAt((x0 + x1) / 2, (y0 + y1) / 2);
    const [dx, dy] = [x1 - x0, y1 - y0];
    [x0, y0] = [x1, y1];
    if (here < 0) {
      cell = -1;
      continue;
    }
    if (here !== cell) {
      at = into.begin(here, k, t);
      cell = here;
    }
    into.add(at, Math.sqrt(dx * dx + dy * dy), t);
    // What is covered lies to the right of the way, so more of it is covered where the piece moves to the left.
    const u = 1 - t;
    if (curved) {
      into.move(at, 0, u * u * u * dy, -u * u * u * dx);
      into.move(at, 1, 3 * u * u * t * dy, -3 * u * u * t * dx);
      into.move(at, 2, 3 * u * t * t * dy, -3 * u * t * t * dx);
      into.move(at, 3, t * t * t * dy, -t * t * t * dx);
    } else {
      into.move(at, 0, u * dy, -u * dx);
      into.move(at, 3, t * dy, -t * dx);
    }
  }
}

class Growing {
  count = 0;
  private cell = new Int32Array(1024);
  private knot = new Int32Array(1024);
  private t = new Float32Array(1024);
  private length = new Float32Array(1024);
  private moves = new Float32Array(8 * 1024);

  begin(cell: number, knot: number, t: number): number {
    if (this.count === this.cell.length) this.grow();
    const at = this.count++;
    this.cell[at] = cell;
    this.knot[at] = knot;
    this.t[at] = t;
    return at;
  }

  add(at: number, length: number, t: number): void {
    this.length[at] += length;
    this.t[at] += (t - this.t[at]) * (length / Math.max(this.length[at], 1e-9));
  }

  move(at: number, point: number, x: number, y: number): void {
    this.moves[8 * at + 2 * point] += x;
    this.moves[8 * at + 2 * point + 1] += y;
  }

  ended(starts: Int32Array): Passages {
    const { count, cell, knot, t, length, moves } = this;
    return {
      starts,
      cell: cell.subarray(0, count),
      knot: knot.subarray(0, count),
      t: t.subarray(0, count),
      length: length.subarray(0, count),
      moves: moves.subarray(0, 8 * count),
    };
  }

  private grow(): void {
    const wider = <T extends Int32Array | Float32Array>(from: T, to: T): T => (to.set(from), to);
    const size = 2 * this.cell.length;
    this.cell = wider(this.cell, new Int32Array(size));
    this.knot = wider(this.knot, new Int32Array(size));
    this.t = wider(this.t, new Float32Array(size));
    this.length = wider(this.length, new Float32Array(size));
    this.moves = wider(this.moves, new Float32Array(8 * size));
  }
}

/** Pixels of an outline to either side of a place over which is summed what is missing there. */
const WINDOW = 1.3;
/** What lies too far out and too far in beside each other counts by this share, though its sum is nothing. */
const BOTH = 0.6;

/** A passage through pixels where the picture has no edge lies so far off, in pixels: it is a spike, and no shape. */
export const STRAY = 9;

/**
 * How far, in pixels, an outline lies off at each passage: what is missing in the pixels it passes and in those beside
 * them, for each pixel of its length.
 */
export function* offAt(passages: Passages, cover: Cover): Work<Float32Array> {
  const missing = yield* workSlice(missingAt(passages, cover), 0, 0.6);
  const { starts, length } = passages;
  const off = new Float32Array(length.length);
  for (let o = 0; o + 1 < starts.length; o++) {
    yield 0.6 + (0.4 * o) / starts.length;
    const [first, end] = [starts[o], starts[o + 1]];
    for (let k = first; k < end; k++) {
      let [sum, both, long] = [missing[k], Math.abs(missing[k]), length[k]];
      for (const way of [1, -1]) {
        let along = length[k] / 2;
        for (let i = next(k, way); i !== k; i = next(i, way)) {
          along += length[i] / 2;
          if (along > WINDOW) break;
          sum += missing[i];
          both += Math.abs(missing[i]);
          long += length[i];
          along += length[i] / 2;
        }
      }
      off[k] = Math.max(Math.abs(sum), BOTH * both) / Math.max(long, 2 * WINDOW);
      if (!cover.isAtEdge(passages.cell[k])) off[k] = STRAY;
    }
    function next(k: number, way: number): number {
      const to = k + way;
      return to < first ? end - 1 : to === end ? first : to;
    }
  }
  return off;
}

/** What is missing in the pixel of each passage and in those beside it that none passes, each counted once. */
function* missingAt({ cell, length }: Passages, cover: Cover): Work<Float64Array> {
  const { scratch, width } = cover;
  const missing = new Float64Array(cell.length);
  const beside = [-width, -1, 1, width];
  for (let k = 0; k < cell.length; k++) scratch[cell[k]] += length[k];
  yield 0.2;
  // Where none passes a pixel, the lengths beside it are summed with the other sign.
  for (let k = 0; k < cell.length; k++)
    for (let j = 0; j < 4; j++) {
      const n = cell[k] + beside[j];
      if (scratch[n] <= 0) scratch[n] -= length[k];
    }
  yield 0.5;
  for (let k = 0; k < cell.length; k++) {
    missing[k] = (cover.missing(cell[k]) * length[k]) / Math.max(scratch[cell[k]], 1e-9);
    for (let j = 0; j < 4; j++) {
      const n = cell[k] + beside[j];
      if (scratch[n] < 0) missing[k] -= (cover.missing(n) * length[k]) / scratch[n];
    }
  }
  yield 0.8;
  for (let k = 0; k < cell.length; k++) {
    scratch[cell[k]] = 0;
    for (let j = 0; j < 4; j++) scratch[cell[k] + beside[j]] = 0;
  }
  return missing;
}
