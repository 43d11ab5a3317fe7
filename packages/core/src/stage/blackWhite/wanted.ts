import { rowsAtOnce, type Work } from "../../maths/work";
import { newGray, type Bits, type Cover } from "../../raster/types";
import { type Picture, type Tone } from "../../result/result";
import { plainTone } from "../tone/plainTone";
import { type Shared, type Wanted } from "./method";

/**
 * The grey that marks are made from: turned round for a material that burns pale, and faded towards unmarked where
 * the art itself fades out, so the surround stays bare either way.
 */
export function* wantedOf(taken: Tone | Picture, { material }: Shared): Work<Wanted> {
  const { gray, cover } = taken.kind === "tone" ? taken : yield* plainTone(taken);
  const { finish } = taken;
  const flip = material === "burns-pale" ? 255 : 0;
  if (flip === 0 && !cover) return { gray, cover, finish };
  const out = newGray(gray.width, gray.height);
  const atOnce = 4 * rowsAtOnce(gray.width) * gray.width;
  for (let from = 0; from < out.data.length; from += atOnce) {
    yield from / out.data.length;
    const to = Math.min(out.data.length, from + atOnce);
    if (cover)
      for (let i = from; i < to; i++)
        out.data[i] = 255 - Math.round(((255 - (gray.data[i] ^ flip)) * cover[i]) / 255);
    else for (let i = from; i < to; i++) out.data[i] = gray.data[i] ^ flip;
  }
  return { gray: out, cover, finish };
}

/** The last step of every method: outside the art nothing is marked. */
export function* keptInside(bits: Bits, cover: Cover): Work<Bits> {
  if (cover === null) return bits;
  const { width, height, stride, data } = bits;
  const atOnce = 4 * rowsAtOnce(width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 0; x < width; x++, i++) if (cover[i] === 0) data[y * stride + (x >> 3)] &= ~(128 >> (x & 7));
  }
  return bits;
}
