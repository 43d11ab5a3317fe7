import { codesOf, labOfLight, oklabOf } from "../colour/oklab";
import { type ColourChange } from "./change";
import { GREY } from "./range";

/** Cells along each side of the table of proportions. */
const CELLS = 64;

/**
 * Tells at once of most colours that they do not belong to a range: how far a colour is from it, but for light and shade,
 * hangs on the proportions of its three lights alone, so a table over these says where nothing can belong. Null for the
 * range of a grey, where it does not.
 */
export function awayFrom({
  from,
  tolerance,
  softness,
}: Pick<ColourChange, "from" | "tolerance" | "softness">):
  ((r: number, g: number, b: number) => boolean) | null {
  const own = oklabOf(...codesOf(from));
  if (own.a * own.a + own.b * own.b < GREY * GREY) return null;
  const most = tolerance + softness;
  /** Distance at the range's own lightness, at a corner of the table. */
  const off = (i: number, j: number): number => {
    const [r, g] = [i / CELLS, j / CELLS];
    const lab = labOfLight(r, g, Math.max(0, 1 - r - g));
    const scale = own.l / lab.l;
    const [da, db] = [lab.a * scale - own.a, lab.b * scale - own.b];
    return Math.sqrt(da * da + db * db);
  };
  const corners = new Float64Array((CELLS + 1) * (CELLS + 1));
  for (let j = 0, k = 0; j <= CELLS; j++) for (let i = 0; i <= CELLS; i++, k++) corners[k] = off(i, j);
  const away = new Uint8Array(CELLS * CELLS);
  for (let j = 0; j < CELLS; j++)
    for (let i = 0; i < CELLS; i++) {
      const k = j * (CELLS + 1) + i;
      const [a, b, c, d] = [corners[k], corners[k + 1], corners[k + CELLS + 1], corners[k + CELLS + 2]];
      const [least, far] = [Math.min(a, b, c, d), Math.max(a, b, c, d)];
      // Within a cell it is no nearer than its corners are, less by what they differ among themselves.
      away[j * CELLS + i] = least - (far - least) > most ? 1 : 0;
    }
  return (r, g, b) => {
    const sum = r + g + b;
    if (sum <= 0) return true;
    let i = ((r / sum) * CELLS) | 0;
    let j = ((g / sum) * CELLS) | 0;
    if (i >= CELLS) i = CELLS - 1;
    if (j >= CELLS) j = CELLS - 1;
    return away[j * CELLS + i] === 1;
  };
}
