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
    for (let k = 1; k < this.levels.length && count < most; k++) {
      const { width, height, mean } = this.levels[k];
      if (
        this.blend(
          width,
          height,
          mean,
          (x + 0.5) / (1 << k) - 0.5,
          (y + 0.5) / (1 << k) - 0.5,
          out,
          count * 3,
        )
      )
        count++;
    }
    return count;
  }

  /** Mean of the four around a point, by how near and how many; false where none is known. */
  private blend(
    width: number,
    height: number,
    mean: Float32Array,
    u: number,
    v: number,
    out: Float64Array,
    at: number,
  ): boolean {
    const [x0, y0] = [Math.floor(u), Math.floor(v)];
    let [total, r, g, b] = [0, 0, 0, 0];
    for (let dy = 0; dy < 2; dy++)
      for (let dx = 0; dx < 2; dx++) {
        const [x, y] = [
          Math.min(width - 1, Math.max(0, x0 + dx)),
          Math.min(height - 1, Math.max(0, y0 + dy)),
        ];
        const o = (y * width + x) * 4;
        if (mean[o + 3] === 0) continue;
        const w = mean[o + 3] * (dx ? u - x0 : 1 - (u - x0)) * (dy ? v - y0 : 1 - (v - y0));
        total += w;
        r += w * mean[o];
        g += w * mean[o + 1];
        b += w * mean[o + 2];
      }
    if (total < 1e-6) return false;
    out[at] = r / total;
    out[at + 1] = g / total;
    out[at + 2] = b / total;
    return true;
  }
}

function halved({ width, height, mean }: Level): Level {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const out = new Float32Array(w * h * 4);
  for (let y = 0, o = 0; y < h; y++)
    for (let x = 0; x < w; x++, o += 4) {
      let [r, g, b, n] = [0, 0, 0, 0];
      for (let dy = 0; dy < 2; dy++)
        for (let dx = 0; dx < 2; dx++) {
          if (2 * x + dx >= width || 2 * y + dy >= height) continue;
          const i = ((2 * y + dy) * width + 2 * x + dx) * 4;
          const m = mean[i + 3];
          r += m * mean[i];
          g += m * mean[i + 1];
          b += m * mean[i + 2];
          n += m;
        }
      if (n === 0) continue;
      out[o] = r / n;
      out[o + 1] = g / n;
      out[o + 2] = b / n;
      out[o + 3] = n;
    }
  return { width: w, height: h, mean: out };
}
