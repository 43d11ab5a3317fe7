import { offset } from "../polygon/offset";
import { reversedRing, ringArea, type Ring } from "../polygon/rings";
import { type Rect } from "../raster/types";
import { lying, type NestPiece, type Placing } from "./arrangement";
import { overlap, type Effort } from "./noFit";

/** Two copies over one another, or nearer than they may be: their places in the list. */
export interface Pair {
  readonly a: number;
  readonly b: number;
  readonly over: boolean;
}

export interface Pairs {
  readonly found: readonly Pair[];
  /** All were looked at. Otherwise there were too many: what was found is there, and there may be more. */
  readonly whole: boolean;
}

/** So many are found, and no more are looked for: whoever has a thousand knows enough. */
const MOST_PAIRS = 1000;
/** Sides of outlines held against each other, at most. */
const MOST_EFFORT = 2e8;
/** Cells of the grid across and down, at most. */
const MOST_CELLS = 256;
/** Copies of one piece that lie the same way no further apart than this are on one place, in mm. */
const ONE_PLACE_MM = 0.01;
/** Places are the same within this, in mm: two copies lie to each other as two others do. */
const SAME_MM = 0.001;

/**
 * Copies on one sheet that lie over one another, or nearer than so much. Only those are held against each other whose boxes
 * meet in a cell of a grid, and those that lie to each other as two others do are not looked at again.
 *
 * @param boxes  of the copies, in mm
 * @param byMm   how much an outline is grown to see what comes too near; not above zero: only what lies over one another
 * @see Franklin, "Adaptive grids for geometric operations", Cartographica 21, 1984
 */
export function pairsNear(
  pieces: readonly Pick<NestPiece, "outline" | "box">[],
  placings: readonly Placing[],
  boxes: readonly Rect[],
  byMm: number,
): Pairs {
  const found: Pair[] = [];
  const known = new Map<string, 0 | 1 | 2>();
  const effort: Effort = { left: MOST_EFFORT };
  const lies = new Lies(pieces, byMm);
  const lieOf = placings.map((p) => lies.of(p));
  for (const [a, b] of meeting(placings, boxes, Math.max(0, byMm), effort)) {
    if (effort.left <= 0 || found.length >= MOST_PAIRS) return { found, whole: false };
    const [dx, dy] = [placings[b].xMm - placings[a].xMm, placings[b].yMm - placings[a].yMm];
    const key = `${lieOf[a]} ${lieOf[b]} ${Math.round(dx / SAME_MM)} ${Math.round(dy / SAME_MM)}`;
    let how = known.get(key);
    if (how === undefined) known.set(key, (how = lies.compared(lieOf[a], lieOf[b], dx, dy, effort)));
    if (how > 0) found.push({ a, b, over: how === 2 });
  }
  return { found, whole: effort.left > 0 };
}

/** The ways in which pieces lie: each outline turned once, and grown once. */
class Lies {
  private readonly numbers = new Map<string, number>();
  private readonly rings: Ring[] = [];
  private readonly grown: (Ring | null)[] = [];

  constructor(
    private readonly pieces: readonly Pick<NestPiece, "outline" | "box">[],
    private readonly byMm: number,
  ) {}

  of(at: Placing): number {
    const key = `${at.piece} ${at.turnDegrees} ${at.mirrored}`;
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.rings.push(lying(this.pieces[at.piece], at)) - 1;
      this.numbers.set(key, number);
    }
    return number;
  }

  /** @returns 2: over one another; 1: too near; 0: neither */
  compared(a: number, b: number, dx: number, dy: number, effort: Effort): 0 | 1 | 2 {
    if (a === b && Math.abs(dx) < ONE_PLACE_MM && Math.abs(dy) < ONE_PLACE_MM) return 2;
    if (overlap(this.rings[a], this.rings[b], dx, dy, effort)) return 2;
    return this.byMm > 0 && overlap(this.wide(a), this.rings[b], dx, dy, effort) ? 1 : 0;
  }

  private wide(a: number): Ring {
    const there = this.grown[a];
    if (there) return there;
    const own = this.rings[a];
    const rings = offset([ringArea(own) < 0 ? reversedRing(own) : own], this.byMm);
    return (this.grown[a] = rings.reduce((p, q) => (ringArea(q) > ringArea(p) ? q : p), own));
  }
}

/** Pairs of copies of one sheet whose boxes meet, each once: in the cell in which the common part of the boxes begins. */
function* meeting(
  placings: readonly Placing[],
  boxes: readonly Rect[],
  by: number,
  effort: Effort,
): Generator<readonly [number, number]> {
  const sheets = new Map<number, number[]>();
  placings.forEach(({ sheet }, k) => {
    const own = sheets.get(sheet);
    if (own) own.push(k);
    else sheets.set(sheet, [k]);
  });
  for (const own of sheets.values()) {
    let [left, top, right, bottom, sides] = [Infinity, Infinity, -Infinity, -Infinity, 0];
    for (const k of own) {
      const { x, y, width, height } = boxes[k];
      [left, top] = [Math.min(left, x), Math.min(top, y)];
      [right, bottom] = [Math.max(right, x + width + by), Math.max(bottom, y + height + by)];
      sides += Math.max(width, height) + by;
    }
    const cell = Math.max(sides / own.length, (right - left) / MOST_CELLS, (bottom - top) / MOST_CELLS, 1e-3);
    const columns = Math.floor((right - left) / cell) + 1;
    const cellOf = (x: number, y: number): number =>
      Math.floor((y - top) / cell) * columns + Math.floor((x - left) / cell);
    const cells = new Map<number, number[]>();
    for (const b of own) {
      const { x, y, width, height } = boxes[b];
      const [last, down] = [
        Math.floor((x + width + by - left) / cell),
        Math.floor((y + height + by - top) / cell),
      ];
      for (let row = Math.floor((y - top) / cell); row <= down; row++)
        for (let column = Math.floor((x - left) / cell); column <= last; column++) {
          const at = row * columns + column;
          const there = cells.get(at);
          if (!there) {
            cells.set(at, [b]);
            continue;
          }
          effort.left -= there.length;
          if (effort.left <= 0) return;
          for (const a of there)
            if (
              touches(boxes[a], boxes[b], by) &&
              cellOf(Math.max(boxes[a].x, x), Math.max(boxes[a].y, y)) === at
            )
              yield [a, b];
          there.push(b);
        }
    }
  }
}

/** Whether two boxes come nearer to each other than so much. */
export const touches = (a: Rect, b: Rect, by: number): boolean =>
  a.x < b.x + b.width + by &&
  b.x < a.x + a.width + by &&
  a.y < b.y + b.height + by &&
  b.y < a.y + a.height + by;
