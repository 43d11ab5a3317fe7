import { type Colourway } from "../recolour/colourway";
import { type Limits } from "../inspect/limits";
import { runToEnd, type Work } from "../maths/work";
import { type Result } from "../result/result";
import { ByteCache } from "../route/byteCache";
import { planOf } from "../route/plan";
import { readRoute, settingsOf } from "../route/route";
import { type Context, type Inspection } from "../stage/stage";
import { stageById, type StageId } from "../stage/stages";

/** Settings of a stage with defaults filled in, as a route gives them. */
export function settingsFor(stage: StageId, given: object = {}): object {
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage, ...given }],
  });
  return settingsOf(route, stage)!;
}

/** What a stage is told besides what it takes; a room that keeps what is put in it. */
export function contextFor(
  stage: StageId,
  on: Result,
  settings: object,
  cache: ByteCache<unknown> = new ByteCache(1 << 28),
): Context {
  const { widthPx: width, heightPx: height } = on.finish;
  const facts = { sha256: "", width, height, vector: false };
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage, ...settings }],
  });
  const { place } = planOf(route, facts);
  const placed = stageById(stage).place ? place : { finish: on.finish, frame: on.frame };
  const keep: Context["keep"] = {
    get: <T>(name: string) => cache.get(name) as T | undefined,
    set: (name, value, bytes) => cache.set(name, value, bytes),
  };
  return { facts, place: placed, keep };
}

const takenBy = (stage: StageId, on: Result, settings: object): object =>
  Object.fromEntries(Object.keys(stageById(stage).takes(settings)).map((port) => [port, on]));

/** Runs one stage on one result. */
export function runStage(stage: StageId, on: Result, given: object = {}, cache?: ByteCache<unknown>): Result {
  const settings = settingsFor(stage, given);
  const work = stageById(stage).run!(
    takenBy(stage, on, settings),
    settings,
    contextFor(stage, on, settings, cache),
  );
  return runToEnd(work);
}

/** Inspects one stage's result. */
export function inspectStage(
  stage: StageId,
  result: Result,
  given: object,
  limits: Limits,
  taken: Result = result,
): Inspection {
  const settings = settingsFor(stage, given);
  const context = contextFor(stage, taken, settings);
  return runToEnd(
    stageById(stage).inspect!(result, takenBy(stage, taken, settings), settings, limits, context),
  );
}

/** What an order is called on what is printed. */
const JOB = "1042 Tag";

/** The files that a stage hands over of a result, by name. */
export async function deliveredBy(
  stage: StageId,
  result: Result,
  given: object = {},
  ways: readonly Colourway[] = [],
): Promise<Record<string, Uint8Array>> {
  const files: Record<string, Uint8Array> = {};
  const doing = async <T>(work: Work<T>): Promise<T> => runToEnd(work);
  for await (const { name, bytes } of stageById(stage).files!(
    result,
    settingsFor(stage, given),
    doing,
    JOB,
    ways,
  ))
    files[name] = bytes;
  return files;
}
