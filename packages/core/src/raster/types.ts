/**
 * Picture in colour: four bytes a pixel, sRGB-coded red, green, blue and straight (not premultiplied)
 * alpha, rows top to bottom without padding.
 */
export interface Rgba {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** One byte a pixel, sRGB-coded grey, 0 = black; rows top to bottom without padding. */
export interface Gray {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/**
 * One bit a pixel, 1 = mark. Rows are packed most significant bit first and padded with zeros to whole
 * bytes, so `stride` is ceil(width / 8).
 */
export interface Bits {
  readonly width: number;
  readonly height: number;
  readonly stride: number;
  readonly data: Uint8Array;
}

/**
 * How much of each pixel belongs to the art, 0..255, same size as the picture beside it;
 * null when the art fills the whole picture.
 */
export type Cover = Uint8Array | null;

/** Cover, 0..255, under which art is no more than a tint: a tenth. */
export const TINT = 26;

/** A rectangle in pixels, origin top left. */
export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export const newRgba = (width: number, height: number): Rgba => ({
  width,
  height,
  data: new Uint8Array(width * height * 4),
});

export const newGray = (width: number, height: number): Gray => ({
  width,
  height,
  data: new Uint8Array(width * height),
});

export function newBits(width: number, height: number): Bits {
  const stride = (width + 7) >> 3;
  return { width, height, stride, data: new Uint8Array(stride * height) };
}

/** 1 where a mark is, 0 elsewhere and outside the picture. */
export function bitAt(bits: Bits, x: number, y: number): number {
  if (x < 0 || y < 0 || x >= bits.width || y >= bits.height) return 0;
  return (bits.data[y * bits.stride + (x >> 3)] >> (7 - (x & 7))) & 1;
}
