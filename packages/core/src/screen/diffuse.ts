import { rowsAtOnce, type Work } from "../maths/work";
import { packRow } from "../raster/bits";
import { newBits, type Bits, type Cover, type Gray } from "../raster/types";
import { type Kernel } from "./kernels";

export interface Diffusion {
  readonly kernel: Kernel;
  /** Share of the error that is passed on, 0..1. */
  readonly strength: number;
  /** Every second row runs right to left. */
  readonly serpentine: boolean;
  /** How much sooner a pixel is marked for being dark itself, which keeps edges that errors would blur; 0..4. */
  readonly edges?: number;
}

/**
 * Error diffusion in double precision: a pixel is white when its value is 128 or more; what that decision is off
 * by, times `strength`, is spread over neighbours not yet done. Shares that would fall outside the picture
 * or outside the art are dropped. Outside the art nothing is marked.
 *
 * The errors of a row live in a few locals that slide along with the pixel, so each row is read and written
 * once; sums are taken in the order in which a plain implementation, adding into one picture of doubles,
 * would take them, and so have the same bits.
 *
 * With `edges` the limit of 128 moves away from the pixel's own grey by so many times what lies between them. Errors
 * are those of the decision as before, so even tones come out as they are.
 *
 * @param picture  grey 0..255
 * @param cover    zero = outside the art
 * @see the papers named with the kernels
 * @see Eschbach & Knox, "Error-diffusion algorithm with edge enhancement", J. Opt. Soc. Am. A 8, 1991, for `edges`
 */
export function* diffuse(
  picture: Gray,
  cover: Cover,
  { kernel, strength, serpentine, edges = 0 }: Diffusion,
): Work<Bits> {
  const { width, height } = picture;
  const bits = newBits(width, height);
  const weights = fractions(kernel);
  const reach = kernel.below2.some((w) => w > 0) ? 2 : 1;
  const limits = new Float64Array(width).fill(128);
  const spread = reach === 2 ? overTwoRows : kernel.ahead[1] > 0 ? overOneRow : overNearest;
  // Rows carry two spare pixels at both ends, where shares that fall outside collect unread.
  let current = new Float64Array(width + 4);
  let next = new Float64Array(width + 4);
  let afterNext = new Float64Array(width + 4);
  const incoming = new Uint8Array(width + 4); // the row of the picture that this row's errors reach first
  const keep = new Float64Array(width).fill(strength);
  const marks = new Uint8Array(width);

  const reversed = (y: number) => serpentine && (y & 1) === 1;
  loadRow(picture, 0, false, incoming);
  current.set(incoming);
  loadRow(picture, 1, false, incoming);
  if (reach === 2) next.set(incoming);
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    loadRow(picture, y + reach, reversed(y), incoming);
    if (cover) loadKeep(cover, y * width, width, strength, reversed(y), keep);
    if (edges > 0) loadLimits(picture, y, edges, reversed(y), limits);
    spread(current, next, afterNext, incoming, keep, limits, marks, width, weights);
    if (reversed(y)) marks.reverse();
    if (cover) clearOutside(marks, cover, y * width);
    packRow(marks, bits, y);
    if (serpentine) {
      flip(next, width);
      flip(afterNext, width);
    }
    const done = current;
    current = next;
    next = reach === 2 ? afterNext : done;
    afterNext = reach === 2 ? done : afterNext;
  }
  return bits;
}

interface Fractions {
  readonly a1: number;
  readonly a2: number;
  readonly below: readonly number[];
  readonly below2: readonly number[];
}

function fractions({ divisor, ahead, below, below2 }: Kernel): Fractions {
  const share = (w: number) => w / divisor;
  return { a1: share(ahead[0]), a2: share(ahead[1]), below: below.map(share), below2: below2.map(share) };
}

/** A row of the picture between two spare pixels; below the picture the last one stays, which nobody reads. */
function loadRow({ width, height, data }: Gray, y: number, reverse: boolean, row: Uint8Array): void {
  if (y >= height) return;
  const inside = row.subarray(2, width + 2);
  inside.set(data.subarray(y * width, (y + 1) * width));
  if (reverse) inside.reverse();
}

/** The factor on each pixel's error: the strength inside the art, nothing outside. */
function loadKeep(
  cover: Uint8Array,
  start: number,
  width: number,
  strength: number,
  reverse: boolean,
  keep: Float64Array,
) {
  for (let x = 0; x < width; x++) {
    keep[x] = cover[start + (reverse ? width - 1 - x : x)] === 0 ? 0 : strength;
  }
}

/** Under which value each pixel is marked. */
function loadLimits(
  { width, data }: Gray,
  y: number,
  edges: number,
  reverse: boolean,
  limits: Float64Array,
): void {
  for (let x = 0, i = y * width; x < width; x++, i++) limits[x] = 128 - edges * (data[i] - 128);
  if (reverse) limits.reverse();
}

function clearOutside(marks: Uint8Array, cover: Uint8Array, start: number): void {
  for (let x = 0; x < marks.length; x++) if (cover[start + x] === 0) marks[x] = 0;
}

/** Turns a row round, so that the next row may run the other way. */
function flip(row: Float64Array, width: number): void {
  row.subarray(2, width + 2).reverse();
}

/*
 * One row each, left to right. What a decision is off by is looked up by the decision (`OFF`), which a processor
 * does without guessing a branch. Weights are the same behind and ahead, so each product is made once.
 */

/** What is taken off a value: all of white when it is left white, nothing when it is marked. */
const OFF = Float64Array.of(255, 0);

type SpreadRow = (
  current: Float64Array,
  next: Float64Array,
  afterNext: Float64Array,
  incoming: Uint8Array,
  keep: Float64Array,
  limits: Float64Array,
  marks: Uint8Array,
  width: number,
  weights: Fractions,
) => void;

/** Kernels that reach one pixel ahead and one row down; the only ones that may differ to left and right. */
const overNearest: SpreadRow = (
  current,
  next,
  _afterNext,
  incoming,
  keep,
  limits,
  marks,
  width,
  { a1, below },
) => {
  const [, m1, mid, p1] = below;
  let error = 0;
  let n0 = 0;
  let n1 = incoming[2];
  for (let x = 0; x < width; x++) {
    const v = current[x + 2] + error * a1;
    const mark = +(v < limits[x]);
    error = (v - OFF[mark]) * keep[x];
    marks[x] = mark;
    next[x + 1] = n0 + error * m1;
    n0 = n1 + error * mid;
    n1 = incoming[x + 3] + error * p1;
  }
  next[width + 1] = n0;
};

/** Kernels that reach two pixels ahead and one row down. */
const overOneRow: SpreadRow = (
  current,
  next,
  _afterNext,
  incoming,
  keep,
  limits,
  marks,
  width,
  { a1, a2, below },
) => {
  const [far, near, middle] = below;
  let error = 0;
  let before = 0;
  let n0 = 0;
  let n1 = 0;
  let n2 = incoming[2];
  let n3 = incoming[3];
  for (let x = 0; x < width; x++) {
    const v = current[x + 2] + before * a2 + error * a1;
    const mark = +(v < limits[x]);
    before = error;
    error = (v - OFF[mark]) * keep[x];
    marks[x] = mark;
    const f = error * far;
    const n = error * near;
    next[x] = n0 + f;
    n0 = n1 + n;
    n1 = n2 + error * middle;
    n2 = n3 + n;
    n3 = incoming[x + 4] + f;
  }
  next[width] = n0;
  next[width + 1] = n1;
};

/** Kernels that reach two pixels ahead and two rows down. */
const overTwoRows: SpreadRow = (
  current,
  next,
  afterNext,
  incoming,
  keep,
  limits,
  marks,
  width,
  { a1, a2, below, below2 },
) => {
  const [far, near, middle] = below;
  const [far2, near2, middle2] = below2;
  let error = 0;
  let before = 0;
  let n0 = 0;
  let n1 = 0;
  let n2 = next[2];
  let n3 = next[3];
  let t0 = 0;
  let t1 = 0;
  let t2 = incoming[2];
  let t3 = incoming[3];
  for (let x = 0; x < width; x++) {
    const v = current[x + 2] + before * a2 + error * a1;
    const mark = +(v < limits[x]);
    before = error;
    error = (v - OFF[mark]) * keep[x];
    marks[x] = mark;
    const f = error * far;
    const n = error * near;
    next[x] = n0 + f;
    n0 = n1 + n;
    n1 = n2 + error * middle;
    n2 = n3 + n;
    n3 = next[x + 4] + f;
    const f2 = error * far2;
    const m2 = error * near2;
    afterNext[x] = t0 + f2;
    t0 = t1 + m2;
    t1 = t2 + error * middle2;
    t2 = t3 + m2;
    t3 = incoming[x + 4] + f2;
  }
  next[width] = n0;
  next[width + 1] = n1;
  afterNext[width] = t0;
  afterNext[width + 1] = t1;
};
