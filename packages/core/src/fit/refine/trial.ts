import { workSlice, type Work } from "../../maths/work";
import { changed, nameOf, type Change } from "./changes";
import { type Cover, type Outline } from "./cover";
import { offAt, passagesOf, type Passages } from "./passages";
import { settled } from "./settle";

/** Outlines while changes are tried on them. */
export interface State {
  readonly outlines: readonly Outline[];
  /** Outlines that the picture says nothing about are left as they are. */
  readonly isOn: readonly boolean[];
  /** Changes that did not help, by their names: they are not tried again. */
  readonly refused: Set<string>;
}

/** How far the outlines of a state lie off, passage by passage, and at the worst place of each piece. */
export interface Look {
  readonly outlines: readonly Outline[];
  readonly passages: Passages;
  readonly off: Float32Array;
  readonly worst: readonly (readonly number[])[];
}

export function* lookAt({ outlines, isOn }: State, cover: Cover): Work<Look> {
  yield* workSlice(cover.draw(outlines), 0, 0.4);
  const passages = yield* workSlice(
    passagesOf(outlines, cover, (o) => isOn[o]),
    0.4,
    0.7,
  );
  const off = yield* workSlice(offAt(passages, cover), 0.7, 1);
  const { starts, knot } = passages;
  const worst = outlines.map((knots, o) => {
    const most = knots.map(() => 0);
    for (let p = starts[o]; p < starts[o + 1]; p++) most[knot[p]] = Math.max(most[knot[p]], off[p]);
    return most;
  });
  return { outlines, passages, off, worst };
}

/** Turns of settling after a change, and how many knots to either side of it settle with it. */
const [TURNS, AROUND] = [4, 3];

/** Whether a change helped, looked at after all of them: the piece that it left begins at a knot. */
export type Judge = (change: Change, now: Look, knot: number) => boolean;

/**
 * Makes changes, lets the outlines settle round them, and keeps those that helped: those that did not are left out and the
 * others made again. The cover is of the outlines with all changes while they are judged.
 */
export function* withThoseThatHelp(
  state: State,
  changes: readonly Change[],
  cover: Cover,
  helps: Judge,
): Work<{ state: State; kept: number }> {
  if (changes.length === 0) return { state, kept: 0 };
  const all = yield* workSlice(settledWith(state.outlines, changes, cover), 0, 0.5);
  const now = yield* workSlice(lookAt({ ...state, outlines: all.outlines }, cover), 0.5, 0.6);
  const good = changes.filter((change, k) => helps(change, now, all.places[k]));
  const kept = new Set(good);
  for (const change of changes) if (!kept.has(change)) state.refused.add(nameOf(change));
  if (good.length === changes.length)
    return { state: { ...state, outlines: all.outlines }, kept: good.length };
  const { outlines } = yield* workSlice(settledWith(state.outlines, good, cover), 0.6, 1);
  return { state: { ...state, outlines }, kept: good.length };
}

function* settledWith(outlines: readonly Outline[], changes: readonly Change[], cover: Cover) {
  const byOutline = new Map<number, number[]>();
  changes.forEach(({ outline }, k) => byOutline.set(outline, [...(byOutline.get(outline) ?? []), k]));
  const places = changes.map(() => 0);
  const free = new Map<number, Set<number>>();
  const next = [...outlines];
  for (const [o, own] of byOutline) {
    const made = changed(
      outlines[o],
      own.map((k) => changes[k]),
    );
    own.forEach((k, n) => (places[k] = made.places[n]));
    free.set(o, around(made.places, made.list.length));
    next[o] = made.list;
  }
  const work = settled(next, cover, (o, k) => free.get(o)?.has(k) ?? false, TURNS);
  return { outlines: yield* work, places };
}

function around(places: readonly number[], count: number): Set<number> {
  const near = new Set<number>();
  for (const k of places)
    for (let i = -AROUND; i <= AROUND + 1; i++) near.add((((k + i) % count) + count) % count);
  return near;
}
