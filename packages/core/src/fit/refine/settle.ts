import { workSlice, type Work } from "../../maths/work";
import { type Knot } from "../../path/outline";
import { type Point } from "../line";
import { type Cover, type Outline } from "./cover";
import { Equations, Numbered, type Unknowns } from "./equations";
import { passagesOf, type Passages } from "./passages";

/** In one turn a knot moves by so many pixels at most, a handle turns by so much and grows by this share of it. */
const [MOVES, TURNS, STRETCHES] = [0.7, 0.3, 0.3];
/** Steps of conjugate gradients in a turn, and what is left to gain, of all there was and in squares of a pixel, that ends them. */
const [STEPS, ENOUGH, NOTHING] = [30, 1e-4, 1e-9];
/** Outlines put in between two slices. */
const MANY = 8;

/**
 * Outlines moved and bent, knot by knot, so that they cover each pixel by as much as it is dark: the squares of what is
 * missing become least, by Gauss and Newton's method, each turn solved by conjugate gradients. A piece that moves by d
 * changes the cover of a pixel by d times the length in it.
 *
 * @param cover   of these outlines; afterwards of what they became
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
  const isMoving = outlines.map((knots, o) => knots.some((_, k) => isFree(o, k)));
  const moving = [...isMoving.keys()].filter((o) => isMoving[o]);
  const touched = (o: number, k: number): boolean =>
    isMoving[o] && (isFree(o, k) || isFree(o, (k + 1) % outlines[o].length));
  const best = new Map(moving.map((o) => [o, { cost: Infinity, knots: outlines[o] }]));
  const now = [...outlines];
  const become = (o: number, knots: Outline): void => {
    cover.swap(now[o], knots);
    now[o] = knots;
  };
  for (let turn = 0; turn <= turns; turn++) {
    const share = (k: number) => (turn + k) / (turns + 1);
    const passages = yield* workSlice(passagesOf(now, cover, touched), share(0), share(0.4));
    for (const [n, o] of moving.entries()) {
      if (n % MANY === 0) yield share(0.42);
      const cost = costOf(passages, o, cover);
      if (cost < best.get(o)!.cost) best.set(o, { cost, knots: now[o] });
    }
    if (turn === turns) break;
    const numbered = new Numbered();
    const unknowns = new Map(moving.map((o) => [o, numbered.of(now[o], (k) => isFree(o, k))]));
    const equations = new Equations(passages, cover, numbered.count);
    for (const [n, o] of moving.entries()) {
      if (n % MANY === 0) yield share(0.45);
      equations.add(o, now[o], unknowns.get(o)!);
    }
    equations.close();
    const found = yield* workSlice(solved(equations), share(0.5), share(0.9));
    for (const [n, o] of moving.entries()) {
      if (n % MANY === 0) yield share(0.95);
      const own = unknowns.get(o)!;
      become(
        o,
        now[o].map((knot, k) => moved(knot, own[k], found)),
      );
    }
  }
  for (const o of moving) become(o, best.get(o)!.knots);
  return now;
}

/** Squares of what is missing where an outline passes, and beside. */
function costOf({ starts, cell, length }: Passages, o: number, cover: Cover): number {
  let cost = 0;
  for (let k = starts[o]; k < starts[o + 1]; k++) {
    const c = cell[k];
    const own = cover.missing(c);
    const left = cover.missing(c - 1);
    const right = cover.missing(c + 1);
    const above = cover.missing(c - cover.width);
    const below = cover.missing(c + cover.width);
    cost += length[k] * (own * own + above * above + left * left + right * right + below * below);
  }
  return cost;
}

/** How far each unknown goes, so that the squares of what would be missing then become least. */
function* solved(equations: Equations): Work<Float64Array> {
  const { count, weight, wanted: rest } = equations;
  const found = new Float64Array(count + 1);
  const eased = quotients(rest, weight, new Float64Array(count + 1));
  const image = new Float64Array(count + 1);
  const way = eased.slice();
  let left = dot(rest, eased);
  const enough = Math.max(ENOUGH * left, NOTHING);
  for (let step = 0; step < STEPS && left > enough; step++) {
    yield step / STEPS;
    equations.times(way, image);
    const far = left / dot(way, image);
    goOn(found, far, way);
    goOn(rest, -far, image);
    quotients(rest, weight, eased);
    const still = dot(rest, eased);
    for (let i = 0; i < count; i++) way[i] = eased[i] + (still / left) * way[i];
    left = still;
  }
  return found;
}

function quotients(of: Float64Array, by: Float64Array, into: Float64Array): Float64Array {
  for (let i = 0; i < of.length; i++) into[i] = of[i] / by[i];
  return into;
}

function goOn(from: Float64Array, far: number, way: Float64Array): void {
  for (let i = 0; i < from.length; i++) from[i] += far * way[i];
}

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
