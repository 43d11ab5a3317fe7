import { addEdge } from "../../path/cover";
import { rowsAtOnce, type Work } from "../../maths/work";
import { type Knot } from "../../path/outline";
import { type Gray } from "../../raster/types";
import { type Levels } from "./levels";
import { pieceOf, placesOn } from "./piece";

export type Outline = readonly Knot[];

/** Round an edge some pixel is darker than this share, and some lighter by as much. */
const SOME = 0.15;
/** A curve is drawn as straight pieces of this many pixels. */
const STEP = 0.5;
/** Pixels of paper round the picture, so that every pixel an outline passes has others round it. */
const ROUND = 2;

/**
 * How much of each pixel some outlines cover, beside how much of it the picture says is dark. Pixels go by the number of
 * their cell, row by row, some paper round the picture among them.
 */
export class Cover {
  /** Cells of a row. */
  readonly width: number;
  readonly height: number;
  /** For sums over cells; whoever uses it leaves it all 0. */
  readonly scratch: Float32Array;
  /** Share of each cell that is dark, of 255. */
  private readonly dark: Uint8Array;
  private readonly covered: Float32Array;

  constructor({ width, height, data }: Gray, { dark, light }: Levels) {
    this.width = width + 2 * ROUND;
    this.height = height + 2 * ROUND;
    this.dark = new Uint8Array(this.width * this.height);
    this.covered = new Float32Array(this.dark.length);
    this.scratch = new Float32Array(this.dark.length);
    const share = Uint8Array.from({ length: 256 }, (_, grey) =>
      Math.round(255 * Math.min(1, Math.max(0, (light - grey) / (light - dark)))),
    );
    for (let y = 0; y < height; y++)
      for (let x = 0, at = (y + ROUND) * this.width + ROUND; x < width; x++, at++)
        this.dark[at] = share[data[y * width + x]];
  }

  /** What some outlines cover. They run clockwise on the screen round it, holes the other way. */
  *draw(outlines: readonly Outline[]): Work<void> {
    const { covered, width, height } = this;
    covered.fill(0);
    for (const [k, knots] of outlines.entries()) {
      yield k / outlines.length;
      for (let i = 0; i < knots.length; i++)
        this.add(covered, knots[i], knots[(i + 1) % knots.length], false);
    }
    const atOnce = rowsAtOnce(width);
    for (let y = 0, i = 0; y < height; y++) {
      if (y % atOnce === 0) yield y / height;
      let sum = 0;
      for (let x = 0; x < width; x++, i++) covered[i] = sum -= covered[i];
    }
  }

  /** The same after one outline became another. Only pieces that changed are drawn, and only rows that they lie in. */
  swap(before: Outline, after: Outline): void {
    const { scratch, covered, width } = this;
    const next = new Map(before.map((knot, k) => [knot, before[(k + 1) % before.length]]));
    let [top, bottom, left, right] = [Infinity, -Infinity, Infinity, -Infinity];
    const add = (a: Knot, b: Knot, backwards: boolean): void => {
      const box = this.add(scratch, a, b, backwards);
      top = Math.min(top, box[1]);
      bottom = Math.max(bottom, box[3]);
      left = Math.min(left, box[0]);
      right = Math.max(right, box[2]);
    };
    after.forEach((knot, k) => {
      const to = after[(k + 1) % after.length];
      if (next.get(knot) === to) next.delete(knot);
      else add(knot, to, false);
    });
    for (const [knot, to] of next) add(knot, to, true);
    if (top > bottom) return;
    const [first, last] = [Math.max(0, Math.floor(left)), Math.min(width - 1, Math.floor(right) + 1)];
    const end = Math.min(this.height - 1, Math.floor(bottom));
    for (let y = Math.max(0, Math.floor(top)); y <= end; y++) {
      let sum = 0;
      for (let i = y * width + first; i <= y * width + last; i++) {
        sum -= scratch[i];
        scratch[i] = 0;
        covered[i] += sum;
      }
    }
  }

  /** Adds the edges of one piece to sums along rows. @returns  left, top, right and bottom of where it lies, in cells */
  private add(into: Float32Array, a: Knot, b: Knot, backwards: boolean): readonly number[] {
    const { width, height } = this;
    const places = placesOn(pieceOf(a, b), STEP);
    const box = [Infinity, Infinity, -Infinity, -Infinity];
    for (let p = 0; p < places.length; p += 2) {
      const [x, y] = [places[p] + ROUND, places[p + 1] + ROUND];
      if (x < box[0]) box[0] = x;
      if (y < box[1]) box[1] = y;
      if (x > box[2]) box[2] = x;
      if (y > box[3]) box[3] = y;
      if (p === 0) continue;
      const [fx, fy] = [places[p - 2] + ROUND, places[p - 1] + ROUND];
      if (backwards) addEdge(into, width, height, x, y, fx, fy);
      else addEdge(into, width, height, fx, fy, x, y);
    }
    return box;
  }

  /** Share of a cell that is dark in the picture and not covered; less than 0 where more is covered. */
  missing(cell: number): number {
    const covered = this.covered[cell];
    return this.dark[cell] / 255 - (covered < 0 ? 0 : covered > 1 ? 1 : covered);
  }

  /** Whether a cell and those round it are neither all dark nor all light. */
  isAtEdge(cell: number): boolean {
    const { dark, width } = this;
    let [least, most] = [255, 0];
    for (let row = cell - width; row <= cell + width; row += width)
      for (let c = row - 1; c <= row + 1; c++) {
        if (dark[c] < least) least = dark[c];
        if (dark[c] > most) most = dark[c];
      }
    return least < 255 * (1 - SOME) && most > 255 * SOME;
  }

  /** The cell that a place in the picture lies in; -1 where there is no cell all round it. */
  cellAt(x: number, y: number): number {
    const [column, row] = [Math.floor(x) + ROUND, Math.floor(y) + ROUND];
    const isIn = column > 0 && row > 0 && column < this.width - 1 && row < this.height - 1;
    return isIn ? row * this.width + column : -1;
  }
}
