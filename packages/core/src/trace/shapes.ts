import { type Work } from "../maths/work";
import { goesRound, ringArea, ringBox } from "../polygon/rings";
import { type Rect } from "../raster/types";
import { outlineAt, type Outlines } from "./outlines";

/** Outlines that are looked at between two slices. */
const OUTLINES_AT_ONCE = 2048;
/** A cell is so many pixels wide at least, and no box lies over more than so many of them either way. */
const [LEAST_CELL, BOX_OVER] = [16, 64];
/** Cells of one row have numbers that follow each other; no picture is so many cells wide. */
const ROW = 1 << 20;

export interface Kept {
  /** Numbers of the outlines that stay. */
  readonly kept: readonly number[];
  /** Numbers of those that go, holes of shapes that go left out. */
  readonly gone: readonly number[];
  /** Of every outline, in square pixels; a hole's below 0. */
  readonly area: Float64Array;
  /** How many shapes, and holes in shapes that stay, were too small. */
  readonly specks: number;
  readonly pinholes: number;
}

/**
 * Which outlines stay when shapes and holes under a size go. What lies in a hole of a shape that goes, goes by its own
 * size; the holes of a shape that goes, go with it, as by themselves they would be filled.
 *
 * @param smallest, smallestHole  in square pixels, of what an outline goes round
 */
export function* largeEnough(outlines: Outlines, smallest: number, smallestHole: number): Work<Kept> {
  const count = outlines.starts.length - 1;
  const area = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    if (k % OUTLINES_AT_ONCE === 0) yield k / (2 * count);
    area[k] = ringArea(outlineAt(outlines, k));
  }
  const gone = Array.from(area.keys()).filter((k) => area[k] > 0 && area[k] < smallest);
  const near = new Cells(gone.map((k) => [k, ringBox(outlineAt(outlines, k))]));
  const kept: number[] = [];
  const filled: number[] = [];
  for (let k = 0; k < count; k++) {
    if (k % OUTLINES_AT_ONCE === 0) yield (1 + k / count) / 2;
    if (area[k] > 0) {
      if (area[k] >= smallest) kept.push(k);
      continue;
    }
    // Only a hole smaller than the shapes that go can lie in one.
    const size = -area[k];
    const [x, y] = outlineAt(outlines, k);
    const isIn = (g: number): boolean => size < area[g] && goesRound(outlineAt(outlines, g), x, y);
    if (size < smallest && near.at(x, y).some(isIn)) continue;
    if (size >= smallestHole) kept.push(k);
    else filled.push(k);
  }
  return { kept, area, gone: [...gone, ...filled], specks: gone.length, pinholes: filled.length };
}

/** Which boxes lie over a place, found by the square cell of the plane that it is in. */
class Cells {
  private readonly cells = new Map<number, (readonly [number, Rect])[]>();
  private readonly side: number;

  constructor(boxes: readonly (readonly [number, Rect])[]) {
    const most = boxes.reduce((m, [, { width, height }]) => Math.max(m, width, height), 0);
    this.side = Math.max(LEAST_CELL, most / BOX_OVER);
    for (const entry of boxes) {
      const [, { x, y, width, height }] = entry;
      for (let v = this.cell(y); v <= this.cell(y + height); v++)
        for (let u = this.cell(x); u <= this.cell(x + width); u++) {
          const key = v * ROW + u;
          const held = this.cells.get(key);
          if (held) held.push(entry);
          else this.cells.set(key, [entry]);
        }
    }
  }

  /** The numbers of the boxes that hold a place. */
  at(x: number, y: number): number[] {
    const over = this.cells.get(this.cell(y) * ROW + this.cell(x)) ?? [];
    return over.flatMap(([k, box]) =>
      x >= box.x && x <= box.x + box.width && y >= box.y && y <= box.y + box.height ? [k] : [],
    );
  }

  private readonly cell = (place: number): number => Math.floor(place / this.side);
}
