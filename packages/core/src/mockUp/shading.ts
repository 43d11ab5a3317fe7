import { expMinus, sinPi } from "../maths/steady";
import { workSlice, type Work } from "../maths/work";
import { coverOfRings } from "../path/cover";
import { flattened } from "../path/flatten";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import { type Drawn, type Fold } from "./thing";

/** Numbers on a coarse grid over a picture, in its own units. */
export interface Lattice {
  readonly columns: number;
  readonly rows: number;
  /** Units from one number to the next. */
  readonly step: number;
  readonly values: Float32Array;
}

/**
 * One row of a lattice as pixels see it.
 * @param x, dx  the first pixel's middle and the way to the next, in the lattice's units
 */
export function latticeRow(
  { columns, rows, step, values }: Lattice,
  x: number,
  dx: number,
  y: number,
  into: Float32Array,
): void {
  const v = Math.max(0, Math.min(rows - 1, y / step - 0.5));
  const j = Math.min(rows - 1, Math.floor(v));
  const b = v - j;
  const [above, below] = [j * columns, Math.min(rows - 1, j + 1) * columns];
  const row = rowBetween(values, above, below, b, columns);
  pixelsOfRow(row, columns - 1, x / step - 0.5, dx / step, into);
}

function rowBetween(
  values: Float32Array,
  above: number,
  below: number,
  b: number,
  columns: number,
): Float32Array {
  const row = new Float32Array(columns + 1);
  for (let i = 0; i < columns; i++) row[i] = values[above + i] * (1 - b) + values[below + i] * b;
  row[columns] = row[columns - 1];
  return row;
}

function pixelsOfRow(row: Float32Array, last: number, from: number, by: number, into: Float32Array): void {
  let u = from;
  for (let k = 0; k < into.length; k++, u += by) {
    if (u <= 0) into[k] = row[0];
    else if (u >= last) into[k] = row[last];
    else {
      const i = u | 0;
      into[k] = row[i] + (row[i + 1] - row[i]) * (u - i);
    }
  }
}

/** Numbers along the longer side: fine enough for folds, few enough to be had at once. */
const ALONG = 320;

/** What a thing's own form does to the light on it, and the shadow that it throws. */
export interface Shading {
  /** Light on the thing, 1 where it is even. */
  readonly light: Lattice;
  /** 1 where its shadow is deepest. */
  readonly shadow: Lattice;
}

/** The light on a drawn thing: less where it turns away at its outline, and more and less along its folds. */
export function* shadingOf(drawn: Drawn): Work<Shading> {
  const { widthMm, heightMm, folds, rounded, light } = drawn;
  const step = Math.max(widthMm, heightMm) / ALONG;
  const columns = Math.max(2, Math.ceil(widthMm / step));
  const rows = Math.max(2, Math.ceil(heightMm / step));
  const body = drawn.parts.filter((p) => !p.behind)[0];
  const cover = yield* workSlice(coverOf(body.path, step, columns, rows), 0, 0.3);
  const near = Float32Array.from(cover, (c) => c / 255);
  const inner = rounded ? softened(near, columns, rows, rounded.mm / step) : near;
  const whole = yield* workSlice(
    coverOf(
      drawn.parts.flatMap((p) => p.path),
      step,
      columns,
      rows,
    ),
    0.3,
    0.5,
  );
  const shadow = softened(
    Float32Array.from(whole, (c) => c / 255),
    ...([columns, rows, 14] as const),
  );
  const values = new Float32Array(columns * rows);
  for (let j = 0, k = 0; j < rows; j++) {
    if (j % 32 === 0) yield 0.5 + (0.5 * j) / rows;
    for (let i = 0; i < columns; i++, k++) {
      const [x, y] = [(i + 0.5) * step, (j + 0.5) * step];
      let value = light ? light(x, y) : 1;
      if (rounded) {
        const t = Math.max(0, Math.min(1, 2 * inner[k] - 1));
        value *= rounded.shade + (1 - rounded.shade) * t * (2 - t);
      }
      for (const fold of folds) value += foldAt(fold, x, y);
      values[k] = Math.max(0.1, value);
    }
  }
  const grid = { columns, rows, step };
  return { light: { ...grid, values }, shadow: { ...grid, values: shadow } };
}

/** A ridge across its line: light on one side, dark on the other, as the slope of a bell is; none at its ends. */
function foldAt({ from, to, widthMm, depth }: Fold, x: number, y: number): number {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const long = dx * dx + dy * dy;
  const t = ((x - from[0]) * dx + (y - from[1]) * dy) / long;
  if (t <= 0 || t >= 1) return 0;
  const across = ((x - from[0]) * dy - (y - from[1]) * dx) / Math.sqrt(long) / (widthMm / 2);
  if (across > 4 || across < -4) return 0;
  const end = sinPi(t);
  return depth * 1.65 * across * expMinus((across * across) / 2) * end * end;
}

/** How much of each cell a part covers, 0..255. */
function coverOf(path: KnotPath | readonly KnotPath[], step: number, columns: number, rows: number) {
  return coverOfRings(ringsOfPart(path, 0, 0, 1 / step), columns, rows);
}

/** A part's outlines, moved and scaled. */
export function ringsOfPart(
  path: KnotPath | readonly KnotPath[],
  left: number,
  top: number,
  scale: number,
): Float64Array[] {
  const set = pathSetOf({ name: "", use: "fill", colour: 0 }, "knots" in path ? [path] : path);
  return flattened(set, 0.2 / scale).map(({ points }) =>
    points.map((v, k) => (v - (k % 2 === 0 ? left : top)) * scale),
  );
}

/** Softened by three passes of a mean, which come near to a bell of about that radius. */
function softened(from: Float32Array, columns: number, rows: number, radius: number): Float32Array {
  const r = Math.max(1, Math.round(radius / 2));
  let at = from;
  for (let k = 0; k < 3; k++) at = meanDown(meanAcross(at, columns, rows, r), columns, rows, r);
  return at;
}

function meanAcross(from: Float32Array, columns: number, rows: number, r: number): Float32Array {
  const out = new Float32Array(from.length);
  for (let j = 0; j < rows; j++) {
    const row = j * columns;
    let sum = 0;
    for (let i = -r; i <= r; i++) sum += from[row + Math.max(0, Math.min(columns - 1, i))];
    for (let i = 0; i < columns; i++) {
      out[row + i] = sum / (2 * r + 1);
      sum += from[row + Math.min(columns - 1, i + r + 1)] - from[row + Math.max(0, i - r)];
    }
  }
  return out;
}

function meanDown(from: Float32Array, columns: number, rows: number, r: number): Float32Array {
  const out = new Float32Array(from.length);
  for (let i = 0; i < columns; i++) {
    let sum = 0;
    for (let j = -r; j <= r; j++) sum += from[Math.max(0, Math.min(rows - 1, j)) * columns + i];
    for (let j = 0; j < rows; j++) {
      out[j * columns + i] = sum / (2 * r + 1);
      sum += from[Math.min(rows - 1, j + r + 1) * columns + i] - from[Math.max(0, j - r) * columns + i];
    }
  }
  return out;
}
