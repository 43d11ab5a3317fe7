import { codesOf, oklabOf, type Lab } from "../colour/oklab";
import { type ColourChange } from "./change";

/** Colours less strong than this in OKLab are told by their lightness instead of their hue. */
export const GREY = 8;
/** Of a strong colour, how much a difference of lightness counts: light and shade are the same cloth. */
const SHADE = 0.08;
/** A colour that is to stay grey: from the first strength on it may belong to a range of strong colours, from the second it does. */
const [FAINT, STRONG] = [1.2, 3];

/** How much a colour belongs to a range, 0..1. */
export type Range = (of: Lab) => number;

/**
 * How far a colour lies from the one that stands for a range, in hundredths of OKLab. Light and shade on one cloth move a
 * colour along the line to black, on which its two axes keep their proportion to its lightness: so colours are compared by
 * that proportion, at the lightness of the range's own colour. Greys have no such proportion and are compared as they are.
 * @see Ottosson, "A perceptual color space for image processing", 2020: OKLab is homogeneous, of degree a third, in light
 */
export function offRange(from: string): (of: Lab) => number {
  const own = oklabOf(...codesOf(from));
  const strength = Math.sqrt(own.a * own.a + own.b * own.b);
  const grey = Math.max(0, 1 - strength / GREY);
  const weight = SHADE + (1 - SHADE) * grey;
  return ({ l, a, b }) => {
    // Of a grey the axes are taken as they are; of a colour, at the range's own lightness.
    const scale = grey === 1 || l < 1e-6 ? 1 : grey + (1 - grey) * (own.l / l);
    const [da, db, dl] = [a * scale - own.a, b * scale - own.b, weight * (l - own.l)];
    return Math.sqrt(da * da + db * db + dl * dl);
  };
}

/** How much colours belong to the range about one. */
export function rangeOf({
  from,
  tolerance,
  softness,
}: Pick<ColourChange, "from" | "tolerance" | "softness">): Range {
  const off = offRange(from);
  const { a, b } = oklabOf(...codesOf(from));
  const isColour = a * a + b * b >= GREY * GREY;
  const most = tolerance + softness;
  return (of) => {
    const far = off(of);
    if (far > most) return 0;
    let share = 1;
    if (far > tolerance) {
      const t = 1 - (far - tolerance) / softness;
      share = t * t * (3 - 2 * t);
    }
    if (!isColour) return share;
    const own = Math.sqrt(of.a * of.a + of.b * of.b);
    return own >= STRONG ? share : own <= FAINT ? 0 : (share * (own - FAINT)) / (STRONG - FAINT);
  };
}
