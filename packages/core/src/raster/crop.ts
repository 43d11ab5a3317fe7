import { newRgba, type Rect, type Rgba } from "./types";

/** A part of a picture, cut out pixel for pixel. The part lies within the picture. */
export function cropped(picture: Rgba, { x, y, width, height }: Rect): Rgba {
  const out = newRgba(width, height);
  for (let row = 0; row < height; row++) {
    const start = ((y + row) * picture.width + x) * 4;
    out.data.set(picture.data.subarray(start, start + width * 4), row * width * 4);
  }
  return out;
}
