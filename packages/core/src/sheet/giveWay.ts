import { type Work } from "../maths/work";
import { simplified } from "../polygon/clip";
import { ringBox, type Ring } from "../polygon/rings";
import { lying, placed, type NestPiece, type NestStock, type Placing } from "./arrangement";
import { Field } from "./nest";
import { overlap } from "./noFit";
import { offset } from "../polygon/offset";

/** Outlines are looked at within this, in mm. */
const WITHIN_MM = 0.05;

/**
 * Puts one copy where a hand wants it, and moves the others that it then lies over to the nearest places that are free, as
 * they are turned; those that find none on their sheet stay, and lie over it.
 *
 * @param moved  number of the copy among the placings, and where it is to lie
 */
export function* giveWay(
  pieces: readonly NestPiece[],
  stock: NestStock,
  spacingMm: number,
  placings: readonly Placing[],
  moved: { readonly at: number; readonly to: Placing },
): Work<Placing[]> {
  const out = placings.map((p, k) => (k === moved.at ? moved.to : p));
  const plain = pieces.map((p) => ({ ...p, outline: simplified([p.outline], WITHIN_MM)[0] ?? p.outline }));
  const own = grownRing(placed(plain[moved.to.piece], moved.to), spacingMm - 2 * WITHIN_MM);
  const inTheWay = out.flatMap((p, k) => {
    if (k === moved.at || p.sheet !== moved.to.sheet || p.kept) return [];
    return overlap(own, placed(plain[p.piece], p)) ? [k] : [];
  });
  for (const k of inTheWay) {
    yield 0;
    const at = out[k];
    const others = out.filter((p, j) => j !== k && p.sheet === at.sheet && !(inTheWay.includes(j) && j > k));
    const alone = pieces.map((p, j) => ({
      ...p,
      count: +(j === at.piece),
      turns: j === at.piece ? [at.turnDegrees] : [],
      mirror: false,
    }));
    const field = new Field(alone, stock, spacingMm, false);
    const [grid] = yield* field.emptied(others);
    const free = grid.nearest(...field.gridPlace(0, at));
    if (free) out[k] = field.placingOf(0, free, at.sheet);
  }
  return out;
}

const grownRing = (ring: Ring, byMm: number): Ring => (byMm > 0 ? (offset([ring], byMm)[0] ?? ring) : ring);

/** The copy at a place of a sheet; -1 for none. */
export function copyAt(
  pieces: readonly NestPiece[],
  placings: readonly Placing[],
  sheet: number,
  x: number,
  y: number,
): number {
  return placings.findIndex((p) => {
    if (p.sheet !== sheet) return false;
    const box = ringBox(lying(pieces[p.piece], p));
    const [u, v] = [x - p.xMm, y - p.yMm];
    return u >= box.x && v >= box.y && u <= box.x + box.width && v <= box.y + box.height;
  });
}
