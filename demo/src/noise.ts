/** Repeatable noise for drawn and rendered artwork: a tile of smooth random values, read anywhere, in octaves. */
const SIZE = 512;

export class Noise {
  private readonly tile = new Float32Array(SIZE * SIZE);
  private state: number;

  constructor(seed: number) {
    this.state = seed >>> 0 || 1;
    for (let i = 0; i < this.tile.length; i++) this.tile[i] = this.random();
  }

  /** Next random number, 0..1. */
  random(): number {
    this.state ^= this.state << 13;
    this.state ^= this.state >>> 17;
    this.state ^= this.state << 5;
    return (this.state >>> 0) / 4294967296;
  }

  /** Smooth value 0..1 at a point; one lattice cell a unit. */
  at(x: number, y: number): number {
    const xi = Math.floor(x);
    const yi = Math.floor(y);
    const fx = x - xi;
    const fy = y - yi;
    const u = fx * fx * (3 - 2 * fx);
    const v = fy * fy * (3 - 2 * fy);
    const x0 = xi & (SIZE - 1);
    const x1 = (x0 + 1) & (SIZE - 1);
    const y0 = (yi & (SIZE - 1)) * SIZE;
    const y1 = ((yi + 1) & (SIZE - 1)) * SIZE;
    const t = this.tile;
    const top = t[y0 + x0] + (t[y0 + x1] - t[y0 + x0]) * u;
    const bottom = t[y1 + x0] + (t[y1 + x1] - t[y1 + x0]) * u;
    return top + (bottom - top) * v;
  }

  /** Sum of octaves, each twice as fine and half as strong, 0..1. */
  octaves(x: number, y: number, count: number): number {
    let sum = 0;
    let weight = 0.5;
    let total = 0;
    for (let i = 0; i < count; i++) {
      sum += weight * this.at(x, y);
      total += weight;
      weight *= 0.5;
      [x, y] = [x * 1.62 + y * 1.18 + 17.3, y * 1.62 - x * 1.18 + 9.1]; // turned, so that the lattice does not show
    }
    return sum / total;
  }

  /** Octaves folded into ridges, 0..1. */
  ridges(x: number, y: number, count: number): number {
    let sum = 0;
    let weight = 0.5;
    let total = 0;
    for (let i = 0; i < count; i++) {
      const fold = 1 - Math.abs(2 * this.at(x, y) - 1);
      sum += weight * fold * fold;
      total += weight;
      weight *= 0.5;
      [x, y] = [x * 1.62 + y * 1.18 + 5.7, y * 1.62 - x * 1.18 + 3.3];
    }
    return sum / total;
  }
}

export const clamp = (v: number, low = 0, high = 1): number => (v < low ? low : v > high ? high : v);
export const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
/** 0 below `from`, 1 above `to`, smooth between. */
export const ramp = (from: number, to: number, v: number): number => {
  const t = clamp((v - from) / (to - from));
  return t * t * (3 - 2 * t);
};
