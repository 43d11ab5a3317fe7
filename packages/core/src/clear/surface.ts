/**
 * A colour that changes slowly over a picture: the mean of what is known in each cell, carried on to cells where nothing is,
 * and blended from cell to cell.
 *
 * @see Gortler et al., "The Lumigraph", SIGGRAPH 1996 (pull-push, which carries colours on)
 */
export class Surface {
  private readonly grid: Grid;

  /** @param cell  pixels along a cell's side */
  constructor(
    sums: Sums,
    private readonly cell: number,
  ) {
    this.grid = filled(sums);
  }

  /** Writes the colour at a pixel, three numbers in code values. */
  at(x: number, y: number, out: Float64Array): void {
    blend(this.grid, (x + 0.5) / this.cell - 0.5, (y + 0.5) / this.cell - 0.5, out, 0);
  }
}

/** Cells in rows: three means and how much is known, for each. */
interface Grid {
  readonly across: number;
  readonly down: number;
  readonly cells: Float32Array;
}

/** Sums of what is known in each cell: three colours and how many pixels. */
export class Sums implements Grid {
  readonly across: number;
  readonly down: number;
  readonly cells: Float32Array;

  constructor(width: number, height: number, cell: number) {
    [this.across, this.down] = [Math.ceil(width / cell), Math.ceil(height / cell)];
    this.cells = new Float32Array(4 * this.across * this.down);
  }

  /** Adds a colour to a cell. @param o  where its three numbers begin */
  add(column: number, row: number, data: Uint8Array, o: number): void {
    const at = 4 * (row * this.across + column);
    for (let k = 0; k < 3; k++) this.cells[at + k] += data[o + k];
    this.cells[at + 3]++;
  }

  get isEmpty(): boolean {
    for (let o = 3; o < this.cells.length; o += 4) if (this.cells[o] > 0) return false;
    return true;
  }
}

/** Means of all cells from sums of those that know something: halved until everything is known, then blended back. */
function filled({ across, down, cells }: Grid): Grid {
  const means = cells.map((sum, k) => (k % 4 === 3 ? sum : sum / Math.max(1, cells[k | 3])));
  const own = { across, down, cells: means };
  let missing = false;
  for (let o = 3; o < cells.length; o += 4) missing ||= cells[o] === 0;
  if (!missing) return own;
  const half = { across: Math.ceil(across / 2), down: Math.ceil(down / 2) };
  const sums = new Float32Array(4 * half.across * half.down);
  for (let o = 0; o < cells.length; o++) {
    const [x, y] = [(o >> 2) % across, Math.floor((o >> 2) / across)];
    sums[4 * ((y >> 1) * half.across + (x >> 1)) + (o & 3)] += cells[o];
  }
  const wide = filled({ ...half, cells: sums });
  for (let o = 0; o < cells.length; o += 4) {
    const [x, y] = [(o >> 2) % across, Math.floor((o >> 2) / across)];
    if (cells[o + 3] === 0) blend(wide, (x + 0.5) / 2 - 0.5, (y + 0.5) / 2 - 0.5, means, o);
  }
  return own;
}

/** What lies between the four cells about a place, in cells. */
function blend(
  { across, down, cells }: Grid,
  u: number,
  v: number,
  out: Float64Array | Float32Array,
  to: number,
): void {
  const x = Math.min(across - 1, Math.max(0, u));
  const y = Math.min(down - 1, Math.max(0, v));
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - i, y - j];
  const o = 4 * (j * across + i);
  const right = i + 1 < across ? 4 : 0;
  const below = j + 1 < down ? 4 * across : 0;
  for (let k = 0; k < 3; k++)
    out[to + k] =
      (cells[o + k] * (1 - fx) + cells[o + right + k] * fx) * (1 - fy) +
      (cells[o + below + k] * (1 - fx) + cells[o + below + right + k] * fx) * fy;
}
