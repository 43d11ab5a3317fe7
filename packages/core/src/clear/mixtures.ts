/** A pixel of the rim as a mixture. */
export interface Mixture {
  /** How much of it is art, 0..1. */
  readonly share: number;
  readonly art: ArrayLike<number>;
  readonly back: ArrayLike<number>;
}

/**
 * Mixtures by pixel. Soft edges have a million of them, and each asks its neighbours: so where one is found is told by a
 * plane, not by looking a key up.
 */
export class Mixtures {
  private readonly place: Int32Array;
  private readonly list: Mixture[] = [];
  private readonly pixels: number[] = [];

  constructor(count: number) {
    this.place = new Int32Array(count);
  }

  has(i: number): boolean {
    return this.place[i] !== 0;
  }

  get(i: number): Mixture | undefined {
    return this.place[i] > 0 ? this.list[this.place[i] - 1] : undefined;
  }

  set(i: number, mixture: Mixture): void {
    if (this.place[i] === 0) {
      this.place[i] = this.list.push(mixture);
      this.pixels.push(i);
    } else this.list[this.place[i] - 1] = mixture;
  }

  *[Symbol.iterator](): Generator<readonly [number, Mixture]> {
    for (let k = 0; k < this.list.length; k++) yield [this.pixels[k], this.list[k]];
  }
}
