import { type Clearing } from "../../clear/clearing";
import { copied } from "../../maths/copy";
import { inStretches, type Work } from "../../maths/work";
import { fingerprint } from "../../raster/fingerprint";
import { type Cleared } from "../../result/result";
import { canonical } from "../../settings/canonical";
import { type Keep } from "../stage";

/** What is learned of the background on the way. */
export type Learned = { -readonly [K in keyof Cleared]: Cleared[K][number][] };

/** One act of a clearing: an operation, or a part of the work on its edge. */
export interface Act {
  /** All that its outcome depends on, besides the acts before it. */
  readonly of: object;
  /** Whether it may change colours, and not cover alone. */
  readonly colours: boolean;
  readonly act: (clearing: Clearing, learned: Learned) => Work<void>;
  /** Where it ends, 0..1 of the whole. */
  readonly until: number;
}

/** A clearing as it stood after some acts. Colours are kept only where an act has changed them. */
interface Halt {
  readonly data: Uint8Array | null;
  readonly alpha: Uint8Array | null;
  readonly taken: Uint8Array;
  readonly learned: Learned;
}

/**
 * Does the acts that are not yet done, from the furthest halt still kept, and keeps a halt before the last operation
 * and before each part of the work on the edge: those are what an operator changes over and over.
 *
 * @param begun  what all acts depend on, such as what is held
 * @param last   number of the last operation; parts of the work on the edge follow it
 */
export function* doneActs(
  clearing: Clearing,
  acts: readonly Act[],
  begun: object,
  last: number,
  keep: Keep,
): Work<Learned> {
  const names = namesOf(acts, begun);
  const haltsAfter = (k: number): boolean => k >= last - 1 && k < acts.length - 1;
  let from = acts.length - 1;
  while (from >= 0 && !(haltsAfter(from) && keep.get(names[from]))) from--;
  const learned: Learned = { background: [], gaps: [], through: [] };
  if (from >= 0) yield* goBackTo(keep.get<Halt>(names[from])!, clearing, learned);
  let coloured = acts.slice(0, from + 1).some((a) => a.colours);
  for (let k = from + 1; k < acts.length; k++) {
    const before = k === 0 ? 0 : acts[k - 1].until;
    const work = acts[k].act(clearing, learned);
    for (let step = work.next(); !step.done; step = work.next())
      yield before + (acts[k].until - before) * step.value;
    coloured ||= acts[k].colours;
    if (haltsAfter(k)) yield* halt(clearing, learned, coloured, names[k], keep);
  }
  return learned;
}

const texts = new WeakMap<object, string>();

/** An act never changes, so its text is made once: strokes can be long. */
function textOf(of: object): string {
  let text = texts.get(of);
  if (text === undefined) texts.set(of, (text = canonical(of)));
  return text;
}

/** A name for the state after each act. */
function namesOf(acts: readonly Act[], begun: object): string[] {
  let name = textOf(begun);
  return acts.map(({ of }) => (name = fingerprint(`${name} ${textOf(of)}`)));
}

function* halt(
  { data, taken }: Clearing,
  { background, gaps, through }: Learned,
  coloured: boolean,
  name: string,
  keep: Keep,
): Work<void> {
  const kept: Halt = {
    data: coloured ? yield* copied(data) : null,
    alpha: coloured ? null : yield* alphaOf(data),
    taken: yield* copied(taken),
    learned: { background: [...background], gaps: [...gaps], through: [...through] },
  };
  const bytes = (kept.data ?? kept.alpha!).length + taken.length;
  keep.set(name, kept, bytes);
}

function* alphaOf(data: Uint8Array): Work<Uint8Array> {
  const alpha = new Uint8Array(data.length >> 2);
  yield* inStretches(alpha.length, (from, to) => {
    for (let i = from; i < to; i++) alpha[i] = data[4 * i + 3];
  });
  return alpha;
}

function* goBackTo(kept: Halt, clearing: Clearing, learned: Learned): Work<void> {
  const { data, taken } = clearing;
  const { data: colours, alpha, taken: gone } = kept;
  yield* inStretches(taken.length, (from, to) => {
    if (colours) data.set(colours.subarray(4 * from, 4 * to), 4 * from);
    else for (let i = from; i < to; i++) data[4 * i + 3] = alpha![i];
    taken.set(gone.subarray(from, to), from);
  });
  learned.background.push(...kept.learned.background);
  learned.gaps.push(...kept.learned.gaps);
  learned.through.push(...kept.learned.through);
}
