import { workSlice, type Work } from "../../maths/work";
import { span, type Point } from "../line";
import { nameOf, type Change } from "./changes";
import { type Cover, type Outline } from "./cover";
import { STRAY, type Passages } from "./passages";
import { cosineAt, pieceOf, placeOn, type Piece } from "./piece";
import { lookAt, withThoseThatHelp, type Judge, type Look, type State, type Step } from "./trial";

/** Outlines looked through between two slices. */
const MANY = 64;
/** Changes nearer to each other along an outline than this, in pixels, are not tried together. */
const APART = 5;
/** A place this near to a knot, in pixels, may be two corners that were taken for one. */
const AT_KNOT = 2;
/** What is missing within so many pixels of a knot that was added falls to this share, or it goes again. */
const [WITHIN, BETTER] = [3, 0.6];

/**
 * Knots more where outlines lie off by more than a limit: one in the middle of the piece, or two corners where there was
 * one. Whatever does not help is taken back.
 *
 * @param limit  in pixels
 */
export function* grown(state: State, cover: Cover, limit: number): Work<Step> {
  const { outlines } = state;
  const { passages, off, tried } = yield* workSlice(begun(state, cover), 0, 0.2);
  const before = new Map<Change, number>();
  for (let o = 0; o < outlines.length; o++) {
    if (o % MANY === 0) yield 0.2;
    for (const p of peaksOf(passages, o, off, limit)) {
      const k = passages.knot[p];
      const next = (k + 1) % outlines[o].length;
      const t = passages.t[p];
      const place = placeOn(pieceOf(outlines[o][k], outlines[o][next]), t);
      const [toBegin, toEnd] = [k, next].map((i) => apart(outlines[o][i].at, place));
      const nearest = toBegin < toEnd ? k : next;
      const made =
        (Math.min(toBegin, toEnd) < AT_KNOT &&
          tried.add({ kind: "parted", outline: o, knot: nearest, t: 0, place })) ||
        tried.add({ kind: "between", outline: o, knot: k, t, place });
      if (made) before.set(made, missingNear(cover, place));
    }
  }
  const helps: Judge = (change) => missingNear(cover, change.place) <= BETTER * before.get(change)!;
  return yield* workSlice(withThoseThatHelp(state, tried.changes, cover, helps), 0.2, 1);
}

/** A knot is left out for a try where the way turns by less than 20 degrees, or straight back, or a piece is this short. */
const [EASY, BACK, SHORT] = [0.94, -0.966, 1.2];
/** An outline keeps so many knots. */
const FEWEST = 3;

/** Knots less where an outline without them lies off by no more than a limit, or than it did before. */
export function* shrunk(state: State, cover: Cover, limit: number): Work<Step> {
  const { outlines, isOn } = state;
  const { worst, tried } = yield* workSlice(begun(state, cover), 0, 0.2);
  for (const [o, knots] of outlines.entries()) {
    if (!isOn[o]) continue;
    yield 0.2;
    const at = (k: number): number => (k + knots.length) % knots.length;
    const cosines = knots.map((knot, k) => cosineAt(knots[at(k - 1)], knot, knots[at(k + 1)]));
    const long = knots.map((a, k) => pieceOf(a, knots[at(k + 1)]).length);
    const order = [...knots.keys()].sort((a, b) => cosines[b] - cosines[a] || a - b);
    let left = knots.length;
    for (const k of order) {
      if (left <= FEWEST) break;
      const isStray = Math.max(worst[o][at(k - 1)], worst[o][k]) === STRAY;
      const isSpare =
        isStray || cosines[k] > EASY || cosines[k] < BACK || Math.min(long[at(k - 1)], long[k]) < SHORT;
      if (isSpare && tried.add({ kind: "left", outline: o, knot: k, t: 0, place: knots[k].at })) left--;
    }
  }
  const helps = noFurtherOff(worst, limit);
  return yield* workSlice(withThoseThatHelp(state, tried.changes, cover, helps), 0.2, 1);
}

/** A curve no longer than this, in pixels, that turns by more than so much (cosine) may be corners. */
const [FEW_PIXELS, ROUND] = [8, 0.5];
/** A bend of a smaller radius than this, in pixels, may be a corner; it is one when the way turns so much there (cosine). */
const [TIGHT, CORNER] = [0.8, 0.8];

/** Short curves that turn much made straight, or a corner, and tight bends a corner, where outlines then lie off no further. */
export function* sharpened(state: State, cover: Cover, limit: number): Work<Step> {
  const { outlines, isOn } = state;
  const { worst, tried } = yield* workSlice(begun(state, cover), 0, 0.2);
  for (const [o, knots] of outlines.entries()) {
    if (!isOn[o]) continue;
    yield 0.2;
    knots.forEach((a, k) => {
      const piece = pieceOf(a, knots[(k + 1) % knots.length]);
      if (!piece.curved) return;
      const change = { outline: o, knot: k, t: 0, place: placeOn(piece, 0.5) } as const;
      const tight = tightest(piece);
      if (piece.length <= FEW_PIXELS && leastCosine(piece.points) <= ROUND)
        void (tried.add({ ...change, kind: "straight" }) || tried.add({ ...change, kind: "bent" }));
      else if (tight.radius < TIGHT)
        tried.add({ ...change, kind: "between", t: tight.t, place: placeOn(piece, tight.t) });
    });
  }
  const isNoWorse = noFurtherOff(worst, limit);
  const helps: Judge = (change, now, piece) => {
    if (!isNoWorse(change, now, piece)) return false;
    if (change.kind !== "between") return true;
    const knots = now.outlines[change.outline];
    const at = (k: number) => knots[k % knots.length];
    return cosineAt(at(piece), at(piece + 1), at(piece + 2)) < CORNER;
  };
  return yield* workSlice(withThoseThatHelp(state, tried.changes, cover, helps), 0.2, 1);
}

/** Parts of a curve at whose ends its bend is looked at. */
const PARTS = 24;

/** Where a curve bends most, and how. */
function tightest({ points: p }: Piece): { t: number; radius: number } {
  let best = { t: 0.5, radius: Infinity };
  for (let k = 1; k < PARTS; k++) {
    const t = k / PARTS;
    const u = 1 - t;
    const [dx, dy] = [0, 1].map(
      (c) =>
        3 * (u * u * (p[2 + c] - p[c]) + 2 * u * t * (p[4 + c] - p[2 + c]) + t * t * (p[6 + c] - p[4 + c])),
    );
    const [ddx, ddy] = [0, 1].map(
      (c) => 6 * (u * (p[4 + c] - 2 * p[2 + c] + p[c]) + t * (p[6 + c] - 2 * p[4 + c] + p[2 + c])),
    );
    const radius = span(dx, dy) ** 3 / Math.max(Math.abs(dx * ddy - dy * ddx), 1e-9);
    if (radius < best.radius) best = { t, radius };
  }
  return best;
}

/** Of the turns at the two handles, and of the whole way, the sharpest. */
function leastCosine(p: Float64Array): number {
  const ways = [0, 2, 4].map((k): Point => [p[k + 2] - p[k], p[k + 3] - p[k + 1]]);
  const used = ways.filter((way) => span(...way) > 1e-6);
  let least = 1;
  for (let a = 0; a < used.length; a++)
    for (let b = a + 1; b < used.length; b++) {
      const [u, v] = [used[a], used[b]];
      least = Math.min(least, (u[0] * v[0] + u[1] * v[1]) / (span(...u) * span(...v)));
    }
  return least;
}

/** How far a state lies off, before anything is tried. */
function* begun({ outlines, isOn, refused }: State, cover: Cover): Work<Look & { readonly tried: Tried }> {
  const look = yield* lookAt(outlines, (o) => isOn[o], cover);
  return { ...look, tried: new Tried(outlines, refused) };
}

/** Changes of which no two touch the same knot, none of them refused before. */
class Tried {
  readonly changes: Change[] = [];
  private readonly busy = new Set<string>();

  constructor(
    private readonly outlines: readonly Outline[],
    private readonly refused: ReadonlySet<string>,
  ) {}

  add(change: Change): Change | null {
    const { outline, knot } = change;
    const count = this.outlines[outline].length;
    const near = [-1, 0, 1].map((i) => `${outline} ${(knot + i + count) % count}`);
    if (this.refused.has(nameOf(change)) || near.some((name) => this.busy.has(name))) return null;
    for (const name of near) this.busy.add(name);
    this.changes.push(change);
    return change;
  }
}

/** Whether the piece that a change left, and those beside it, lie off no further than a limit, or than those before. */
const noFurtherOff =
  (worst: readonly (readonly number[])[], limit: number): Judge =>
  ({ outline, knot }, now, piece) => {
    const most = (of: readonly number[], k: number, reach: readonly number[]): number =>
      Math.max(...reach.map((i) => of[(k + i + 2 * of.length) % of.length]));
    const before = most(worst[outline], knot, [-2, -1, 0, 1]);
    return most(now.worst[outline], piece, [-1, 0, 1]) <= Math.max(limit, before);
  };

/** Passages of an outline that lie off most, worst first, each some way from the others. */
function peaksOf({ starts, length }: Passages, o: number, off: Float32Array, limit: number): number[] {
  const [first, end] = [starts[o], starts[o + 1]];
  const isNear = new Uint8Array(end - first);
  const order = Array.from(isNear, (_, k) => first + k).filter((p) => off[p] > limit);
  const chosen: number[] = [];
  for (const p of order.sort((a, b) => off[b] - off[a] || a - b)) {
    if (isNear[p - first]) continue;
    chosen.push(p);
    for (const way of [1, -1])
      for (let i = p, along = 0; along < APART;) {
        isNear[i - first] = 1;
        along += length[i] / 2;
        i += way;
        if (i < first) i = end - 1;
        if (i === end) i = first;
        if (i === p) break;
        along += length[i] / 2;
      }
  }
  return chosen;
}

const apart = (a: Point, b: Point): number => span(a[0] - b[0], a[1] - b[1]);

/** Squares of what is missing round a place. */
function missingNear(cover: Cover, [x, y]: Point): number {
  let sum = 0;
  for (let v = Math.floor(y - WITHIN); v <= y + WITHIN; v++)
    for (let u = Math.floor(x - WITHIN); u <= x + WITHIN; u++) {
      const cell = cover.cellAt(u, v);
      if (cell >= 0) sum += cover.missing(cell) ** 2;
    }
  return sum;
}
