import { seeded } from "../maths/seeded";
import { type Work } from "../maths/work";
import { simplified } from "../polygon/clip";
import { offset } from "../polygon/offset";
import { reversedRing, ringArea, ringBox, type Ring } from "../polygon/rings";
import { type Rect } from "../raster/types";
import {
  arrangementOf,
  isBetter,
  lying,
  type Arrangement,
  type NestPiece,
  type NestStock,
  type Placing,
} from "./arrangement";
import { byBoxes } from "./boxes";
import { takeNoFit } from "./noFit";
import { PlaceGrid } from "./placeGrid";

// Thresholds: what they decide is measured by `npm run nests`.

/** An outline is simplified within this on its outer side, in mm: what pieces lose at most. */
const WITHIN_MM = 0.05;
/** Places at which outlines touch are taken: rectangles, which must lie side by side, are so much smaller for it. */
const TOUCH_MM = 1e-4;
/** Places along the longer side of a sheet, about. */
const PLACES = 1200;
const [LEAST_STEP, MOST_STEP] = [0.1, 1];

export interface NestOptions {
  readonly spacingMm: number;
  /** Arrangements that are tried after the first two. */
  readonly rounds: number;
  readonly seed?: number;
  /** Copies that stay where they are. */
  readonly kept?: readonly Placing[];
  /** Told of every arrangement that is better than all before. */
  readonly better?: (arrangement: Arrangement) => void;
}

/**
 * Pieces by their true outlines, as close as they go: each copy at the free place furthest up, and there furthest left, of
 * whichever of its turns goes furthest; a place is free where the outline lies over no other, which is looked up in a grid
 * of places that every placed copy takes its share of. The order of pieces and how turns are weighed is varied from round
 * to round, across the sheet and down it, and the best is kept. Never worse than `byBoxes`.
 *
 * @see Burke, Hellier, Kendall & Whitwell, "A new bottom-left-fill heuristic algorithm for the two-dimensional irregular
 *      packing problem", Operations Research 54, 2006
 * @see Bennell & Oliveira, "The geometry of nesting problems: a tutorial", European J. Operational Research 184, 2008
 */
export function* nest(
  pieces: readonly NestPiece[],
  stock: NestStock,
  { spacingMm, rounds, seed = 1, kept = [], better }: NestOptions,
): Work<Arrangement> {
  let best = byBoxes(pieces, stock, spacingMm, kept);
  better?.(best);
  const down = new Field(pieces, stock, spacingMm, false);
  const across = new Field(pieces, stock, spacingMm, true);
  const chance = seeded(seed);
  const order = pieces.map((_, k) => k).sort((a, b) => areaOf(pieces[b]) - areaOf(pieces[a]));
  for (let round = 0; round < rounds + 2; round++) {
    yield round / (rounds + 2);
    const field = round % 2 === 0 ? down : across;
    const varied = round < 2 ? order : shuffled(order, chance);
    const weigh = round < 2 ? 1 : chance() * 1.2;
    const placings = yield* field.filled(varied, weigh, kept);
    const found = arrangementOf(pieces, placings, stock.room.y);
    if (isBetter(found, best)) {
      best = found;
      better?.(best);
    }
  }
  return best;
}

const areaOf = ({ outline }: NestPiece): number => Math.abs(ringArea(outline));

/** An order near to a given one: each goes some places forward or back. */
function shuffled(order: readonly number[], chance: () => number): number[] {
  return order
    .map((k, at) => ({ k, at: at + 1.5 * order.length * (chance() - 0.5) * chance() }))
    .sort((a, b) => a.at - b.at)
    .map(({ k }) => k);
}

/** One way for one piece to lie: its outline with half of the spacing round it, its box at the origin. */
interface Shape {
  readonly piece: number;
  readonly turnDegrees: number;
  readonly mirrored: boolean;
  readonly ring: Ring;
  readonly width: number;
  readonly height: number;
  /** From the box's corner to the middle of the piece. */
  readonly middle: readonly [number, number];
}

/** Where everything may lie on sheets of a stock, searched down the sheet or, with x and y exchanged, across it. */
export class Field {
  readonly shapes: readonly Shape[];
  readonly step: number;
  private readonly room: Rect;
  private readonly noFits = new Map<string, { grid: PlaceGrid; x: number; y: number }>();

  constructor(
    private readonly pieces: readonly NestPiece[],
    private readonly stock: NestStock,
    readonly spacingMm: number,
    private readonly exchanged = false,
  ) {
    // Half of the spacing may lie outside of the room.
    const half = spacingMm / 2;
    const { room } = stock;
    const grown = {
      ...{ x: room.x - half, y: room.y - half },
      ...{ width: room.width + spacingMm, height: room.height + spacingMm },
    };
    this.room = exchanged ? exchange(grown) : grown;
    const longest = Math.max(grown.width, grown.height);
    this.step = Math.min(MOST_STEP, Math.max(LEAST_STEP, longest / PLACES));
    this.shapes = pieces.flatMap((piece, k) =>
      piece.turns.flatMap((turnDegrees) =>
        (piece.mirror ? [false, true] : [false]).map((mirrored) => this.shapeOf(k, turnDegrees, mirrored)),
      ),
    );
  }

  /** Copies placed one after another, in an order of pieces, until none are left or nothing goes anywhere. */
  *filled(order: readonly number[], weigh: number, kept: readonly Placing[]): Work<Placing[]> {
    const left = this.pieces.map((p, k) => p.count - kept.filter((at) => at.piece === k).length);
    const placings: Placing[] = [...kept];
    for (let sheet = 0; sheet < this.stock.sheets; sheet++) {
      const grids = yield* this.emptied(kept.filter((at) => at.sheet === sheet));
      for (const piece of order) {
        const own = this.shapes
          .map((shape, k) => ({ shape, k }))
          .filter(({ shape }) => shape.piece === piece);
        for (let copies = 0; left[piece] > 0; copies++) {
          if (copies % 16 === 0) yield sheet / this.stock.sheets;
          let best: { k: number; at: readonly [number, number] } | null = null;
          let least = Infinity;
          for (const { shape, k } of own) {
            const at = grids[k].topLeft();
            if (!at) continue;
            const cost = at[1] + (weigh * shape.height) / this.step + at[0] / 1e5;
            if (cost < least) [least, best] = [cost, { k, at }];
          }
          if (!best) break;
          const { k, at } = best;
          for (let other = 0; other < grids.length; other++) {
            if (left[this.shapes[other].piece] === 0) continue;
            const { grid, x, y } = this.noFitOf(k, other);
            grids[other].takeAll(grid, at[0] + x, at[1] + y);
          }
          placings.push(this.placingOf(k, at, sheet));
          left[piece]--;
        }
      }
      if (left.every((n) => n === 0)) break;
    }
    return placings;
  }

  /** For each way to lie, the places of an empty sheet, without what is kept free and what stays. */
  *emptied(kept: readonly Placing[]): Work<PlaceGrid[]> {
    const grids: PlaceGrid[] = [];
    for (const k of this.shapes.keys()) {
      yield 0;
      grids.push(this.placesFor(k, kept, 0));
    }
    return grids;
  }

  /** The number of the way in which a copy lies; -1 where pieces may not lie so. */
  shapeAt({ piece, turnDegrees, mirrored }: Placing): number {
    return this.shapes.findIndex(
      (s) => s.piece === piece && s.turnDegrees === turnDegrees && s.mirrored === mirrored,
    );
  }

  /**
   * Places for one way to lie on a sheet on which others stay.
   * @param slackMm  copies this near to a place of the grid are taken to lie on it, which is looked up
   */
  placesFor(k: number, kept: readonly Placing[], slackMm: number): PlaceGrid {
    const shape = this.shapes[k];
    const across = Math.floor((this.room.width - shape.width) / this.step + 1e-9) + 1;
    const down = Math.floor((this.room.height - shape.height) / this.step + 1e-9) + 1;
    const grid = new PlaceGrid(Math.max(0, across), Math.max(0, across > 0 ? down : 0));
    for (const rect of this.stock.blocked) this.takeRing(grid, this.ringOf(rect), shape);
    for (const at of kept) {
      const other = slackMm > 0 ? this.shapeAt(at) : -1;
      const place = other < 0 ? null : this.gridPlace(other, at);
      if (place && this.isNear(other, place, at, slackMm)) {
        const { grid: taken, x, y } = this.noFitOf(other, k);
        grid.takeAll(taken, place[0] + x, place[1] + y);
      } else this.takeRing(grid, this.keptRing(at), shape);
    }
    return grid;
  }

  private isNear(k: number, place: readonly [number, number], at: Placing, withinMm: number): boolean {
    const { xMm, yMm } = this.placingOf(k, place, at.sheet);
    return Math.abs(xMm - at.xMm) <= withinMm && Math.abs(yMm - at.yMm) <= withinMm;
  }

  placingOf(k: number, [x, y]: readonly [number, number], sheet: number): Placing {
    const { piece, turnDegrees, mirrored, middle } = this.shapes[k];
    const mm = [this.room.x + x * this.step + middle[0], this.room.y + y * this.step + middle[1]];
    const [xMm, yMm] = this.exchanged ? [mm[1], mm[0]] : mm;
    return { piece, sheet, xMm, yMm, turnDegrees, mirrored };
  }

  /** The place of a grid that is nearest to where a copy lies. */
  gridPlace(k: number, { xMm, yMm }: Pick<Placing, "xMm" | "yMm">): readonly [number, number] {
    const { middle } = this.shapes[k];
    const [x, y] = this.exchanged ? [yMm, xMm] : [xMm, yMm];
    return [
      Math.round((x - middle[0] - this.room.x) / this.step),
      Math.round((y - middle[1] - this.room.y) / this.step),
    ];
  }

  private takeRing(grid: PlaceGrid, ring: Ring, shape: Shape): void {
    const from = [this.room.x, this.room.y];
    const fixed = ring.map((v, k) => v - from[k % 2]);
    takeNoFit(grid, fixed, shape.ring, this.step);
  }

  private ringOf({ x, y, width, height }: Rect): Ring {
    // Half of the spacing is round the piece already.
    const half = this.spacingMm / 2;
    const r = { x: x - half, y: y - half, width: width + 2 * half, height: height + 2 * half };
    const { x: l, y: t, width: w, height: h } = this.exchanged ? exchange(r) : r;
    return Float64Array.of(l, t, l + w, t, l + w, t + h, l, t + h);
  }

  private keptRing(at: Placing): Ring {
    const grown = grownOutline(lying(this.pieces[at.piece], at), this.spacingMm / 2);
    const on = grown.map((v, k) => v + (k % 2 === 0 ? at.xMm : at.yMm));
    return this.exchanged ? exchangedRing(on) : on;
  }

  private shapeOf(piece: number, turnDegrees: number, mirrored: boolean): Shape {
    const turned = lying(this.pieces[piece], { turnDegrees, mirrored });
    const grown = grownOutline(this.exchanged ? exchangedRing(turned) : turned, this.spacingMm / 2);
    const box = ringBox(grown);
    const ring = grown.map((v, k) => v - (k % 2 === 0 ? box.x : box.y));
    const { width, height } = box;
    return { piece, turnDegrees, mirrored, ring, width, height, middle: [-box.x, -box.y] };
  }

  /** Places of shape `b`, from where shape `a` lies, at which they lie over each other. */
  private noFitOf(a: number, b: number): { grid: PlaceGrid; x: number; y: number } {
    const key = `${a} ${b}`;
    let known = this.noFits.get(key);
    if (!known) {
      const [fixed, moving] = [this.shapes[a], this.shapes[b]];
      const x = -Math.ceil(moving.width / this.step);
      const y = -Math.ceil(moving.height / this.step);
      const across = Math.ceil(fixed.width / this.step) - x + 1;
      const down = Math.ceil(fixed.height / this.step) - y + 1;
      const grid = new PlaceGrid(across, down);
      takeNoFit(grid, fixed.ring, moving.ring, this.step, [x, y]);
      this.noFits.set(key, (known = { grid, x, y }));
    }
    return known;
  }
}

const exchange = ({ x, y, width, height }: Rect): Rect => ({ x: y, y: x, width: height, height: width });
const exchangedRing = (ring: Ring): Ring => ring.map((_, k) => ring[k ^ 1]);

/** An outline so much larger, with few corners, nowhere inside of the true one. */
function grownOutline(outline: Ring, byMm: number): Ring {
  const ring = ringArea(outline) < 0 ? reversedRing(outline) : outline;
  if (isRectangle(ring)) {
    const box = ringBox(ring);
    const by = byMm - TOUCH_MM;
    const [l, t, r, b] = [box.x - by, box.y - by, box.x + box.width + by, box.y + box.height + by];
    return Float64Array.of(l, t, r, t, r, b, l, b);
  }
  const grown = simplified(offset([ring], byMm + WITHIN_MM), WITHIN_MM);
  // Holes that close in do not matter: nothing is laid into them.
  return grown.reduce((a, b) => (ringArea(b) > ringArea(a) ? b : a));
}

const isRectangle = (ring: Ring): boolean => {
  const box = ringBox(ring);
  return ring.length === 8 && Math.abs(Math.abs(ringArea(ring)) - box.width * box.height) < 1e-9;
};
