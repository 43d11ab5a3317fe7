import { type Clearing } from "./clearing";
import { EdgeCells } from "./edgeCells";
import { REACH } from "./edgeWalk";

/**
 * The pixels at the edge between taken background and art: which taken pixel each is nearest to, and how far off it lies. They
 * are told one after another, inwards from the edge.
 */
export class Rim {
  readonly width: number;
  readonly height: number;
  /** Kinds of edge (sharp, soft), by stretches of it. */
  readonly cells: EdgeCells;
  /** Of pixels of the rim: number of the nearest taken pixel, and one; 0 elsewhere. */
  readonly nearest: Int32Array;
  /** Their squared distance from it. */
  readonly square: Uint16Array;
  /** Pixels of the rim by that distance. */
  readonly waiting: number[][] = [];

  constructor(private readonly clearing: Clearing) {
    const { width, height } = clearing.source;
    [this.width, this.height] = [width, height];
    this.cells = new EdgeCells(width, height);
    this.nearest = new Int32Array(width * height);
    this.square = new Uint16Array(width * height);
  }

  isArt(i: number): boolean {
    const { taken, data } = this.clearing;
    return taken[i] === 0 && data[i * 4 + 3] !== 0;
  }

  /** Whether a pixel has art to its left, right, above or below. */
  touchesArt(i: number, x: number, y: number): boolean {
    const { width, height } = this;
    return (
      (x > 0 && this.isArt(i - 1)) ||
      (x + 1 < width && this.isArt(i + 1)) ||
      (y > 0 && this.isArt(i - width)) ||
      (y + 1 < height && this.isArt(i + width))
    );
  }

  /** The eight pixels around one, as far as there are. */
  around(i: number, act: (j: number) => void): void {
    const { width } = this;
    const x = i % width;
    const [top, foot] = [i >= width ? -width : 0, i + width < this.nearest.length ? width : 0];
    for (let row = top; row <= foot; row += width) {
      if (x > 0) act(i + row - 1);
      if (row !== 0) act(i + row);
      if (x + 1 < width) act(i + row + 1);
    }
  }

  /** Tells the art around a pixel of a taken pixel q that may be its nearest. */
  tellArtAround(i: number, q: number): void {
    this.around(i, (j) => {
      if (this.isArt(j)) this.tell(j, q);
    });
  }

  private tell(j: number, q: number): void {
    const { width, square, cells } = this;
    const [dx, dy] = [(j % width) - (q % width), Math.floor(j / width) - Math.floor(q / width)];
    const d = dx * dx + dy * dy;
    if (square[j] !== 0 && square[j] <= d) return;
    const reach = d <= REACH.sharp ** 2 ? REACH.sharp : REACH[cells.kindAt(q % width, Math.floor(q / width))];
    if (d > reach * reach) return;
    square[j] = d;
    this.nearest[j] = q + 1;
    (this.waiting[d] ??= []).push(j);
  }

  /** The way from a taken pixel to the art it touches; null in a gap between art on both sides. */
  inwardsAt(i: number): readonly [number, number] | null {
    const { width, height } = this;
    const [x, y] = [i % width, Math.floor(i / width)];
    const dx = Number(x + 1 < width && this.isArt(i + 1)) - Number(x > 0 && this.isArt(i - 1));
    const dy = Number(y + 1 < height && this.isArt(i + width)) - Number(y > 0 && this.isArt(i - width));
    if (dx === 0 && dy === 0) return null;
    const length = Math.sqrt(dx * dx + dy * dy);
    return [dx / length, dy / length];
  }
}
