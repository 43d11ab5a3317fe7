import { codesOf } from "../colour/oklab";
import { LINEAR_OF_CODE } from "../colour/srgb";
import { workSlice, type Work } from "../maths/work";
import { halveRgba, readyRgba } from "../raster/halve";
import { type Rgba } from "../raster/types";
import { type Lattice } from "./shading";
import { type PrintArea } from "./thing";

/** Light is looked for on about so many pixels at most: folds are larger than what is lost by that. */
const MOST = 1_200_000;
/** Of all places on the cloth, that share is darker than where its own colour is seen, when it is not told. */
const LIT = 0.9;
/** How much the light of neighbouring places may differ and still be no more than the cloth's own structure, as a share. */
const STRUCTURE = 0.045;

/** Linear light of a pixel as it counts for the eye. @see Rec. 709 */
const luminance = (data: Uint8Array, o: number): number =>
  0.2126 * LINEAR_OF_CODE[data[o]] +
  0.7152 * LINEAR_OF_CODE[data[o + 1]] +
  0.0722 * LINEAR_OF_CODE[data[o + 2]];

/** Structure on the small copy of a photograph that light is looked for on is smoothed over so many of its pixels. */
export function smoothingOf(photo: Rgba, radius: number): number {
  return Math.max(1, Math.round(radius / 2 ** halvings(photo)));
}

function halvings({ width, height }: Rgba): number {
  let times = 0;
  while ((width * height) / 4 ** times > MOST) times++;
  return times;
}

/**
 * How bright a photographed thing is everywhere, in linear light, as a smooth surface. What is finer than folds, the weave
 * and the noise, is smoothed away; the edges of folds and shadows stay.
 *
 * @param smoothing  up to how far structure is smoothed away, as `smoothingOf` has it
 * @see He, Sun & Tang, "Guided image filtering", IEEE PAMI 35, 2013, with the photograph as its own guide
 */
export function* photoLight(photo: Rgba, smoothing: number): Work<Lattice> {
  const times = halvings(photo);
  if (times > 0) yield* workSlice(readyRgba(photo, 1 << times), 0, 0.3);
  let small = photo;
  for (let k = 0; k < times; k++) small = halveRgba(small);
  const { width, height, data } = small;
  const own = new Float32Array(width * height);
  for (let i = 0, o = 0; i < own.length; i++, o += 4) own[i] = luminance(data, o);
  yield 0.4;
  const values = yield* workSlice(guided(own, width, height, smoothing, STRUCTURE * STRUCTURE), 0.4, 1);
  return { columns: width, rows: height, step: photo.width / width, values };
}

/**
 * How bright a thing is where its own colour is seen as it is: by that colour where it is told, else where its area is lit
 * well.
 * @param cloth  the thing's own colour, #rrggbb
 */
export const litAt = (light: Lattice, area: PrintArea, cloth: string | null): number =>
  cloth ? Math.max(DARKEST, luminance(Uint8Array.from(codesOf(cloth)), 0)) : litWithin(light, area);

/** No thing is darker than this. */
const DARKEST = 0.004;

/** Places along each side of the area at which its colour is looked for. */
const LOOKS = 64;

/** The light where the area is lit well, of what lies on the area alone. */
function litWithin({ columns, rows, step, values }: Lattice, area: PrintArea): number {
  const sample: number[] = [];
  const { x, y, width: w, height: h } = area.limits;
  for (const surface of area.surfaces)
    for (let k = 0; k < LOOKS * LOOKS; k++) {
      const [i, j] = [(k % LOOKS) + 0.5, Math.floor(k / LOOKS) + 0.5];
      const seen = surface.seen(x + (i / LOOKS) * w, y + (j / LOOKS) * h);
      if (!seen) continue;
      const [u, v] = [Math.floor(seen[0] / step), Math.floor(seen[1] / step)];
      if (u >= 0 && v >= 0 && u < columns && v < rows) sample.push(values[v * columns + u]);
    }
  const sorted = Float64Array.from(sample).sort();
  return Math.max(DARKEST, sorted[Math.floor(LIT * sorted.length)] ?? 1);
}

/** A plane smoothed where it changes little over a radius, and kept where it changes much. */
function* guided(
  p: Float32Array,
  width: number,
  height: number,
  r: number,
  small: number,
): Work<Float32Array> {
  const mean = boxMean(p, width, height, r);
  yield 0.2;
  const squares = p.map((v) => v * v);
  const second = boxMean(squares, width, height, r);
  yield 0.4;
  const a = new Float32Array(p.length);
  const b = new Float32Array(p.length);
  for (let i = 0; i < p.length; i++) {
    const spread = Math.max(0, second[i] - mean[i] * mean[i]);
    // In shade the same structure is as much weaker as the light is.
    a[i] = spread / (spread + small * Math.max(0.04, mean[i] * mean[i]));
    b[i] = mean[i] * (1 - a[i]);
  }
  yield 0.6;
  const [ma, mb] = [boxMean(a, width, height, r), boxMean(b, width, height, r)];
  yield 0.9;
  for (let i = 0; i < p.length; i++) ma[i] = ma[i] * p[i] + mb[i];
  return ma;
}

/** The mean over a square about each place, of what of it lies within. */
function boxMean(from: Float32Array, width: number, height: number, r: number): Float32Array {
  const rows = new Float32Array(from.length);
  for (let y = 0; y < height; y++) {
    const o = y * width;
    let sum = 0;
    for (let x = 0; x < Math.min(width, r); x++) sum += from[o + x];
    for (let x = 0; x < width; x++) {
      if (x + r < width) sum += from[o + x + r];
      if (x - r - 1 >= 0) sum -= from[o + x - r - 1];
      rows[o + x] = sum / (Math.min(width - 1, x + r) - Math.max(0, x - r) + 1);
    }
  }
  const out = new Float32Array(from.length);
  const sums = new Float64Array(width);
  for (let y = 0; y < Math.min(height, r); y++)
    for (let x = 0; x < width; x++) sums[x] += rows[y * width + x];
  for (let y = 0; y < height; y++) {
    const count = Math.min(height - 1, y + r) - Math.max(0, y - r) + 1;
    for (let x = 0; x < width; x++) {
      if (y + r < height) sums[x] += rows[(y + r) * width + x];
      if (y - r - 1 >= 0) sums[x] -= rows[(y - r - 1) * width + x];
      out[y * width + x] = sums[x] / count;
    }
  }
  return out;
}
