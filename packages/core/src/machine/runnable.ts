import { planOf } from "../route/plan";
import { type Route } from "../route/route";
import { type RunOptions, type Runner } from "../route/runner";
import { type ArtworkSource } from "../route/source";
import { type Result } from "../result/result";
import { jobOf, type Job } from "./job";

/** What a route gives a machine to do. @throws as `Runner.run` */
export async function runnable(
  runner: Runner,
  route: Route,
  source: ArtworkSource,
  { signal, progress }: RunOptions = {},
  name = route.name,
): Promise<Job> {
  const plan = planOf(route, source.facts);
  for (const { stage, settings } of plan.steps) stage.admit?.(settings, plan.place);
  const steps = plan.steps.filter(({ stage: { gives } }) => gives === "plates" || gives === "paths");
  const results: Result[] = [];
  for (const [k, step] of steps.entries()) {
    const part = (share: number) => progress?.((k + share) / steps.length, step.stage.id);
    results.push((await runner.result(plan, source, step, { signal, progress: part })).result);
  }
  const { widthMm, heightMm } = plan.place.finish;
  return { ...jobOf(name, results), widthMm, heightMm };
}
