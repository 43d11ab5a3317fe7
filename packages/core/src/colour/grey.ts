import { type Work } from "../maths/work";
import { newGray, type Gray, type Rgba } from "../raster/types";

/** Pixels between two portions. */
const AT_ONCE = 1 << 21;

/**
 * Grey of every pixel: Rec. 709 luma of the sRGB-coded values, rounded to the nearest whole code (half goes up).
 * Alpha is not looked at.
 *
 * Weights are held as ten-thousandths, so the sum is a whole number and the rounding is exact; the half
 * added before the product with 1e-4 keeps it clear of every whole number.
 * @see Recommendation ITU-R BT.709
 */
export function* greyOf(picture: Rgba): Work<Gray> {
  const { width, height } = picture;
  const out = newGray(width, height);
  const pixels = new Uint32Array(picture.data.buffer, picture.data.byteOffset, width * height);
  for (let at = 0; at < pixels.length; at += AT_ONCE) {
    yield at / pixels.length;
    greyInto(pixels.subarray(at, at + AT_ONCE), out.data.subarray(at, at + AT_ONCE));
  }
  return out;
}

function greyInto(pixels: Uint32Array, grey: Uint8Array): void {
  const count = grey.length;
  for (let i = 0; i < count; i++) {
    const p = pixels[i];
    const sum = (p & 255) * 2126 + ((p >>> 8) & 255) * 7152 + ((p >>> 16) & 255) * 722;
    grey[i] = ((sum + 5000.5) * 1e-4) | 0;
  }
}

/** The alpha plane, or null when every pixel is whole. */
export function* coverOf(picture: Rgba): Work<Uint8Array | null> {
  const { width, height, data } = picture;
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  let whole = true;
  for (let at = 0; at < pixels.length && whole; at += AT_ONCE) {
    yield (0.5 * at) / pixels.length;
    whole = isWhole(pixels.subarray(at, at + AT_ONCE));
  }
  if (whole) return null;
  const cover = new Uint8Array(width * height);
  for (let at = 0; at < pixels.length; at += AT_ONCE) {
    yield 0.5 + (0.5 * at) / pixels.length;
    for (let i = at; i < Math.min(cover.length, at + AT_ONCE); i++) cover[i] = pixels[i] >>> 24;
  }
  return cover;
}

function isWhole(pixels: Uint32Array): boolean {
  let all = -1;
  for (let i = 0; i < pixels.length; i++) all &= pixels[i];
  return all >>> 24 === 255;
}
