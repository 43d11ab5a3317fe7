import { ringBox } from "../polygon/rings";
import { type Rect } from "../raster/types";
import {
  arrangementOf,
  lying,
  type Arrangement,
  type NestPiece,
  type NestStock,
  type Placing,
} from "./arrangement";

// Thresholds: what they decide is measured by `npm run nests`.

/** Lengths this near are the same, in mm. */
const NEAR = 1e-6;

/**
 * Pieces by their boxes alone, each as far up, and there as far left, as it goes: what a shop does with a ruler. Every other
 * arrangement has to be better than this one.
 *
 * @see Baker, Coffman & Rivest, "Orthogonal packings in two dimensions", SIAM J. Comput. 9, 1980: bottom-left
 */
export function byBoxes(
  pieces: readonly NestPiece[],
  { room, blocked, sheets }: NestStock,
  spacingMm: number,
  kept: readonly Placing[] = [],
): Arrangement {
  const placings: Placing[] = [...kept];
  const taken: Rect[][] = Array.from({ length: sheets }, () => [...blocked]);
  for (const at of kept) taken[at.sheet].push(boxAt(pieces[at.piece], at));
  const bySize = pieces
    .map((piece, k) => ({ piece, k, box: ringBox(piece.outline) }))
    .sort((a, b) => b.box.height * b.box.width - a.box.height * a.box.width);
  for (const { piece, k } of bySize) {
    let left = piece.count - kept.filter((p) => p.piece === k).length;
    const turns = piece.turns.filter((t) => t % 90 === 0).slice(0, 2);
    for (let sheet = 0; sheet < sheets && left > 0;) {
      let best: { x: number; y: number; turn: number; box: Rect } | null = null;
      for (const turn of turns) {
        const box = ringBox(lying(piece, { turnDegrees: turn, mirrored: false }));
        const at = topLeft(box.width, box.height, room, taken[sheet], spacingMm);
        const lower = (y: number, height: number) => y + height;
        if (at && (!best || lower(at[1], box.height) < lower(best.y, best.box.height) - NEAR))
          best = { x: at[0], y: at[1], turn, box };
      }
      if (!best) {
        sheet++;
        continue;
      }
      const { x, y, turn, box } = best;
      const place = { xMm: x - box.x, yMm: y - box.y, turnDegrees: turn, mirrored: false };
      placings.push({ piece: k, sheet, ...place });
      taken[sheet].push({ x, y, width: box.width, height: box.height });
      left--;
    }
  }
  return arrangementOf(pieces, placings, room.y);
}

function boxAt(piece: NestPiece, at: Placing): Rect {
  const box = ringBox(lying(piece, at));
  return { ...box, x: box.x + at.xMm, y: box.y + at.yMm };
}

/** The place furthest up and left at which a box goes: against the room's edges, or beside others. */
function topLeft(
  width: number,
  height: number,
  room: Rect,
  taken: readonly Rect[],
  spacing: number,
): readonly [number, number] | null {
  const downs = [room.y, ...taken.map((t) => t.y + t.height + spacing)].sort((a, b) => a - b);
  const across = [room.x, ...taken.map((t) => t.x + t.width + spacing)].sort((a, b) => a - b);
  for (const y of downs) {
    if (y < room.y - NEAR || y + height > room.y + room.height + NEAR) continue;
    const beside = taken.filter(
      (t) => t.y < y + height + spacing - NEAR && t.y + t.height + spacing > y + NEAR,
    );
    for (const x of across) {
      if (x < room.x - NEAR || x + width > room.x + room.width + NEAR) continue;
      if (beside.every((t) => t.x >= x + width + spacing - NEAR || t.x + t.width + spacing <= x + NEAR))
        return [x, y];
    }
  }
  return null;
}
