import { codesOf, oklabOf, type Lab } from "../colour/oklab";
import { type ColourChange } from "./change";

/** Colours less strong than this in OKLab are told by their lightness instead of their hue. */
const GREY = 8;
/** Of a strong colour, how much a difference of lightness counts: light and shade are the same cloth. */
const SHADE = 0.08;
/** A colour that is to stay grey: from the first strength on it may belong to a range of strong colours, from the second it does. */
const [FAINT, STRONG] = [1.2, 3];

/** How much a colour belongs to a range, 0..1. */
export type Range = (of: Lab) => number;

/**
 * The range of colours about one. Light and shade on one cloth move a colour along the line to black, on which its two axes
 * keep their proportion to its lightness: so colours are compared by that proportion, at the lightness of the range's own
 * colour. Greys have no such proportion and are compared as they are.
 * @see Ottosson, "A perceptual color space for image processing", 2020: OKLab is homogeneous, of degree a third, in light
 */
export function rangeOf({
  from,
  tolerance,
  softness,
}: Pick<ColourChange, "from" | "tolerance" | "softness">): Range {
  const own = oklabOf(...codesOf(from));
  const strength = Math.sqrt(own.a * own.a + own.b * own.b);
  const grey = Math.max(0, 1 - strength / GREY);
  const weight = SHADE + (1 - SHADE) * grey;
  const most = tolerance + softness;
  return ({ l, a, b }) => {
    // Of a grey the axes are taken as they are; of a colour, at the range's own lightness.
    const scale = grey === 1 || l < 1e-6 ? 1 : grey + (1 - grey) * (own.l / l);
    const [da, db, dl] = [a * scale - own.a, b * scale - own.b, weight * (l - own.l)];
    const square = da * da + db * db + dl * dl;
    if (square > most * most) return 0;
    let share = 1;
    if (square > tolerance * tolerance) {
      const t = 1 - (Math.sqrt(square) - tolerance) / softness;
      share = t * t * (3 - 2 * t);
    }
    if (grey > 0) return share;
    const own2 = Math.sqrt(a * a + b * b);
    return own2 >= STRONG ? share : own2 <= FAINT ? 0 : (share * (own2 - FAINT)) / (STRONG - FAINT);
  };
}
