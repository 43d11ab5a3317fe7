import { newGray, type Gray, type Rgba } from "../raster/types";

/**
 * Grey of every pixel: Rec. 709 luma of the sRGB-coded values, rounded to the nearest whole code (half goes up).
 * Alpha is not looked at.
 *
 * Weights are held as ten-thousandths, so the sum is a whole number and the rounding is exact; the half
 * added before the product with 1e-4 keeps it clear of every whole number.
 * @see Recommendation ITU-R BT.709
 */
export function greyOf(picture: Rgba): Gray {
  const { width, height } = picture;
  const out = newGray(width, height);
  const pixels = new Uint32Array(picture.data.buffer, picture.data.byteOffset, width * height);
  greyInto(pixels, out.data);
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
export function coverOf(picture: Rgba): Uint8Array | null {
  const { data } = picture;
  let all = 255;
  for (let i = 3; i < data.length; i += 4) all &= data[i];
  if (all === 255) return null;
  const cover = new Uint8Array(picture.width * picture.height);
  for (let i = 0, p = 3; i < cover.length; i++, p += 4) cover[i] = data[p];
  return cover;
}
