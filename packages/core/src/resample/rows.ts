import { type Rgba } from "../raster/types";

/** A picture in colour of which rows are asked for one after another, from the top. */
export interface RgbaRows {
  readonly width: number;
  readonly height: number;
  /** It has no transparency. */
  readonly whole: boolean;
  /** Whether row y is there by now. */
  readonly has: (y: number) => boolean;
  /** Row y as RGBA; read before the next is asked for. */
  readonly row: (y: number) => Uint8Array;
}

/** Rows of a picture that is there as a whole. */
export const rowsOf = ({ width, height, data }: Rgba, whole: boolean): RgbaRows => ({
  width,
  height,
  whole,
  has: () => true,
  row: (y) => data.subarray(y * width * 4, (y + 1) * width * 4),
});

/** Rows of a part of a picture. */
export const partOf = (
  rows: RgbaRows,
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
): RgbaRows => ({
  width,
  height,
  whole: rows.whole,
  has: (row) => rows.has(y + row),
  row: (row) => rows.row(y + row).subarray(4 * x, 4 * (x + width)),
});

/** Rows that arrive from outside and are let go once they were read. */
export class PassingRows implements RgbaRows {
  readonly width: number;
  readonly height: number;
  readonly whole: boolean;
  /** A row was looked for that has not arrived. */
  wanting = false;
  private readonly waiting = new Map<number, Uint8Array>();
  /** Room of rows that were read, for further ones: a large picture would leave gigabytes of them behind. */
  private readonly spent: Uint8Array[] = [];
  private handedOut: Uint8Array | null = null;
  private arrived = 0;

  constructor({ width, height, whole }: { width: number; height: number; whole: boolean }) {
    this.width = width;
    this.height = height;
    this.whole = whole;
  }

  put(y: number, row: Uint8Array): void {
    const own = this.spent.pop() ?? new Uint8Array(row.length);
    own.set(row);
    this.waiting.set(y, own);
    this.arrived = y + 1;
    this.wanting = false;
  }

  readonly has = (y: number): boolean => {
    this.wanting = y >= this.arrived;
    return !this.wanting;
  };

  readonly row = (y: number): Uint8Array => {
    const row = this.waiting.get(y)!;
    if (this.handedOut) this.spent.push(this.handedOut);
    this.handedOut = row;
    // Rows are asked for from the top, and some, above a part, not at all.
    for (const [known, other] of this.waiting) {
      if (known > y) break;
      this.waiting.delete(known);
      if (other !== row) this.spent.push(other);
    }
    return row;
  };
}
