import { type Work } from "../maths/work";
import { type Polyline } from "../path/flatten";

/** Straight pieces of lines in a grid, so that those near to each other are found without looking at all. */
export interface Segments {
  readonly count: number;
  /** x, y of the beginning and of the end of each. */
  readonly ends: Float64Array;
  /** Number of the line that each is of. */
  readonly line: Int32Array;
  /** How far along its line it begins, in mm. */
  readonly along: Float64Array;
  /** Length and closedness of every line. */
  readonly lengths: Float64Array;
  readonly closed: readonly boolean[];
  readonly cellMm: number;
  readonly cells: ReadonlyMap<number, readonly number[]>;
}

/** Cells across; more than any sheet has. */
const ACROSS = 1 << 20;
const cellAt = (column: number, row: number): number => (row + ACROSS / 2) * ACROSS + column + ACROSS / 2;

/** Pieces between two slices. */
const AT_ONCE = 8192;

/** Puts the straight pieces of lines into a grid. @param reachMm  how far off pieces are looked for later, at most */
export function* segmentsOf(lines: readonly Polyline[], reachMm: number): Work<Segments> {
  const count = lines.reduce((sum, { points }) => sum + Math.max(0, points.length / 2 - 1), 0);
  const [ends, line, along] = [new Float64Array(4 * count), new Int32Array(count), new Float64Array(count)];
  const lengths = new Float64Array(lines.length);
  let all = 0;
  for (const [l, { points }] of lines.entries())
    for (let k = 0; k + 3 < points.length; k += 2, all++) {
      if (all % AT_ONCE === 0) yield (0.3 * all) / count;
      for (let n = 0; n < 4; n++) ends[4 * all + n] = points[k + n];
      line[all] = l;
      along[all] = lengths[l];
      const [dx, dy] = [points[k + 2] - points[k], points[k + 3] - points[k + 1]];
      lengths[l] += Math.sqrt(dx * dx + dy * dy);
    }
  const mean = lengths.reduce((a, b) => a + b, 0) / Math.max(1, count);
  const cellMm = Math.max(2 * mean, reachMm, 0.01);
  const cells = new Map<number, number[]>();
  for (let s = 0; s < count; s++) {
    if (s % AT_ONCE === 0) yield 0.3 + (0.7 * s) / count;
    eachCell(ends, 4 * s, 0, cellMm, (cell) => {
      const there = cells.get(cell);
      if (there) there.push(s);
      else cells.set(cell, [s]);
    });
  }
  return { count, ends, line, along, lengths, closed: lines.map((l) => l.closed), cellMm, cells };
}

/** Every cell of a piece's box; long slanting pieces are taken row by row, so that few others are met. */
function eachCell(
  ends: ArrayLike<number>,
  from: number,
  reachMm: number,
  cellMm: number,
  act: (cell: number) => void,
): void {
  const [ax, ay, bx, by] = [ends[from], ends[from + 1], ends[from + 2], ends[from + 3]];
  const top = Math.floor((Math.min(ay, by) - reachMm) / cellMm);
  const bottom = Math.floor((Math.max(ay, by) + reachMm) / cellMm);
  for (let row = top; row <= bottom; row++) {
    const [x0, x1] =
      by === ay
        ? [ax, bx]
        : [xAt(ax, ay, bx, by, row * cellMm - reachMm), xAt(ax, ay, bx, by, (row + 1) * cellMm + reachMm)];
    const last = Math.floor((Math.max(x0, x1) + reachMm) / cellMm);
    for (let column = Math.floor((Math.min(x0, x1) - reachMm) / cellMm); column <= last; column++)
      act(cellAt(column, row));
  }
}

/** Where a slanting piece is at a height; beyond its ends, where it ends. */
const xAt = (ax: number, ay: number, bx: number, by: number, y: number): number =>
  ax + ((bx - ax) * (Math.max(Math.min(ay, by), Math.min(Math.max(ay, by), y)) - ay)) / (by - ay);

/** The pieces within a reach of one, and perhaps a few more, each once. */
export function nearTo({ ends, cells, cellMm }: Segments, s: number, reachMm: number): Set<number> {
  const found = new Set<number>();
  eachCell(ends, 4 * s, reachMm, cellMm, (cell) => {
    for (const other of cells.get(cell) ?? []) if (other !== s) found.add(other);
  });
  return found;
}

/** The pieces that come within a distance of a place. */
export function within(
  { ends, cells, cellMm }: Segments,
  x: number,
  y: number,
  distanceMm: number,
): number[] {
  const found = new Set<number>();
  eachCell([x, y, x, y], 0, distanceMm, cellMm, (cell) => {
    for (const s of cells.get(cell) ?? []) {
      const [ax, ay] = [ends[4 * s], ends[4 * s + 1]];
      const [dx, dy] = [ends[4 * s + 2] - ax, ends[4 * s + 3] - ay];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
      const [px, py] = [ax + t * dx - x, ay + t * dy - y];
      if (px * px + py * py <= distanceMm * distanceMm) found.add(s);
    }
  });
  return [...found];
}

/** How far two places of one line lie apart along it, the shorter way round a closed one. */
export function apartAlong({ line, along, lengths, closed }: Segments, a: number, b: number): number {
  if (line[a] !== line[b]) return Infinity;
  const off = Math.abs(along[a] - along[b]);
  return closed[line[a]] ? Math.min(off, lengths[line[a]] - off) : off;
}
