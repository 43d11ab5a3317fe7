import { rowsAtOnce, type Work } from "../maths/work";
import { newBits, type Bits, type Cover, type Gray } from "../raster/types";

/**
 * Marks every pixel darker than the threshold.
 *
 * @param threshold  1..255; a pixel is marked when its grey is below it
 */
export function* threshold(picture: Gray, threshold: number): Work<Bits> {
  const { width, height, data } = picture;
  const bits = newBits(width, height);
  const atOnce = 4 * rowsAtOnce(width);
  for (let y = 0; y < height; y += atOnce) {
    yield y / height;
    const rows = Math.min(atOnce, height - y);
    const [from, to] = [data.subarray(y * width), bits.data.subarray(y * bits.stride)];
    markBelow(from, width, rows, threshold, to, bits.stride);
  }
  return bits;
}

const NO_WORDS = new Uint32Array(0);
/** Four white pixels beside each other. */
const WHITES = 0xffffffff;

/**
 * Sign bit of grey minus threshold is the mark: no branch, eight pixels to a byte. Where rows begin at whole words, eight
 * white pixels are passed over at once: of a plate most are.
 *
 * @param out  all zero
 */
function markBelow(
  g: Uint8Array,
  width: number,
  height: number,
  t: number,
  out: Uint8Array,
  stride: number,
): void {
  const whole = width >> 3;
  const inWords = ((g.byteOffset | width) & 3) === 0;
  const words = inWords ? new Uint32Array(g.buffer, g.byteOffset, g.length >> 2) : NO_WORDS;
  for (let y = 0; y < height; y++) {
    let i = y * width;
    let o = y * stride;
    for (let b = 0; b < whole; b++, i += 8) {
      if (inWords && words[i >> 2] === WHITES && words[(i >> 2) + 1] === WHITES) {
        o++;
        continue;
      }
      out[o++] =
        (((g[i] - t) >>> 31) << 7) |
        (((g[i + 1] - t) >>> 31) << 6) |
        (((g[i + 2] - t) >>> 31) << 5) |
        (((g[i + 3] - t) >>> 31) << 4) |
        (((g[i + 4] - t) >>> 31) << 3) |
        (((g[i + 5] - t) >>> 31) << 2) |
        (((g[i + 6] - t) >>> 31) << 1) |
        ((g[i + 7] - t) >>> 31);
    }
    for (let x = whole << 3; x < width; x++, i++) out[o] |= ((g[i] - t) >>> 31) << (7 - (x & 7));
  }
}

/**
 * The threshold that parts the grey values into two groups with the greatest variance between them;
 * of several equally good ones the lowest. Only pixels of the art count.
 *
 * @returns 1..255; 128 when the art holds a single grey value or none
 * @see Otsu, "A Threshold Selection Method from Gray-Level Histograms", IEEE Trans. SMC 9, 1979
 */
export function* otsuThreshold(picture: Gray, cover: Cover): Work<number> {
  const histogram = new Float64Array(256);
  const { data, width } = picture;
  const atOnce = 4 * rowsAtOnce(width) * width;
  for (let from = 0; from < data.length; from += atOnce) {
    yield from / data.length;
    const to = Math.min(data.length, from + atOnce);
    if (cover === null) for (let i = from; i < to; i++) histogram[data[i]]++;
    else for (let i = from; i < to; i++) if (cover[i] !== 0) histogram[data[i]]++;
  }
  let total = 0;
  let sum = 0;
  for (let g = 0; g < 256; g++) {
    total += histogram[g];
    sum += g * histogram[g];
  }
  let best = 0;
  let found = 128;
  let below = 0;
  let sumBelow = 0;
  for (let t = 1; t < 256; t++) {
    below += histogram[t - 1];
    sumBelow += (t - 1) * histogram[t - 1];
    if (below === 0 || below === total) continue;
    const apart = sumBelow / below - (sum - sumBelow) / (total - below);
    const variance = below * (total - below) * apart * apart;
    if (variance > best) {
      best = variance;
      found = t;
    }
  }
  return found;
}
