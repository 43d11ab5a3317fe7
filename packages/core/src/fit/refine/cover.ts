import { addEdge } from "../../path/cover";
import { rowsAtOnce, type Work } from "../../maths/work";
import { type Knot } from "../../path/outline";
import { type Gray } from "../../raster/types";
import { pieceOf, placesOn } from "./piece";

export type Outline = readonly Knot[];

/** Round an edge some pixel is darker than this share, and some lighter by as much. */
const SOME = 0.15;
/** A curve is drawn as straight pieces of this many pixels. */
const STEP = 0.5;

/** How much of each pixel some outlines cover, beside how much of it the picture says is dark. */
export class Cover {
  readonly width: number;
  readonly height: number;
  /** For sums over pixels; whoever uses it leaves it all 0. */
  readonly scratch: Float32Array;
  private readonly covered: Float32Array;

  /** @param dark, light  greys of what is dark all over, and of what is not at all */
  constructor(
    private readonly gray: Gray,
    private readonly dark: number,
    private readonly light: number,
  ) {
    this.width = gray.width;
    this.height = gray.height;
    this.covered = new Float32Array(gray.width * gray.height);
    this.scratch = new Float32Array(gray.width * gray.height);
  }

  /** Outlines run clockwise on the screen round what they cover, holes the other way. */
  *draw(outlines: readonly Outline[]): Work<void> {
    const { covered, width, height } = this;
    covered.fill(0);
    for (const [k, knots] of outlines.entries()) {
      yield k / outlines.length;
      knots.forEach((a, i) => {
        const places = placesOn(pieceOf(a, knots[(i + 1) % knots.length]), STEP);
        for (let p = 0; p + 3 < places.length; p += 2)
          addEdge(covered, width, height, places[p], places[p + 1], places[p + 2], places[p + 3]);
      });
    }
    const atOnce = rowsAtOnce(width);
    for (let y = 0, i = 0; y < height; y++) {
      if (y % atOnce === 0) yield y / height;
      let sum = 0;
      for (let x = 0; x < width; x++, i++) {
        sum -= covered[i];
        covered[i] = sum < 0 ? 0 : sum > 1 ? 1 : sum;
      }
    }
  }

  /** Share of a pixel that is dark in the picture and not covered; less than 0 where more is covered. */
  missing(cell: number): number {
    return this.wanted(cell) - this.covered[cell];
  }

  private wanted(cell: number): number {
    const share = (this.light - this.gray.data[cell]) / (this.light - this.dark);
    return share < 0 ? 0 : share > 1 ? 1 : share;
  }

  /** Whether a pixel and those round it are neither all dark nor all light. */
  isAtEdge(cell: number): boolean {
    const { width, height } = this;
    const [x, y] = [cell % width, Math.floor(cell / width)];
    if (x === 0 || y === 0 || x === width - 1 || y === height - 1) return true; // beyond it nothing is dark
    let [least, most] = [1, 0];
    for (let v = -width; v <= width; v += width)
      for (let u = -1; u <= 1; u++) {
        const share = this.wanted(cell + v + u);
        if (share < least) least = share;
        if (share > most) most = share;
      }
    return least < 1 - SOME && most > SOME;
  }

  /** The number of the pixel that a place lies in; -1 outside the picture. */
  cellAt(x: number, y: number): number {
    const [column, row] = [Math.floor(x), Math.floor(y)];
    return column < 0 || row < 0 || column >= this.width || row >= this.height
      ? -1
      : row * this.width + column;
  }

  /** The pixels beside one, above, below and to both sides. */
  beside(cell: number): number[] {
    const { width, height } = this;
    const [x, y] = [cell % width, Math.floor(cell / width)];
    const out: number[] = [];
    if (x > 0) out.push(cell - 1);
    if (x + 1 < width) out.push(cell + 1);
    if (y > 0) out.push(cell - width);
    if (y + 1 < height) out.push(cell + width);
    return out;
  }
}
