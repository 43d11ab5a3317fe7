/** Places on a grid, a bit each: which of them are taken. Rows top to bottom, 32 places a word. */
export class PlaceGrid {
  readonly words: number;
  readonly taken: Uint32Array;
  /** No place above this row is free. */
  private firstFree = 0;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.words = (width + 31) >> 5;
    this.taken = new Uint32Array(this.words * Math.max(0, height));
    // What lies beyond the last place of a row is never free.
    const beyond = this.words * 32 - width;
    if (beyond > 0)
      for (let y = 0; y < height; y++) this.taken[(y + 1) * this.words - 1] = (2 ** beyond - 1) >>> 0;
  }

  /** Takes the places `from` to `to` of a row, both in it; what lies outside of the grid is left. */
  take(y: number, from: number, to: number): void {
    if (y < 0 || y >= this.height) return;
    const [a, b] = [Math.max(0, from), Math.min(this.width - 1, to)];
    if (a > b) return;
    const row = y * this.words;
    const [first, last] = [a >> 5, b >> 5];
    const head = 0xffffffff >>> (a & 31);
    const tail = 0xffffffff << (31 - (b & 31));
    if (first === last) {
      this.taken[row + first] |= head & tail;
      return;
    }
    this.taken[row + first] |= head;
    for (let w = first + 1; w < last; w++) this.taken[row + w] = 0xffffffff;
    this.taken[row + last] |= tail;
  }

  /** Takes whatever another grid has taken, moved by so many places. */
  takeAll(other: PlaceGrid, dx: number, dy: number): void {
    const shift = ((dx % 32) + 32) % 32;
    const whole = (dx - shift) / 32;
    for (let y = Math.max(0, -dy); y < other.height && y + dy < this.height; y++) {
      const [from, to] = [y * other.words, (y + dy) * this.words];
      for (let w = 0; w < other.words; w++) {
        let word = other.taken[from + w];
        if (w === other.words - 1 && other.width & 31) word &= 0xffffffff << (32 - (other.width & 31));
        if (word === 0) continue;
        const at = w + whole;
        if (at >= 0 && at < this.words) this.taken[to + at] |= word >>> shift;
        if (shift > 0 && at + 1 >= 0 && at + 1 < this.words) this.taken[to + at + 1] |= word << (32 - shift);
      }
    }
  }

  isFree(x: number, y: number): boolean {
    if (x < 0 || y < 0 || x >= this.width || y >= this.height) return false;
    return ((this.taken[y * this.words + (x >> 5)] >>> (31 - (x & 31))) & 1) === 0;
  }

  /** The free place furthest up, and there furthest left; null when there is none. */
  topLeft(): readonly [number, number] | null {
    if (this.width <= 0) return null;
    for (let y = this.firstFree; y < this.height; y++) {
      const row = y * this.words;
      for (let w = 0; w < this.words; w++) {
        const free = ~this.taken[row + w] >>> 0;
        if (free === 0) continue;
        this.firstFree = y;
        return [32 * w + Math.clz32(free), y];
      }
    }
    this.firstFree = this.height;
    return null;
  }

  /** The free place nearest to a place; null when there is none. */
  nearest(x: number, y: number): readonly [number, number] | null {
    let best: readonly [number, number] | null = null;
    let least = Infinity;
    for (let down = 0; down * down < least && down <= this.height; down++)
      for (const v of down === 0 ? [y] : [y - down, y + down]) {
        if (v < 0 || v >= this.height) continue;
        for (let across = 0; across * across + down * down < least && across <= this.width; across++) {
          const u = this.isFree(x - across, v) ? x - across : this.isFree(x + across, v) ? x + across : -1;
          if (u < 0) continue;
          least = across * across + down * down;
          best = [u, v];
        }
      }
    return best;
  }
}
