import { workSlice, type Work } from "../../maths/work";
import { changed, nameOf, type Change } from "./changes";
import { type Cover, type Outline } from "./cover";
import { offAt, passagesOf, type Passages } from "./passages";
import { settled } from "./settle";

/** Outlines while changes are tried on them. The cover that goes with them is theirs. */
export interface State {
  readonly outlines: readonly Outline[];
  /** Outlines on which changes are tried. */
  readonly isOn: readonly boolean[];
  /** Changes that did not help, by their names: they are not tried again. */
  readonly refused: Set<string>;
}

/** How far some outlines lie off, passage by passage, and at the worst place of each piece. */
export interface Look {
  readonly outlines: readonly Outline[];
  readonly passages: Passages;
  readonly off: Float32Array;
  readonly worst: readonly (readonly number[])[];
}

export function* lookAt(
  outlines: readonly Outline[],
  isLookedAt: (o: number) => boolean,
  cover: Cover,
): Work<Look> {
  const passages = yield* workSlice(passagesOf(outlines, cover, isLookedAt), 0, 0.5);
  const off = yield* workSlice(offAt(passages, cover), 0.5, 1);
  const { starts, knot } = passages;
  const worst = outlines.map((knots, o) => {
    if (!isLookedAt(o)) return [];
    const most = knots.map(() => 0);
    for (let p = starts[o]; p < starts[o + 1]; p++) most[knot[p]] = Math.max(most[knot[p]], off[p]);
    return most;
  });
  return { outlines, passages, off, worst };
}

/** Turns of settling after a change, and how many knots to either side of it settle with it. */
const [TURNS, AROUND] = [3, 2];

/** What became of a state, and in which outlines changes were kept. */
export interface Step {
  readonly state: State;
  readonly isChanged: readonly boolean[];
}

/** Whether a change helped, looked at after all of them: the piece that it left begins at a knot. */
export type Judge = (change: Change, now: Look, knot: number) => boolean;

/**
 * Makes changes, lets the outlines settle round them, and keeps those that helped: those that did not are left out and the
 * others made again.
 */
export function* withThoseThatHelp(
  state: State,
  changes: readonly Change[],
  cover: Cover,
  helps: Judge,
): Work<Step> {
  const isSame = state.isOn.map(() => false);
  if (changes.length === 0) return { state, isChanged: isSame };
  const all = yield* workSlice(settledWith(state.outlines, changes, cover), 0, 0.5);
  const touched = new Set(changes.map(({ outline }) => outline));
  const now = yield* workSlice(
    lookAt(all.outlines, (o) => touched.has(o), cover),
    0.5,
    0.6,
  );
  const good = changes.filter((change, k) => helps(change, now, all.places[k]));
  const kept = new Set(good);
  for (const change of changes) if (!kept.has(change)) state.refused.add(nameOf(change));
  const isChanged = [...isSame];
  for (const { outline } of good) isChanged[outline] = true;
  if (good.length === changes.length) return { state: { ...state, outlines: all.outlines }, isChanged };
  // An outline of which all changes helped stays; of the others only those are made that did.
  const mixed = new Set(changes.filter((c) => !kept.has(c)).map(({ outline }) => outline));
  for (const o of mixed) {
    yield 0.6;
    cover.swap(all.outlines[o], state.outlines[o]);
  }
  const base = all.outlines.map((knots, o) => (mixed.has(o) ? state.outlines[o] : knots));
  const rest = good.filter(({ outline }) => mixed.has(outline));
  const { outlines } = yield* workSlice(settledWith(base, rest, cover), 0.6, 1);
  return { state: { ...state, outlines }, isChanged };
}

function* settledWith(outlines: readonly Outline[], changes: readonly Change[], cover: Cover) {
  const byOutline = new Map<number, number[]>();
  changes.forEach(({ outline }, k) => byOutline.set(outline, [...(byOutline.get(outline) ?? []), k]));
  const places = changes.map(() => 0);
  const free = new Map<number, Set<number>>();
  const next = [...outlines];
  for (const [o, own] of byOutline) {
    yield 0;
    const made = changed(
      outlines[o],
      own.map((k) => changes[k]),
    );
    own.forEach((k, n) => (places[k] = made.places[n]));
    free.set(o, around(made.places, made.list.length));
    cover.swap(outlines[o], made.list);
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
