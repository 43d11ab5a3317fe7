import { type Rgba } from "../../raster/types";

interface Level {
  readonly width: number;
  readonly height: number;
  /** Mean red, green, blue of the known pixels under each, and how many there are: four numbers. */
  readonly mean: Float32Array;
}

/**
 * Means of the known pixels over areas of 1, 4, 16 ... pixels, so that the colour nearest to a place that is not
 * known can be had at once.
 * @see Gortler et al., "The Lumigraph", SIGGRAPH 1996 (pull-push)
 */
export class NearColours {
  private readonly levels: Level[] = [];

  constructor({ width, height, data }: Rgba, known: (i: number) => boolean) {
    const first = new Float32Array(width * height * 4);
    for (let i = 0; i < width * height; i++) {
      if (!known(i)) continue;
      first[i * 4] = data[i * 4];
      first[i * 4 + 1] = data[i * 4 + 1];
      first[i * 4 + 2] = data[i * 4 + 2];
      first[i * 4 + 3] = 1;
    }
    this.levels.push({ width, height, mean: first });
    while (this.last.width > 1 || this.last.height > 1) this.levels.push(halved(this.last));
  }

  private get last(): Level {
    return this.levels[this.levels.length - 1];
  }

  /**
   * Up to `most` colours known near a pixel, from near to wide; each three numbers written one after the other.
   * @returns how many were written
   */
  near(x: number, y: number, most: number, out: Float64Array): number {
    let count = 0;
    for (let k = 1; k < this.levels.length && count < Math.max(1, most - 1); k++) {
      const scale = 1 / (1 << k);
      if (this.blend(this.levels[k], (x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5, out, count * 3))
        count++;
    }
    if (count < 2 || count === most) return count;
    // A shade that changes towards the place goes on changing: the step from wide to near, taken once more.
    for (let k = 0; k < 3; k++) out[count * 3 + k] = Math.min(255, Math.max(0, 2 * out[k] - out[3 + k]));
    return count + 1;
  }

  /** Mean of the four around a point, by how near and how many; false where none is known. */
  private blend(
    { width, height, mean }: Level,
    u: number,
    v: number,
    out: Float64Array,
    at: number,
  ): boolean {
    const x = Math.floor(u);
    const y = Math.floor(v);
    const fu = u - x;
    const fv = v - y;
    const left = x < 0 ? 0 : x;
    const right = x + 1 < width ? x + 1 : width - 1;
    const top = (y < 0 ? 0 : y) * width;
    const foot = (y + 1 < height ? y + 1 : height - 1) * width;
    const a = (top + left) * 4;
    const b = (top + right) * 4;
    const c = (foot + left) * 4;
    const d = (foot + right) * 4;
    const wa = mean[a + 3] * (1 - fu) * (1 - fv);
    const wb = mean[b + 3] * fu * (1 - fv);
    const wc = mean[c + 3] * (1 - fu) * fv;
    const wd = mean[d + 3] * fu * fv;
    const total = wa + wb + wc + wd;
    if (total < 1e-6) return false;
    out[at] = (wa * mean[a] + wb * mean[b] + wc * mean[c] + wd * mean[d]) / total;
    out[at + 1] = (wa * mean[a + 1] + wb * mean[b + 1] + wc * mean[c + 1] + wd * mean[d + 1]) / total;
    out[at + 2] = (wa * mean[a + 2] + wb * mean[b + 2] + wc * mean[c + 2] + wd * mean[d + 2]) / total;
    return true;
  }
}

function halved({ width, height, mean }: Level): Level {
  const w = Math.ceil(width / 2);
  const h = Math.ceil(height / 2);
  const out = new Float32Array(w * h * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0, i = y * width * 4; x < width; x++, i += 4) {
      const m = mean[i + 3];
      if (m === 0) continue;
      const o = ((y >> 1) * w + (x >> 1)) * 4;
      const n = out[o + 3] + m;
      const share = m / n; // running mean
      out[o] += (mean[i] - out[o]) * share;
      out[o + 1] += (mean[i + 1] - out[o + 1]) * share;
      out[o + 2] += (mean[i + 2] - out[o + 2]) * share;
      out[o + 3] = n;
    }
  return { width: w, height: h, mean: out };
}
