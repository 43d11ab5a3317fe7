/** A picture in square cells, with a rim of cells about it, so that each of its own has eight about it. */
export class Cells {
  readonly count: number;
  private readonly across: number;

  /** @param size  pixels along a cell's side */
  constructor(
    width: number,
    height: number,
    private readonly size: number,
  ) {
    this.across = Math.ceil(width / size) + 2;
    this.count = this.across * (Math.ceil(height / size) + 2);
  }

  /** The number of the cell that a pixel lies in. */
  at(x: number, y: number): number {
    return (Math.floor(y / this.size) + 1) * this.across + Math.floor(x / this.size) + 1;
  }

  /** What the cell of a pixel and the eight about it have together. */
  sumAbout(plane: ArrayLike<number>, x: number, y: number): number {
    const cell = this.at(x, y);
    let sum = 0;
    for (let row = -this.across; row <= this.across; row += this.across)
      for (let c = cell + row - 1; c <= cell + row + 1; c++) sum += plane[c];
    return sum;
  }
}
