import { labOfLight, type Lab } from "../colour/oklab";
import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { inStretches, type Work } from "../maths/work";
import { newRgba, type Rgba } from "../raster/types";
import { becomes, type Becomes } from "./becomes";
import { type ColourChange } from "./change";
import { rangeOf, type Range } from "./range";

/** Pixels looked at between two slices: each may be a good deal of work. */
const AT_ONCE = 1 << 15;
/** Colours that are remembered, so that one that comes again costs nothing. */
const REMEMBERED = 1 << 17;

/**
 * Art with ranges of its colours changed. Each range takes, of what the ones before it left, the share to which a colour
 * belongs to it; all look at the colours as they were. What no range takes comes out to the bit, transparency always does.
 *
 * @param art  colour with straight alpha
 */
export function* recoloured(art: Rgba, changes: readonly ColourChange[]): Work<Rgba> {
  if (changes.length === 0) return art;
  const out = newRgba(art.width, art.height);
  const of = changedColour(changes);
  const { data } = art;
  const [known, made] = [new Int32Array(REMEMBERED).fill(-1), new Int32Array(REMEMBERED)];
  yield* inStretches(
    art.width * art.height,
    (from, to) => {
      for (let i = from, o = 4 * from; i < to; i++, o += 4) {
        const alpha = data[o + 3];
        const code = (data[o] << 16) | (data[o + 1] << 8) | data[o + 2];
        let next = code;
        if (alpha > 0) {
          const at = (Math.imul(code, 0x9e3779b1) >>> 15) & (REMEMBERED - 1);
          if (known[at] !== code) {
            known[at] = code;
            made[at] = of(code);
          }
          next = made[at];
        }
        out.data[o] = next >> 16;
        out.data[o + 1] = (next >> 8) & 255;
        out.data[o + 2] = next & 255;
        out.data[o + 3] = alpha;
      }
    },
    AT_ONCE,
  );
  return out;
}

/** What one colour, 0xrrggbb, becomes. */
export function changedColour(changes: readonly ColourChange[]): (code: number) => number {
  const ways = changes.map((change): { readonly range: Range; readonly becomes: Becomes } => ({
    range: rangeOf(change),
    becomes: becomes(change),
  }));
  return (code) => {
    const [r, g, b] = [
      LINEAR_OF_CODE[code >> 16],
      LINEAR_OF_CODE[(code >> 8) & 255],
      LINEAR_OF_CODE[code & 255],
    ];
    const lab: Lab = labOfLight(r, g, b);
    let left = 1;
    let [nr, ng, nb] = [0, 0, 0];
    for (const way of ways) {
      const share = left * way.range(lab);
      if (share <= 0) continue;
      const light = way.becomes([r, g, b], lab);
      nr += share * light[0];
      ng += share * light[1];
      nb += share * light[2];
      left -= share;
      if (left <= 1e-9) break;
    }
    if (left >= 1) return code;
    return (codeOf(nr + left * r) << 16) | (codeOf(ng + left * g) << 8) | codeOf(nb + left * b);
  };
}

const codeOf = (light: number): number =>
  CODE_OF_LINEAR[light <= 0 ? 0 : light >= 1 ? CODE_STEPS : (light * CODE_STEPS + 0.5) | 0];
