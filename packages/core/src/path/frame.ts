import { type Rect } from "../raster/types";

/** A part of the artwork that is shown, as fractions of its width and height. */
export interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export const WHOLE_FRAME: Frame = { x: 0, y: 0, width: 1, height: 1 };

/** A position inside the artwork, as fractions of its width and height, origin top left. */
export type At = readonly [number, number];

/** A picture of `source`'s size that shows the part of the artwork in `frame`. */
export interface InFrame {
  readonly source: { readonly width: number; readonly height: number };
  readonly frame: Frame;
}

/** Where a position of the artwork lies in the picture, in pixels, fractions kept. */
export function toPixels({ source, frame }: InFrame, at: At): [number, number] {
  return [
    ((at[0] - frame.x) / frame.width) * source.width,
    ((at[1] - frame.y) / frame.height) * source.height,
  ];
}

/** The pixel at a position of the artwork; null outside the picture. The far edges belong to the last pixel. */
export function pixelAt(on: InFrame, at: At): [number, number] | null {
  const { width, height } = on.source;
  const [x, y] = toPixels(on, at);
  if (x < 0 || y < 0 || x > width || y > height) return null;
  return [Math.min(width - 1, Math.floor(x)), Math.min(height - 1, Math.floor(y))];
}

/** The size in dots of a picture, and the part of the artwork it shows. */
export interface Placed {
  readonly finish: { readonly widthPx: number; readonly heightPx: number };
  readonly frame: Frame;
}

/** A part of one picture of an artwork, in its dots, as the part of another picture of it that shows the same. */
export function partIn(part: Rect, from: Placed, to: Placed): Rect {
  if (isSamePlace(from, to)) return part;
  const [a, b] = [from.frame, to.frame];
  const across = (a.width / from.finish.widthPx / b.width) * to.finish.widthPx;
  const down = (a.height / from.finish.heightPx / b.height) * to.finish.heightPx;
  return {
    x: ((a.x - b.x) / b.width) * to.finish.widthPx + part.x * across,
    y: ((a.y - b.y) / b.height) * to.finish.heightPx + part.y * down,
    width: part.width * across,
    height: part.height * down,
  };
}

const isSamePlace = (a: Placed, b: Placed): boolean =>
  a.finish.widthPx === b.finish.widthPx &&
  a.finish.heightPx === b.finish.heightPx &&
  a.frame.x === b.frame.x &&
  a.frame.y === b.frame.y &&
  a.frame.width === b.frame.width &&
  a.frame.height === b.frame.height;

interface OnPiece {
  readonly finish: { readonly widthMm: number; readonly heightMm: number };
  readonly frame: Frame;
}

/** Where a position of the artwork lies on the piece, in mm from its top left. */
export const onPiece = ([x, y]: At, { finish, frame }: OnPiece): At => [
  ((x - frame.x) / frame.width) * finish.widthMm,
  ((y - frame.y) / frame.height) * finish.heightMm,
];

/** The position of the artwork at a place of the piece, in mm from its top left. */
export const onArtwork = ([x, y]: At, { finish, frame }: OnPiece): At => [
  frame.x + (x / finish.widthMm) * frame.width,
  frame.y + (y / finish.heightMm) * frame.height,
];
