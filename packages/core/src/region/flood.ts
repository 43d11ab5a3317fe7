import { type Work } from "../maths/work";
import { type Rect } from "../raster/types";

/** Pixels filled between two slices. */
const AT_ONCE = 1 << 18;

/** What was filled: how many pixels and the box they lie in. */
export interface Filled extends Rect {
  readonly pixels: number;
}

/** Numbers of runs that wait, at first; twice as many when more are needed. */
const FIRST_ROOM = 3 << 5;

/**
 * Fills pixels of one value from the seeds over edges (four neighbours), run by run: a run is filled when it is found, and
 * looks once at the row above and once at the row below.
 *
 * @param mask   width x height bytes; those of value `from` that are reached become `to`
 * @param seeds  indices of pixels; one of another value fills nothing
 * @see Smith, "Tint Fill", SIGGRAPH 1979
 */
export function* flood(
  mask: Uint8Array,
  width: number,
  height: number,
  seeds: readonly number[],
  from = 1,
  to = 2,
): Work<Filled> {
  const runs = new Runs(mask, width, from, to);
  let told = AT_ONCE;
  for (const seed of seeds) {
    if (mask[seed] === from) runs.fill(seed, seed - (seed % width));
    while (runs.step(height, told)) {
      told = runs.pixels + AT_ONCE;
      yield runs.pixels / mask.length;
    }
  }
  return runs.filled();
}

/** Runs that are filled, and wait for their neighbours to be looked at: where one begins, ends, and its row begins. */
class Runs {
  pixels = 0;
  private waiting = new Int32Array(FIRST_ROOM);
  private end = 0;
  private left: number;
  private right = 0;
  private top: number;
  private bottom = -1;

  constructor(
    private readonly mask: Uint8Array,
    private readonly width: number,
    private readonly from: number,
    private readonly to: number,
  ) {
    this.left = width;
    this.top = mask.length;
  }

  /** Fills the run of a pixel; returns where it ends. */
  fill(pixel: number, start: number): number {
    const { mask, from, to } = this;
    const stop = start + this.width;
    let [first, end] = [pixel, pixel];
    while (first > start && mask[first - 1] === from) mask[--first] = to;
    while (end < stop && mask[end] === from) mask[end++] = to;
    this.pixels += end - first;
    if (first - start < this.left) this.left = first - start;
    if (end - start > this.right) this.right = end - start;
    if (start < this.top) this.top = start;
    if (start > this.bottom) this.bottom = start;
    if (this.end === this.waiting.length) {
      const more = new Int32Array(2 * this.end);
      more.set(this.waiting);
      this.waiting = more;
    }
    this.waiting[this.end] = first;
    this.waiting[this.end + 1] = end;
    this.waiting[this.end + 2] = start;
    this.end += 3;
    return end;
  }

  /** Looks at neighbours until so many pixels are filled; says whether some wait. */
  step(height: number, until: number): boolean {
    const { mask, width, from } = this;
    const last = width * (height - 1);
    while (this.end > 0 && this.pixels <= until) {
      this.end -= 3;
      const first = this.waiting[this.end];
      const stop = this.waiting[this.end + 1];
      const start = this.waiting[this.end + 2];
      if (start > 0)
        for (let i = first - width; i < stop - width; i++)
          if (mask[i] === from) i = this.fill(i, start - width);
      if (start < last)
        for (let i = first + width; i < stop + width; i++)
          if (mask[i] === from) i = this.fill(i, start + width);
    }
    return this.end > 0;
  }

  filled(): Filled {
    const { pixels, left, right, top, bottom, width } = this;
    if (pixels === 0) return { pixels, x: 0, y: 0, width: 0, height: 0 };
    return { pixels, x: left, y: top / width, width: right - left, height: (bottom - top) / width + 1 };
  }
}
