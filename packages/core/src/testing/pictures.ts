import { type Gray, type Rgba } from "../raster/types";

/** A small repeatable generator for tests: 32-bit whole numbers. */
export function seeded(seed: number): () => number {
  let state = seed >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return state >>> 0;
  };
}

export function randomGray(width: number, height: number, seed: number): Gray {
  const next = seeded(seed);
  return { width, height, data: Uint8Array.from({ length: width * height }, () => next() & 255) };
}

export function randomRgba(width: number, height: number, seed: number, opaque = false): Rgba {
  const next = seeded(seed);
  const data = Uint8Array.from({ length: width * height * 4 }, () => next() & 255);
  if (opaque) for (let i = 3; i < data.length; i += 4) data[i] = 255;
  return { width, height, data };
}

export const grayOf = (width: number, height: number, at: (x: number, y: number) => number): Gray => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => at(i % width, Math.floor(i / width))),
});

/** A grey picture as colour. */
export function asRgba(picture: Gray, alpha?: (x: number, y: number) => number): Rgba {
  const { width, height } = picture;
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    data.fill(picture.data[i], i * 4, i * 4 + 3);
    data[i * 4 + 3] = alpha ? alpha(i % width, Math.floor(i / width)) : 255;
  }
  return { width, height, data };
}
