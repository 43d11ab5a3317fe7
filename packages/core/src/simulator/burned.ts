import { MM_PER_INCH } from "../maths/units";
import { newBits, type Bits } from "../raster/types";
import { type Burned } from "./controller";

/** Where a bitmap lies on a bed, y up from its lower left: its top left, and its dots. */
export interface DotGrid {
  readonly width: number;
  readonly height: number;
  readonly dotsPerInch: number;
  readonly xMm: number;
  readonly topMm: number;
}

/** How often each dot of a grid was burned, by the stretches of the beam that ran along its rows. */
export class BurnedDots {
  readonly times: Uint8Array;
  private readonly dot: number;

  constructor(readonly grid: DotGrid) {
    this.times = new Uint8Array(grid.width * grid.height);
    this.dot = MM_PER_INCH / grid.dotsPerInch;
  }

  /** A dot is burned when the beam went over its middle. Stretches that do not lie along the middle of a row are lines. */
  add({ x0, y0, x1, y1 }: Pick<Burned, "x0" | "y0" | "x1" | "y1">): boolean {
    const { grid, dot } = this;
    if (Math.abs(y1 - y0) > dot / 4) return false;
    const row = (grid.topMm - y0) / dot - 0.5;
    const nearest = Math.round(row);
    if (nearest < 0 || nearest >= grid.height || Math.abs(row - nearest) > 0.1) return false;
    const [a, b] = x0 < x1 ? [x0, x1] : [x1, x0];
    const from = Math.max(0, Math.ceil((a - grid.xMm) / dot - 0.5 - 1e-6));
    const to = Math.min(grid.width, Math.ceil((b - grid.xMm) / dot - 0.5 - 1e-6));
    for (let k = nearest * grid.width + from; k < nearest * grid.width + to; k++)
      if (this.times[k] < 255) this.times[k]++;
    return true;
  }

  /** What was burned at all. */
  get bits(): Bits {
    const { width, height } = this.grid;
    const bits = newBits(width, height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if (this.times[y * width + x] > 0) bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
    return bits;
  }

  /** Dots that were burned more than once. */
  get twice(): number {
    return this.times.reduce((sum, t) => sum + +(t > 1), 0);
  }
}

/** Stretches that hang together, as lines: what was cut. x, y of every corner, y up. */
export function burnedLines(stretches: Iterable<Burned>): Float64Array[] {
  const lines: Float64Array[] = [];
  let now: number[] = [];
  const end = (): void => {
    if (now.length > 2) lines.push(Float64Array.from(now));
    now = [];
  };
  for (const { x0, y0, x1, y1 } of stretches) {
    const n = now.length;
    if (n === 0 || Math.abs(now[n - 2] - x0) > 1e-6 || Math.abs(now[n - 1] - y0) > 1e-6) {
      end();
      now.push(x0, y0);
    }
    now.push(x1, y1);
  }
  end();
  return lines;
}
