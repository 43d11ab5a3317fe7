import { type Check, type Readings } from "../inspect/check";
import { workSlice, type Work } from "../maths/work";
import { type Inspection } from "./stage";

/** What one look at a result says: checks, and figures measured on the way. */
export interface Found {
  readonly checks?: readonly Check[];
  readonly readings?: Readings;
}

/** One thing that a stage looks at in its result. `A` is what it is told of it. */
export interface StageCheck<A> {
  /** Time it takes, as a share of what all of the stage's checks take together; only their proportions count. */
  readonly cost: number;
  /** Left out where it says nothing about such a result. */
  readonly applies?: (about: A) => boolean;
  readonly find: (about: A) => Work<Found>;
}

/** Makes every check that applies, one after another; each moves progress on by its cost. */
export function* inspectBy<A>(checks: readonly StageCheck<A>[], about: A): Work<Inspection> {
  const applying = checks.filter((c) => c.applies?.(about) ?? true);
  const all = applying.reduce((sum, c) => sum + c.cost, 0);
  const found: Found[] = [];
  let done = 0;
  for (const { cost, find } of applying) {
    found.push(yield* workSlice(find(about), done / all, (done + cost) / all));
    done += cost;
  }
  return {
    readings: Object.assign({}, ...found.map((f) => f.readings ?? {})),
    checks: found.flatMap((f) => f.checks ?? []),
  };
}

/** A check that is done at once. */
export const atOnce = <A>(find: (about: A) => Found): Pick<StageCheck<A>, "cost" | "find"> => ({
  cost: 1,
  *find(about) {
    return find(about);
  },
});
