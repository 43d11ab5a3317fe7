import { type Result } from "@hardline/core/result/result";
import { stepUpTo, type Plan, type Step } from "@hardline/core/route/plan";
import { type StageId } from "@hardline/core/stage/stages";
import { type Layer } from "./protocol";

/** What is looked at: something that fills the picture, and paths over it where a stage gives paths. */
export interface Sight<T> {
  readonly under: T;
  readonly paths: T | null;
}

const FILLS = ["picture", "tone", "plates", "mockUp"];

/** What a stage is seen as; of one that the route leaves out, the last one before it. */
export function sightOf(plan: Plan, stage: StageId): Sight<Step> {
  const step = stepUpTo(plan, stage);
  if (FILLS.includes(step.stage.gives)) return { under: step, paths: null };
  const port = step.stage.shownOver?.(step.settings);
  if (port) return { under: step.takes[port], paths: step };
  const before = plan.steps.slice(0, plan.steps.indexOf(step));
  return { under: before.findLast((s) => FILLS.includes(s.stage.gives))!, paths: step };
}

/** Plates, where there are several, or sets of paths: what can be shown or hidden. */
export function layersOf(result: Result): Layer[] {
  if (result.kind === "plates" && result.plates.length > 1)
    return result.plates.map(({ name, ink }) => ({ name, colour: ink }));
  return result.kind === "paths" ? result.sets.map(({ name, colour }) => ({ name, colour })) : [];
}
