import { cosSinOf } from "./turning";
import { ringBox, type Ring } from "../polygon/rings";
import { type Rect } from "../raster/types";

/** A piece as it is arranged: its outline, how many are wanted, how it may lie. */
export interface NestPiece {
  /** In mm from the piece's top left. */
  readonly outline: Ring;
  /** The piece's own box, by whose middle it is placed, in mm. */
  readonly box: Rect;
  readonly count: number;
  /** Degrees clockwise that it may be turned by. */
  readonly turns: readonly number[];
  /** It may lie with its back up. */
  readonly mirror: boolean;
}

/** Where one copy lies: the middle of its box, in mm from the sheet's top left, before it is turned about it. */
export interface Placing {
  readonly piece: number;
  readonly sheet: number;
  readonly xMm: number;
  readonly yMm: number;
  /** Clockwise. */
  readonly turnDegrees: number;
  readonly mirrored: boolean;
  /** Put there by hand: it is arranged round. */
  readonly kept?: true;
}

/** What a sheet leaves for pieces, in mm from its top left. */
export interface NestStock {
  readonly room: Rect;
  /** Kept free, such as round register marks. */
  readonly blocked: readonly Rect[];
  /** Sheets that there are, at most. */
  readonly sheets: number;
}

export interface Arrangement {
  readonly placings: readonly Placing[];
  readonly sheets: number;
  /** How far down the last sheet is used, in mm. */
  readonly usedMm: number;
}

/** An outline about the middle of its box, mirrored and turned. */
export function lying(
  { outline, box }: Pick<NestPiece, "outline" | "box">,
  { turnDegrees, mirrored }: Pick<Placing, "turnDegrees" | "mirrored">,
): Ring {
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  const [cos, sin] = cosSinOf(turnDegrees);
  const out = new Float64Array(outline.length);
  for (let k = 0; k < outline.length; k += 2) {
    const x = mirrored ? cx - outline[k] : outline[k] - cx;
    const y = outline[k + 1] - cy;
    out[k] = x * cos - y * sin;
    out[k + 1] = x * sin + y * cos;
  }
  return out;
}

/** The outline of a placed piece on its sheet, in mm. */
export const placed = (piece: Pick<NestPiece, "outline" | "box">, at: Placing): Ring =>
  lying(piece, at).map((v, k) => v + (k % 2 === 0 ? at.xMm : at.yMm));

/** How much better one arrangement is than another: more pieces, then fewer sheets, then less of the last one. */
export function isBetter(a: Arrangement, b: Arrangement): boolean {
  if (a.placings.length !== b.placings.length) return a.placings.length > b.placings.length;
  if (a.sheets !== b.sheets) return a.sheets < b.sheets;
  return a.usedMm < b.usedMm - 0.01;
}

/** An arrangement of placings. */
export function arrangementOf(
  pieces: readonly NestPiece[],
  placings: readonly Placing[],
  top: number,
): Arrangement {
  const sheets = placings.reduce((most, p) => Math.max(most, p.sheet + 1), 0);
  let bottom = top;
  for (const at of placings) {
    if (at.sheet !== sheets - 1) continue;
    const box = ringBox(placed(pieces[at.piece], at));
    bottom = Math.max(bottom, box.y + box.height);
  }
  return { placings, sheets, usedMm: bottom - top };
}
