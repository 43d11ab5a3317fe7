import { strToU8 } from "fflate";
import { wayWord, type Colourway } from "../recolour/colourway";
import { type Check, type Readings } from "../inspect/check";
import { drive, type Doing } from "../maths/work";
import { resultFingerprint } from "../result/fingerprint";
import { type Result } from "../result/result";
import { longFingerprint } from "../raster/fingerprint";
import { type DeliveredFile } from "../stage/stage";
import { type StageId } from "../stage/stages";
import { planOf, stepInWay, type Step } from "./plan";
import { type Route } from "./route";
import { type RunOptions, type Runner, type StageInspection } from "./runner";
import { type ArtworkSource } from "./source";

export interface Delivery {
  /** Of the last result that is sent as it is; null when there is none. */
  readonly fingerprint: string | null;
  readonly checks: readonly Check[];
  /** What was measured of each stage's result. */
  readonly readings: readonly { readonly stage: StageId; readonly readings: Readings }[];
}

export interface DeliverOptions extends RunOptions {
  readonly pause?: () => Promise<void>;
  /** Takes each file as soon as it is whole; the readings come last. */
  readonly file: (file: DeliveredFile) => Promise<void>;
  /** What the order is called; the route's name when left out. */
  readonly job?: string;
  /** Told of every result while it is at hand, in order. */
  readonly seen?: (result: Result) => void;
}

/**
 * Runs a route and hands over every file that its stages give. Stage after stage is run, inspected and written before
 * the next, so that no more is held than what is still needed.
 * @throws as `Runner.run`
 */
export async function deliver(
  runner: Runner,
  route: Route,
  source: ArtworkSource,
  { pause, signal, progress, file, seen, job = route.name }: DeliverOptions,
): Promise<Delivery> {
  const plan = planOf(route, source.facts);
  for (const { stage, settings } of plan.steps) stage.admit?.(settings, plan.place); // before a file is written
  const count = plan.steps.length;
  const inspections = new Map<Step, StageInspection>();
  const written: { name: string; bytes: number; sha256: string }[] = [];
  let print: string | null = null;
  const deliverFile = async (one: DeliveredFile): Promise<void> => {
    const sha256 = await drive(longFingerprint(one.bytes), { signal, pause });
    written.push({ name: one.name, bytes: one.bytes.length, sha256 });
    await file(one);
  };
  for (const [k, step] of plan.steps.entries()) {
    const { stage, settings } = step;
    const part = (from: number, to: number) => (share: number) =>
      progress?.((k + from + (to - from) * share) / count, stage.id);
    const doing = (from: number, to: number) => ({ signal, pause, progress: part(from, to) });
    // What nothing is to be said of is run when something needs it; it may pass through without ever being whole.
    const wanted = stage.inspect || stage.files || k === count - 1;
    if (!wanted) continue;
    const { result } = await runner.result(plan, source, step, { signal, progress: part(0, 0.5) });
    const inspection = await runner.inspectStep(plan, source, step, { signal });
    inspections.set(step, inspection);
    part(0, 1)(0.7);
    print = (await drive(resultFingerprint(result), doing(0.7, 0.75))) ?? print;
    const write: Doing = (work) => drive(work, doing(0.75, 1));
    const ways = route.colourways.filter((w) => w.shown);
    for await (const one of stage.files?.(result, settings, write, job, ways) ?? []) await deliverFile(one);
    for (const way of ways) {
      const own = stage.files && stepInWay(step, way);
      if (!own) continue;
      const made = await runner.result(plan, source, own, { signal });
      for await (const one of stage.files!(made.result, own.settings, write, `${job}, ${way.name}`, []))
        await deliverFile({ ...one, name: inWayNamed(one.name, way) });
    }
    seen?.(result);
  }
  const stages = plan.steps.map((step) => ({
    stage: step.stage.id,
    key: step.key,
    ms: Math.round(runner.took(step)),
    ...inspections.get(step)?.readings,
  }));
  const checks = [...inspections.values()].flatMap((i) => i.checks);
  const { width, height, sha256 } = source.facts;
  const readings = {
    artwork: { width, height, sha256 },
    finish: plan.place.finish,
    stages,
    checks,
    files: [...written],
  };
  await deliverFile({
    name: "readings.json",
    mediaType: "application/json",
    bytes: strToU8(`${JSON.stringify(readings, null, 2)}\n`),
  });
  const measured = plan.steps.map((step) => ({
    stage: step.stage.id,
    readings: inspections.get(step)?.readings ?? {},
  }));
  return { fingerprint: print, checks, readings: measured };
}

/** A file's name with the colourway's in it: `colour.png` in Sand is `colour-sand.png`. */
const inWayNamed = (name: string, way: Colourway): string =>
  name.replace(/(?=\.[^.]+$)/, `-${wayWord(way.name)}`);
