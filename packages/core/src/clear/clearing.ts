import { type Rgba } from "../raster/types";

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

/**
 * A picture while its background is taken away. `source` stays as it came; `data` is what is left: its colour where
 * the art is whole, colours freed of the background at edges, and the cover as alpha.
 */
export interface Clearing {
  readonly source: Rgba;
  readonly data: Uint8Array;
  /** 1 where a pick or a gap took a pixel away; what the fringe is unmixed from. */
  readonly taken: Uint8Array;
  /** How much each pixel is held, 0..255; null when nothing is. */
  readonly held: Uint8Array | null;
  readonly frame: Frame;
  readonly dotsPerMm: number;
}

/** Where a position of the artwork lies in the picture, in pixels, fractions kept. */
export function toPixels({ source, frame }: Pick<Clearing, "source" | "frame">, at: At): [number, number] {
  return [
    ((at[0] - frame.x) / frame.width) * source.width,
    ((at[1] - frame.y) / frame.height) * source.height,
  ];
}

/** The pixel at a position of the artwork; null outside the picture. The far edges belong to the last pixel. */
export function pixelAt(clearing: Pick<Clearing, "source" | "frame">, at: At): [number, number] | null {
  const { width, height } = clearing.source;
  const [x, y] = toPixels(clearing, at);
  if (x < 0 || y < 0 || x > width || y > height) return null;
  return [Math.min(width - 1, Math.floor(x)), Math.min(height - 1, Math.floor(y))];
}

/** Takes a pixel away as far as it is not held. */
export function takeAway({ data, taken, held }: Clearing, i: number): void {
  const hold = held ? held[i] : 0;
  if (hold >= 128) {
    if (data[i * 4 + 3] > hold) data[i * 4 + 3] = hold;
    return;
  }
  data[i * 4 + 3] = 0;
  taken[i] = 1;
}
