import { rowsAtOnce, runToEnd, type Work } from "../maths/work";
import { newGray, newRgba, type Bits, type Gray, type Rgba } from "./types";

/*
 * Pictures at half, a quarter ... of their size, for looking at. Each pixel is the mean of the 2 x 2 it stands
 * for; a last odd row or column stands by itself. Made when first asked for and kept with the picture's data.
 */
const kept = new WeakMap<Uint8Array, Gray | Rgba>();

function* once<P extends { readonly data: Uint8Array }, R extends Gray | Rgba>(
  picture: P,
  make: (picture: P) => Work<R>,
): Work<R> {
  const known = kept.get(picture.data);
  if (known !== undefined) return known as R;
  const made = yield* make(picture);
  kept.set(picture.data, made);
  return made;
}

/** Dots at half size as grey: the share of each 2 x 2 that is marked, 0 = all of it, 255 = none. */
export const halveBits = (bits: Bits): Gray => runToEnd(once(bits, countBlocks));
export const halveGray = (picture: Gray): Gray => runToEnd(once(picture, meanGray));
/** Colour is averaged by how much of each pixel is there. */
export const halveRgba = (picture: Rgba): Rgba => runToEnd(once(picture, meanRgba));

/*
 * The halves that a view at a scale of so many dots to a screen pixel will ask for, made in slices beforehand.
 */
export function* readyRgba(picture: Rgba, scale: number): Work<void> {
  for (; scale >= 2 && picture.width > 1 && picture.height > 1; scale /= 2)
    picture = yield* once(picture, meanRgba);
}

export function* readyGray(picture: Gray, scale: number): Work<void> {
  for (; scale >= 2 && picture.width > 1 && picture.height > 1; scale /= 2)
    picture = yield* once(picture, meanGray);
}

export function* readyBits(bits: Bits, scale: number): Work<void> {
  if (scale >= 2 && bits.width > 1 && bits.height > 1)
    yield* readyGray(yield* once(bits, countBlocks), scale / 2);
}

/** For each byte of eight dots: the counts of its four pairs, a byte each. */
const PAIRS = Uint32Array.from({ length: 256 }, (_, byte) => {
  let packed = 0;
  for (let k = 0; k < 4; k++) {
    const pair = (byte >> (6 - 2 * k)) & 3;
    packed |= ((pair >> 1) + (pair & 1)) << (8 * k);
  }
  return packed >>> 0;
});

function* countBlocks({ width, height, stride, data }: Bits): Work<Gray> {
  const out = newGray(Math.max(1, width >> 1), Math.max(1, height >> 1));
  const counts = new Uint32Array(stride); // four bytes each, one count a byte
  const bytes = new Uint8Array(counts.buffer);
  const shade = Uint8Array.from({ length: 5 }, (_, n) => 255 - Math.round(n * 63.75));
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < out.height; y++) {
    if (y % atOnce === 0) yield y / out.height;
    const top = 2 * y * stride;
    const bottom = Math.min(2 * y + 1, height - 1) * stride;
    for (let b = 0; b < stride; b++) counts[b] = PAIRS[data[top + b]] + PAIRS[data[bottom + b]];
    for (let x = 0, o = y * out.width; x < out.width; x++, o++) out.data[o] = shade[bytes[x]];
  }
  return out;
}

function* meanGray({ width, height, data }: Gray): Work<Gray> {
  const out = newGray(Math.max(1, width >> 1), Math.max(1, height >> 1));
  const right = width > 1 ? 1 : 0;
  const down = height > 1 ? width : 0;
  const atOnce = rowsAtOnce(width);
  for (let y = 0, o = 0; y < out.height; y++) {
    if (y % atOnce === 0) yield y / out.height;
    for (let x = 0, i = 2 * y * width; x < out.width; x++, o++, i += 2) {
      out.data[o] = (data[i] + data[i + right] + data[i + down] + data[i + down + right] + 2) >> 2;
    }
  }
  return out;
}

function* meanRgba({ width, height, data }: Rgba): Work<Rgba> {
  const out = newRgba(Math.max(1, width >> 1), Math.max(1, height >> 1));
  const right = width > 1 ? 4 : 0;
  const down = height > 1 ? width * 4 : 0;
  const atOnce = rowsAtOnce(width);
  for (let y = 0, o = 0; y < out.height; y++) {
    if (y % atOnce === 0) yield y / out.height;
    for (let x = 0, a = 2 * y * width * 4; x < out.width; x++, o += 4, a += 8) {
      const [b, c, d] = [a + right, a + down, a + down + right];
      const alpha = data[a + 3] + data[b + 3] + data[c + 3] + data[d + 3];
      out.data[o + 3] = (alpha + 2) >> 2;
      if (alpha === 0) continue;
      for (let k = 0; k < 3; k++) {
        const sum =
          alpha === 1020
            ? (data[a + k] + data[b + k] + data[c + k] + data[d + k]) * 255
            : data[a + k] * data[a + 3] +
              data[b + k] * data[b + 3] +
              data[c + k] * data[c + 3] +
              data[d + k] * data[d + 3];
        out.data[o + k] = sum / alpha + 0.5;
      }
    }
  }
  return out;
}
