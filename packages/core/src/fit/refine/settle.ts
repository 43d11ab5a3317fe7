import { workSlice, type Work } from "../../maths/work";
import { type Knot } from "../../path/outline";
import { span, type Point } from "../line";
import { type Cover, type Outline } from "./cover";
import { passagesOf, type Passages } from "./passages";
import { cosineAt } from "./piece";

/** Handles that lie on one line but for some ten degrees go on doing so. */
export const SMOOTH = 0.985;
/** In one turn a knot moves by so many pixels at most, a handle turns by so much and grows by this share of it. */
const [MOVES, TURNS, STRETCHES] = [0.7, 0.3, 0.3];
/** Steps of conjugate gradients in a turn. */
const STEPS = 30;
/** What holds back moves that change no pixel, as a share of what the others weigh, and of everything. */
const [DAMPING, HELD] = [1e-3, 1e-6];
const PASSAGES_AT_ONCE = 1 << 14;

/** Which of the unknowns are a knot's: two for its place, one each for a handle's turn and length; -1 where there are none. */
interface Unknowns {
  readonly place: number;
  readonly outTurn: number;
  readonly outLength: number;
  readonly inTurn: number;
  readonly inLength: number;
}
const HELD_STILL: Unknowns = { place: -1, outTurn: -1, outLength: -1, inTurn: -1, inLength: -1 };

/**
 * Outlines moved and bent, knot by knot, so that they cover each pixel by as much as it is dark: the squares of what is
 * missing become least, by Gauss and Newton's method, each turn solved by conjugate gradients. A piece that moves by d
 * changes the cover of a pixel by d times the length in it.
 *
 * @param isFree  whether a knot may move
 * @returns  of each outline the best of all turns
 * @see Hestenes & Stiefel, "Methods of conjugate gradients for solving linear systems", 1952
 */
export function* settled(
  outlines: readonly Outline[],
  cover: Cover,
  isFree: (outline: number, knot: number) => boolean,
  turns: number,
): Work<Outline[]> {
  const best = outlines.map((knots) => ({ cost: Infinity, knots }));
  let now: readonly Outline[] = outlines;
  const touched = (o: number, k: number): boolean => isFree(o, k) || isFree(o, (k + 1) % outlines[o].length);
  for (let turn = 0; turn <= turns; turn++) {
    const share = (k: number) => (turn + k) / (turns + 1);
    yield* workSlice(cover.draw(now), share(0), share(0.3));
    const passages = yield* workSlice(passagesOf(now, cover, touched), share(0.3), share(0.5));
    for (const [o, knots] of now.entries()) {
      const cost = costOf(passages, o, cover);
      if (cost < best[o].cost) best[o] = { cost, knots };
    }
    if (turn === turns) break;
    const { unknowns, count } = numbered(now, isFree);
    const found = yield* workSlice(solved(now, passages, cover, unknowns, count), share(0.5), share(1));
    now = now.map((knots, o) => knots.map((knot, k) => moved(knot, unknowns[o][k], found)));
  }
  return best.map(({ knots }) => knots);
}

/** Squares of what is missing where an outline passes, and beside. */
function costOf({ starts, cell, length }: Passages, o: number, cover: Cover): number {
  let cost = 0;
  for (let k = starts[o]; k < starts[o + 1]; k++) {
    let squares = cover.missing(cell[k]) ** 2;
    for (const n of cover.beside(cell[k])) squares += cover.missing(n) ** 2;
    cost += length[k] * squares;
  }
  return cost;
}

function numbered(outlines: readonly Outline[], isFree: (o: number, k: number) => boolean) {
  let count = 0;
  const next = (many: number): number => (count += many) - many;
  const unknowns = outlines.map((knots, o) =>
    knots.map((knot, k): Unknowns => {
      if (!isFree(o, k)) return HELD_STILL;
      const place = next(2);
      const [out, back] = [knot.out, knot.in].map((h) => h !== undefined && span(...h) > 1e-6);
      const outTurn = out ? next(1) : -1;
      const smooth = out && back && cosineAt(knot, knot, knot) > SMOOTH;
      const inTurn = smooth ? outTurn : back ? next(1) : -1;
      return { place, outTurn, outLength: out ? next(1) : -1, inTurn, inLength: back ? next(1) : -1 };
    }),
  );
  return { unknowns, count };
}

/** How far each unknown goes, so that the squares of what would be missing then become least. */
function* solved(
  outlines: readonly Outline[],
  passages: Passages,
  cover: Cover,
  unknowns: readonly (readonly Unknowns[])[],
  count: number,
): Work<Float64Array> {
  const { starts, cell, knot, moves } = passages;
  const all = cell.length;
  // Of each passage the numbers of its piece's eight unknowns, and how its cover changes with each.
  const which = new Int32Array(8 * all);
  const by = new Float32Array(8 * all);
  for (let o = 0; o < outlines.length; o++) {
    const knots = outlines[o];
    for (let p = starts[o]; p < starts[o + 1]; p++) {
      if (p % PASSAGES_AT_ONCE === 0) yield (0.2 * p) / all;
      const k = knot[p];
      const next = (k + 1) % knots.length;
      const [a, b] = [unknowns[o][k], unknowns[o][next]];
      const [out, back] = [knots[k].out ?? NONE, knots[next].in ?? NONE];
      const m = (j: number): number => moves[8 * p + j];
      which.set(
        [a.place, a.place < 0 ? -1 : a.place + 1, a.outTurn, a.outLength, b.inTurn, b.inLength],
        8 * p,
      );
      which.set([b.place, b.place < 0 ? -1 : b.place + 1], 8 * p + 6);
      by.set([m(0) + m(2), m(1) + m(3)], 8 * p);
      by.set([out[0] * m(3) - out[1] * m(2), out[0] * m(2) + out[1] * m(3)], 8 * p + 2);
      by.set([back[0] * m(5) - back[1] * m(4), back[0] * m(4) + back[1] * m(5)], 8 * p + 4);
      by.set([m(4) + m(6), m(5) + m(7)], 8 * p + 6);
    }
  }
  const [weight, rest] = [new Float64Array(count), new Float64Array(count)];
  for (let p = 0; p < all; p++) {
    const missing = cover.missing(cell[p]);
    for (let j = 8 * p; j < 8 * p + 8; j++) {
      if (which[j] < 0) continue;
      weight[which[j]] += by[j] * by[j];
      rest[which[j]] += by[j] * missing;
    }
  }
  for (let i = 0; i < count; i++) weight[i] = weight[i] * (1 + DAMPING) + HELD;

  const { scratch } = cover;
  const normal = (of: Float64Array, into: Float64Array): void => {
    for (let p = 0; p < all; p++) {
      let sum = 0;
      for (let j = 8 * p; j < 8 * p + 8; j++) if (which[j] >= 0) sum += by[j] * of[which[j]];
      scratch[cell[p]] += sum;
    }
    for (let i = 0; i < count; i++) into[i] = DAMPING * weight[i] * of[i];
    for (let p = 0; p < all; p++) {
      const change = scratch[cell[p]];
      for (let j = 8 * p; j < 8 * p + 8; j++) if (which[j] >= 0) into[which[j]] += by[j] * change;
    }
    for (let p = 0; p < all; p++) scratch[cell[p]] = 0;
  };

  const [found, eased, image] = [0, 0, 0].map(() => new Float64Array(count));
  for (let i = 0; i < count; i++) eased[i] = rest[i] / weight[i];
  const way = eased.slice();
  let left = dot(rest, eased);
  for (let step = 0; step < STEPS && left > 1e-9; step++) {
    yield 0.2 + (0.8 * step) / STEPS;
    normal(way, image);
    const far = left / dot(way, image);
    for (let i = 0; i < count; i++) {
      found[i] += far * way[i];
      rest[i] -= far * image[i];
      eased[i] = rest[i] / weight[i];
    }
    const still = dot(rest, eased);
    for (let i = 0; i < count; i++) way[i] = eased[i] + (still / left) * way[i];
    left = still;
  }
  return found;
}

const NONE: Point = [0, 0];

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
}

function moved(knot: Knot, of: Unknowns, found: Float64Array): Knot {
  if (of.place < 0) return knot;
  const { at, in: back, out } = knot;
  const by = (i: number, most: number): number => (i < 0 ? 0 : Math.max(-most, Math.min(most, found[i])));
  const handle = ([x, y]: Point, turn: number, length: number): Point => {
    const [sine, grown] = [by(turn, TURNS), 1 + by(length, STRETCHES)];
    const cosine = Math.sqrt(1 - sine * sine);
    return [grown * (x * cosine - y * sine), grown * (x * sine + y * cosine)];
  };
  return {
    at: [at[0] + by(of.place, MOVES), at[1] + by(of.place + 1, MOVES)],
    ...(back ? { in: handle(back, of.inTurn, of.inLength) } : {}),
    ...(out ? { out: handle(out, of.outTurn, of.outLength) } : {}),
  };
}
