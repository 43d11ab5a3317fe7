import { eraseComponent } from "../line/strokes";
import { workSlice, type Work } from "../maths/work";
import { type Cover } from "../raster/types";
import { componentsOf, type Component } from "../region/components";
import { openedRows } from "../region/opening";

/** What is taken away is given back within squares of this side, in dots, so that tone stays where it was. */
const NEAR = 64;

/**
 * Leaves no mark without room for a square of `markSide` dots, and no gap without room for one of `gapSide`. A detail of
 * the picture can cut a screen's dots to pieces: pieces too small are taken away, and what that comes to is handed on to
 * the next one near by, until it is enough for a whole square there. So the tone of each neighbourhood is kept, as error
 * diffusion keeps it, with marks in the place of pixels.
 *
 * @param mask   width x height bytes, 1 = mark; changed in place
 * @param cover  zero = outside the art, where no square is put
 */
export function* gatherSmall(
  mask: Uint8Array,
  width: number,
  height: number,
  cover: Cover,
  markSide: number,
  gapSide: number,
): Work<void> {
  yield* workSlice(gathered(mask, width, height, cover, 1, markSide, true), 0, 0.4);
  yield* workSlice(gathered(mask, width, height, cover, 0, gapSide, true), 0.4, 0.7);
  // A gap put in may have cut a mark; taking marks away only widens gaps.
  yield* workSlice(gathered(mask, width, height, cover, 1, markSide, false), 0.7, 1);
}

function* gathered(
  mask: Uint8Array,
  width: number,
  height: number,
  cover: Cover,
  kind: 0 | 1,
  side: number,
  giveBack: boolean,
): Work<void> {
  if (side <= 1) return;
  const own = (y: number, row: Uint8Array) => {
    for (let x = 0, i = y * width; x < width; x++, i++) row[x] = +(mask[i] === kind);
  };
  const wide = yield* workSlice(openedRows(own, width, height, side), 0, 0.4);
  const open = new Uint8Array(width);
  const rowAt = (y: number, row: Uint8Array) => {
    own(y, row);
    wide(y, open);
    for (let x = 0; x < width; x++) row[x] += open[x];
    if (kind === 0 && cover)
      for (let x = 0, i = y * width; x < width; x++, i++) if (cover[i] === 0) row[x] = 2;
  };
  const all = yield* workSlice(componentsOf(width, height, rowAt), 0.4, 0.9);
  const small = all.filter((c) => c.strong === 0);
  yield 0.9;
  small.sort(byNeighbourhood);
  let due = 0;
  for (const [k, piece] of small.entries()) {
    if (k % 1024 === 0) yield 0.9 + (0.1 * k) / small.length;
    eraseComponent(mask, width, piece, piece.seed, kind);
    due += piece.pixels;
    if (!giveBack || due < (side * side) / 2) continue;
    const left = between(Math.round(piece.x + (piece.width - side) / 2), width - side);
    const top = between(Math.round(piece.y + (piece.height - side) / 2), height - side);
    if (left < 0 || top < 0) continue; // a picture smaller than the square
    due -= fillSquare(mask, width, cover, kind, left, top, side);
  }
}

const between = (at: number, most: number): number => Math.min(most, Math.max(0, at));

/** Row of neighbourhoods by row, there and back, so that the next piece is always near. */
function byNeighbourhood(a: Component, b: Component): number {
  const [ay, by] = [Math.floor(a.y / NEAR), Math.floor(b.y / NEAR)];
  const [ax, bx] = [Math.floor(a.x / NEAR), Math.floor(b.x / NEAR)];
  return ay - by || (ay & 1 ? bx - ax : ax - bx) || a.y - b.y || a.x - b.x;
}

/** @returns how many dots became of that kind; none when part of the square is outside the art */
function fillSquare(
  mask: Uint8Array,
  width: number,
  cover: Cover,
  kind: 0 | 1,
  left: number,
  top: number,
  side: number,
): number {
  if (cover)
    for (let y = top; y < top + side; y++)
      for (let x = left; x < left + side; x++) if (cover[y * width + x] === 0) return 0;
  let changed = 0;
  for (let y = top; y < top + side; y++)
    for (let i = y * width + left; i < y * width + left + side; i++) {
      changed += +(mask[i] !== kind);
      mask[i] = kind;
    }
  return changed;
}
