import { workSlice, type Work } from "../maths/work";
import { lessOf, lessPlace, type Less } from "../result/reduce";
import { type Result } from "../result/result";
import { type Step, type Plan } from "./plan";
import { type Runner } from "./runner";

/** Rows are run from so far above those in view that their dots come out as they nearly are. */
export function leadInOf(runner: Runner, plan: Plan, step: Step): number | null {
  if (runner.kept(step)) return 0;
  const { stage, settings } = step;
  const own = stage.leadIn?.(settings, plan.place) ?? null;
  const needed = Object.values(step.takes).map((from) => leadInOf(runner, plan, from));
  return own === null || needed.includes(null) ? null : own + Math.max(0, ...(needed as number[]));
}

/**
 * A first look at a step's result, from as much as a screen shows: the deepest results still at hand are made
 * smaller, or cut to the rows in view, and the stages after them run on those. What comes of it is only ever looked
 * at; checks and files are made from the exact.
 *
 * @returns null when nothing it could start from is at hand, or nothing has to be run at all
 */
export function* draftOf(runner: Runner, plan: Plan, step: Step, less: Less): Work<Result | null> {
  return runner.kept(step) ? null : yield* lessResult(runner, plan, step, less);
}

function* lessResult(runner: Runner, plan: Plan, step: Step, less: Less): Work<Result | null> {
  const kept = runner.kept(step);
  if (kept) return yield* lessOf(kept, lessFor(kept, plan, less));
  const halved = less.kind === "halves" && runner.halved(step);
  if (halved) return yield* lessOf(halved, lessFor(halved, plan, less));
  const { stage, settings } = step;
  if (!stage.run || (less.kind === "rows" && (stage.leadIn?.(settings, plan.place) ?? null) === null))
    return null;
  const taken: Record<string, Result> = {};
  for (const [name, from] of Object.entries(step.takes)) {
    const whole = stage.atOnce && runner.kept(from);
    const one = whole || (yield* workSlice(lessResult(runner, plan, from, less), 0, 0.5));
    if (!one) return null;
    taken[name] = one;
  }
  const context = {
    ...runner.contextOf(plan, step, JSON.stringify(less)),
    place: stage.place ? lessPlace(plan.place, less) : plan.place,
  };
  return yield* workSlice((stage.draft ?? stage.run)(taken, settings, context), 0.5, 1);
}

/** A result of another size, such as the artwork's own, is halved until it is about as fine as the rest. */
function lessFor(kept: Result, plan: Plan, less: Less): Less {
  if (less.kind === "rows") return less;
  const { widthPx } = plan.place.finish;
  const shown = kept.finish.widthPx * (plan.place.frame.width / kept.frame.width);
  let times = less.times + Math.floor(Math.log2(shown / widthPx) + 1e-9);
  while (times > 0 && kept.finish.widthPx >> times < 1) times--;
  return { kind: "halves", times: Math.max(0, times) };
}
