import { inStretches, rowsAtOnce, workSlice, type Work } from "../maths/work";
import { newRgba, type Rgba } from "../raster/types";
import { type ColourChange } from "./change";
import { Changing } from "./changing";
import { changeEdges, findBeside } from "./edges";

/** Pixels looked at between two slices: each may be a good deal of work. */
const AT_ONCE = 1 << 15;
/** Colours that are remembered, so that one that comes again costs nothing. */
const REMEMBERED = 1 << 17;

/**
 * Art with ranges of its colours changed. Each range takes, of what the ones before it left, the share to which a colour
 * belongs to it; all look at the colours as they were. Pixels at the edge of a range are taken apart first, so that no rim is
 * left. What no range takes comes out to the bit, transparency always does.
 *
 * @param art  colour with straight alpha
 */
export function* recoloured(art: Rgba, changes: readonly ColourChange[]): Work<Rgba> {
  if (changes.length === 0) return art;
  const { width, height } = art;
  const out = newRgba(width, height);
  const taken = new Uint8Array(width * height);
  const changing = new Changing(changes);
  const memory = new Memory(changing);
  const [words, made] = [wordsOf(art), wordsOf(out)];
  yield* workSlice(
    inStretches(width * height, (from, to) => memory.change(words, made, taken, from, to), AT_ONCE),
    0,
    0.8,
  );
  const beside = new Uint8Array(taken.length);
  const rows = Math.max(1, rowsAtOnce(width) >> 3);
  for (let y = 0; y < height; y += rows) {
    yield 0.8 + (0.05 * y) / height;
    findBeside({ taken, beside }, width, height, y, Math.min(height, y + rows));
  }
  for (let y = 0; y < height; y += rows) {
    yield 0.85 + (0.15 * y) / height;
    changeEdges(art, out, { taken, beside }, changing, y, Math.min(height, y + rows));
  }
  return out;
}

/** Colours that came lately, and what they became. */
class Memory {
  private readonly known = new Int32Array(REMEMBERED).fill(-1);
  private readonly made = new Int32Array(REMEMBERED);
  private readonly share = new Uint8Array(REMEMBERED);

  constructor(private readonly changing: Changing) {}

  /** Words are a pixel's four bytes, red lowest. */
  change(words: Uint32Array, out: Uint32Array, taken: Uint8Array, from: number, to: number): void {
    const { known, made, share, changing } = this;
    for (let i = from; i < to; i++) {
      const word = words[i];
      if (word >>> 24 === 0) {
        out[i] = word;
        continue;
      }
      const colour = word & 0xffffff;
      const at = (Math.imul(colour, 0x9e3779b1) >>> 15) & (REMEMBERED - 1);
      if (known[at] !== colour) {
        known[at] = colour;
        const next = changing.code(((colour & 255) << 16) | (colour & 0xff00) | (colour >> 16));
        made[at] = ((next & 255) << 16) | (next & 0xff00) | (next >> 16);
        share[at] = Math.round(255 * changing.taken);
      }
      out[i] = (word & 0xff000000) | made[at];
      taken[i] = share[at];
    }
  }
}

/** A picture's pixels as words; copied where they do not lie on whole words. */
const wordsOf = ({ data }: Rgba): Uint32Array =>
  data.byteOffset % 4 === 0
    ? new Uint32Array(data.buffer, data.byteOffset, data.length / 4)
    : new Uint32Array(data.slice().buffer);

/** What one colour, 0xrrggbb, becomes. */
export function changedColour(changes: readonly ColourChange[]): (code: number) => number {
  const changing = new Changing(changes);
  return (code) => changing.code(code);
}
