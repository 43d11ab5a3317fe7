import { rowsAtOnce, type Work } from "../../maths/work";
import { type Rgba } from "../../raster/types";

/** Sums kept for a window: weight, colours, their products, cover, cover times colours. */
const SUMS = 14;

/**
 * Guided filter of a cover plane by a colour picture, with weights: within every window of 2 radius + 1 pixels the
 * cover that fits the colours best as a straight line of them, the lines then averaged.
 *
 * @param cover    0..1
 * @param weight   how much each pixel's cover is trusted, above 0
 * @param wanted   1 where the lines are needed
 * @param smooth   how much contrast counts as noise, squared, colours being 0..1 (the paper's epsilon)
 * @returns        four numbers a pixel: cover = red c[0] + green c[1] + blue c[2] + c[3], colours 0..1
 * @see He, Sun & Tang, "Guided Image Filtering", IEEE PAMI 35, 2013
 */
export function* guidedLines(
  picture: Rgba,
  cover: Float32Array,
  weight: Float32Array,
  wanted: Uint8Array,
  radius: number,
  smooth: number,
): Work<Float32Array> {
  const { width, height } = picture;
  const near = spread(wanted, width, height, radius);
  const own = new Float32Array(width * height * 4);
  const columns = new Float64Array(width * SUMS); // sums of each column over the window's rows
  const window = new Float64Array(SUMS);
  const atOnce = rowsAtOnce(8 * width);
  for (let y = -radius; y < height; y++) {
    if (y % atOnce === 0) yield Math.max(0, (0.7 * y) / height);
    if (y + radius < height) addRow(picture, cover, weight, y + radius, columns, 1);
    if (y - radius - 1 >= 0) addRow(picture, cover, weight, y - radius - 1, columns, -1);
    if (y < 0 || near.rows[y] === 0) continue;
    window.fill(0);
    for (let x = -radius; x < width; x++) {
      if (x + radius < width) addTo(window, columns, (x + radius) * SUMS, 1);
      if (x - radius - 1 >= 0) addTo(window, columns, (x - radius - 1) * SUMS, -1);
      if (x >= 0 && near.mask[y * width + x]) lineThrough(window, smooth, own, (y * width + x) * 4);
    }
  }
  return yield* averaged(own, near.mask, wanted, width, height, radius);
}

function addRow(
  { width, data }: Rgba,
  cover: Float32Array,
  weight: Float32Array,
  y: number,
  columns: Float64Array,
  sign: number,
): void {
  for (let x = 0, i = y * width, c = 0; x < width; x++, i++, c += SUMS) {
    const w = sign * weight[i];
    const [r, g, b] = [data[i * 4] / 255, data[i * 4 + 1] / 255, data[i * 4 + 2] / 255];
    const wp = w * cover[i];
    columns[c] += w;
    columns[c + 1] += w * r;
    columns[c + 2] += w * g;
    columns[c + 3] += w * b;
    columns[c + 4] += w * r * r;
    columns[c + 5] += w * r * g;
    columns[c + 6] += w * r * b;
    columns[c + 7] += w * g * g;
    columns[c + 8] += w * g * b;
    columns[c + 9] += w * b * b;
    columns[c + 10] += wp;
    columns[c + 11] += wp * r;
    columns[c + 12] += wp * g;
    columns[c + 13] += wp * b;
  }
}

function addTo(window: Float64Array, columns: Float64Array, at: number, sign: number): void {
  for (let k = 0; k < SUMS; k++) window[k] += sign * columns[at + k];
}

/** Least squares of cover by colour within a window, held back by `smooth`: a symmetric system of three. */
function lineThrough(s: Float64Array, smooth: number, out: Float32Array, o: number): void {
  const n = 1 / s[0];
  const [r, g, b, p] = [s[1] * n, s[2] * n, s[3] * n, s[10] * n];
  const a = s[4] * n - r * r + smooth;
  const ag = s[5] * n - r * g;
  const ab = s[6] * n - r * b;
  const d = s[7] * n - g * g + smooth;
  const db = s[8] * n - g * b;
  const f = s[9] * n - b * b + smooth;
  const [vr, vg, vb] = [s[11] * n - r * p, s[12] * n - g * p, s[13] * n - b * p];
  const [A, B, C] = [d * f - db * db, ab * db - ag * f, ag * db - ab * d];
  const [D, E, F] = [a * f - ab * ab, ag * ab - a * db, a * d - ag * ag];
  const whole = 1 / (a * A + ag * B + ab * C);
  out[o] = (A * vr + B * vg + C * vb) * whole;
  out[o + 1] = (B * vr + D * vg + E * vb) * whole;
  out[o + 2] = (C * vr + E * vg + F * vb) * whole;
  out[o + 3] = p - out[o] * r - out[o + 1] * g - out[o + 2] * b;
}

/** Every pixel within a square of 2 radius + 1 of a set one, and which rows hold any. */
export function spread(mask: Uint8Array, width: number, height: number, radius: number) {
  const across = new Uint8Array(mask.length);
  const out = new Uint8Array(mask.length);
  const rows = new Uint8Array(height);
  for (let y = 0; y < height; y++)
    for (let x = 0, left = 0, i = y * width; x < width + radius; x++) {
      if (x < width && mask[i + x]) left = 2 * radius + 1;
      if (x >= radius && left > 0) across[i + x - radius] = 1;
      if (left > 0) left--;
    }
  const left = new Int32Array(width);
  for (let y = 0; y < height + radius; y++)
    for (let x = 0; x < width; x++) {
      if (y < height && across[y * width + x]) left[x] = 2 * radius + 1;
      if (y >= radius && left[x] > 0) {
        out[(y - radius) * width + x] = 1;
        rows[y - radius] = 1;
      }
      if (left[x] > 0) left[x]--;
    }
  return { mask: out, rows };
}

/** Each wanted pixel's line: the mean of the lines of all windows that it lies in. */
function* averaged(
  own: Float32Array,
  near: Uint8Array,
  wanted: Uint8Array,
  width: number,
  height: number,
  radius: number,
): Work<Float32Array> {
  const out = new Float32Array(own.length);
  const atOnce = rowsAtOnce(4 * width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.7 + (0.3 * y) / height;
    for (let x = 0; x < width; x++, i++) {
      if (!wanted[i]) continue;
      let a = 0;
      let b = 0;
      let c = 0;
      let d = 0;
      let n = 0;
      const right = x + radius < width ? x + radius : width - 1;
      const foot = y + radius < height ? y + radius : height - 1;
      for (let v = y < radius ? 0 : y - radius; v <= foot; v++)
        for (let j = v * width + (x < radius ? 0 : x - radius), end = v * width + right; j <= end; j++) {
          if (near[j] === 0) continue;
          const o = j * 4;
          a += own[o];
          b += own[o + 1];
          c += own[o + 2];
          d += own[o + 3];
          n++;
        }
      out[i * 4] = a / n;
      out[i * 4 + 1] = b / n;
      out[i * 4 + 2] = c / n;
      out[i * 4 + 3] = d / n;
    }
  }
  return out;
}
