import { rowsAtOnce, type Work } from "../../maths/work";
import { newGray, type Bits, type Cover } from "../../raster/types";
import { type Placement } from "../../result/finish";
import { type Picture, type Tone } from "../../result/result";
import { plainTone } from "../tone/plainTone";
import { dotTable, isDotted } from "../../dots/dotSettings";
import { type Shared, type Wanted } from "../../dots/method";

/**
 * The grey that marks are made from: turned round for a material that burns pale, for dots taken through the curve of
 * the process and kept off empty and solid, and faded towards unmarked where the art itself fades out, so the surround
 * stays bare either way.
 *
 * @param place  of the finished piece, of which this may be some rows
 */
export function* wantedOf(taken: Tone | Picture, settings: Shared, place: Placement): Work<Wanted> {
  const { gray, cover } = taken.kind === "tone" ? taken : yield* plainTone(taken);
  const { finish, frame } = taken;
  const top = Math.round(((frame.y - place.frame.y) / place.frame.height) * place.finish.heightPx);
  const table = tableOf(settings);
  if (!cover && table.every((to, g) => to === g)) return { gray, cover, finish, top };
  const out = newGray(gray.width, gray.height);
  const atOnce = 4 * rowsAtOnce(gray.width) * gray.width;
  for (let from = 0; from < out.data.length; from += atOnce) {
    yield from / out.data.length;
    const to = Math.min(out.data.length, from + atOnce);
    if (cover)
      for (let i = from; i < to; i++)
        out.data[i] = 255 - Math.round(((255 - table[gray.data[i]]) * cover[i]) / 255);
    else for (let i = from; i < to; i++) out.data[i] = table[gray.data[i]];
  }
  return { gray: out, cover, finish, top };
}

/** What each grey of the art is turned into on the way to dots. */
export function tableOf(settings: Shared): Uint8Array {
  const dots = isDotted(settings) ? dotTable(settings) : Uint8Array.from({ length: 256 }, (_, g) => g);
  return settings.material === "burns-pale" ? dots.toReversed() : dots;
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
