import { type Gray } from "../raster/types";

// Thresholds: what they decide is measured by `npm run kinds`.

/** Factors that pictures are enlarged by before they are sent. */
const FACTORS = [2, 3, 4, 6, 8];
/** Detail lost at a factor by that lost at twice the factor: 0.47 to 0.75 in pictures of real pixels. */
const LITTLE = 0.44;

/**
 * How many times a picture was blown up from fewer pixels: 1 when it has detail of its own down to the pixel. Told by
 * what is lost when it is reduced and enlarged again: in a picture of real pixels the finest detail
 * is a good part of all detail, in a blown-up one there is next to none.
 */
export function enlargedBy(parts: readonly Gray[]): number {
  const steps = repeated(parts);
  if (steps > 1) return steps;
  const lost = new Map<number, number>();
  const lostAt = (factor: number): number => {
    if (!lost.has(factor)) lost.set(factor, lostBy(parts, factor));
    return lost.get(factor)!;
  };
  let found = 1;
  for (const f of FACTORS) {
    if (lostAt(2 * f) < 0.3 || lostAt(f) > LITTLE * lostAt(2 * f)) break;
    found = f;
  }
  return found;
}

/** Root mean square of what reducing by a factor and enlarging again loses, in code values. */
function lostBy(parts: readonly Gray[], factor: number): number {
  let [sum, count] = [0, 0];
  for (const { width, height, data } of parts) {
    const [w, h] = [Math.floor(width / factor), Math.floor(height / factor)];
    if (w < 4 || h < 4) continue;
    const small = new Float64Array(w * h);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        let [total, n] = [0, 0];
        for (let v = Math.floor(y * factor); v < Math.floor((y + 1) * factor); v++)
          for (let u = Math.floor(x * factor); u < Math.floor((x + 1) * factor); u++, n++)
            total += data[v * width + u];
        small[y * w + x] = total / n;
      }
    for (let y = Math.ceil(factor); y < (h - 1) * factor; y++) {
      const v = (y + 0.5) / factor - 0.5;
      const y0 = Math.max(0, Math.min(h - 2, Math.floor(v)));
      for (let x = Math.ceil(factor); x < (w - 1) * factor; x++) {
        const u = (x + 0.5) / factor - 0.5;
        const x0 = Math.max(0, Math.min(w - 2, Math.floor(u)));
        const [fu, fv] = [u - x0, v - y0];
        const i = y0 * w + x0;
        const back =
          (small[i] * (1 - fu) + small[i + 1] * fu) * (1 - fv) +
          (small[i + w] * (1 - fu) + small[i + w + 1] * fu) * fv;
        const off = data[y * width + x] - back;
        sum += off * off;
        count++;
      }
    }
  }
  return count === 0 ? 0 : Math.sqrt(sum / count);
}

/** The factor by which every pixel was simply repeated, 1 when it was not. */
function repeated(parts: readonly Gray[]): number {
  for (const period of [8, 7, 6, 5, 4, 3, 2]) {
    let [most, all] = [0, 0];
    for (const { width, height, data } of parts) {
      const changes = new Float64Array(period);
      for (let y = 0; y < height; y++)
        for (let x = 1; x < width; x++)
          if (Math.abs(data[y * width + x] - data[y * width + x - 1]) > 2) {
            changes[x % period]++;
            all++;
          }
      most += Math.max(...changes); // each part has the grid at a place of its own
    }
    if (all > 200 && most > 0.97 * all) return period;
  }
  return 1;
}
