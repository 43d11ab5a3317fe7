import { type Work } from "../maths/work";
import { simplified } from "../polygon/clip";
import { ringBox, type Ring } from "../polygon/rings";
import { lying, placed, type NestPiece, type Placing } from "./arrangement";
import { type Field } from "./nest";
import { overlap } from "./noFit";
import { offset } from "../polygon/offset";

// Thresholds: what they decide is measured by `npm run nests`.

/** Outlines are looked at within this, in mm. */
const WITHIN_MM = 0.05;

/**
 * Puts one copy where a hand wants it, and moves the others that it then lies over to the nearest places that are free, as
 * they are turned; those that find none on their sheet stay, and lie over it.
 *
 * @param field    of the sheet, kept from one call to the next: it knows which outlines fit beside which
 * @param slackMm  how far copies may lie off the field's places, as its spacing allows
 * @param moved    number of the copy among the placings, and where it is to lie
 */
export function* giveWay(
  pieces: readonly NestPiece[],
  field: Field,
  placings: readonly Placing[],
  moved: { readonly at: number; readonly to: Placing },
  slackMm = 1e-6,
): Work<Placing[]> {
  const out = placings.map((p, k) => (k === moved.at ? moved.to : p));
  const plain = pieces.map(plainOf);
  const own = grownRing(placed(plain[moved.to.piece], moved.to), field.spacingMm - 2 * WITHIN_MM);
  const reach = pieces.map(({ box }) => Math.hypot(box.width, box.height) / 2 + field.spacingMm);
  const inTheWay = out.flatMap((p, k) => {
    if (k === moved.at || p.sheet !== moved.to.sheet || p.kept) return [];
    // What is further away than both reach needs no look at its outline.
    const apart = Math.hypot(p.xMm - moved.to.xMm, p.yMm - moved.to.yMm);
    if (apart > reach[p.piece] + reach[moved.to.piece]) return [];
    return overlap(own, placed(plain[p.piece], p)) ? [k] : [];
  });
  for (const [n, k] of inTheWay.entries()) {
    yield n / inTheWay.length;
    const shape = field.shapeAt(out[k]);
    if (shape < 0) continue;
    const later = new Set(inTheWay.slice(n + 1));
    const others = out.filter((p, j) => j !== k && p.sheet === out[k].sheet && !later.has(j));
    const free = field.placesFor(shape, others, slackMm).nearest(...field.gridPlace(shape, out[k]));
    if (free) out[k] = field.placingOf(shape, free, out[k].sheet);
  }
  return out;
}

/** Pieces by outlines with fewer corners, made once for each. */
const plainer = new WeakMap<NestPiece, NestPiece>();
function plainOf(piece: NestPiece): NestPiece {
  let plain = plainer.get(piece);
  if (!plain) {
    plain = { ...piece, outline: simplified([piece.outline], WITHIN_MM)[0] ?? piece.outline };
    plainer.set(piece, plain);
  }
  return plain;
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
