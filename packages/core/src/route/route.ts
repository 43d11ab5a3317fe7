import { z } from "zod";
import { colourways, wayWord, type Colourway } from "../recolour/colourway";
import { limitsSchema, USUAL_LIMITS, type Limits } from "../inspect/limits";
import { STAGES, stageById, type RegisteredStage, type SettingsOf, type StageId } from "../stage/stages";
import { RouteError, routeErrorOf } from "../settings/errors";
import { wired } from "./wiring";

export const ROUTE_FORMAT = "hard-line-route";
export const ROUTE_VERSION = 1;

/** One stage of a route: its name and every setting, defaults filled in. */
export interface RouteStage {
  readonly stage: StageId;
  readonly [setting: string]: unknown;
}

/** A route as it is run. The file a person writes is the same with defaults left out. */
export interface Route {
  readonly format: typeof ROUTE_FORMAT;
  readonly version: typeof ROUTE_VERSION;
  readonly name: string;
  /** Key of the material it is for, among the shop's own; nothing is computed by it. */
  readonly material?: string;
  /** Ways of making the same: on other cloth, in other colours. */
  readonly colourways: readonly Colourway[];
  readonly checks: Limits;
  readonly stages: readonly RouteStage[];
}

/** Letters, digits and hyphens. */
export const materialKey = z
  .string()
  .regex(/^[a-z0-9]([a-z0-9-]{0,58}[a-z0-9])?$/, { error: "small letters, digits and hyphens, 60 at most" });

const outline = z.strictObject({
  format: z.literal(ROUTE_FORMAT),
  version: z.literal(ROUTE_VERSION),
  name: z.string().trim().min(1).max(120),
  material: materialKey.optional(),
  colourways: colourways.default([]),
  checks: limitsSchema.default(USUAL_LIMITS),
  stages: z.array(z.looseObject({ stage: z.string() })).max(20),
});

const ORDER = STAGES.filter((s) => !s.always).map((s) => s.id);

/**
 * Reads a route file, fills in defaults and brings it into the form in which it is run.
 * @throws RouteError that names the stage, the setting, the value and what is allowed
 */
export function readRoute(json: unknown): Route {
  const read = outline.safeParse(withWaysLifted(json));
  if (!read.success) throw routeErrorOf("route", read.error, json);
  let last = -1;
  const stages = read.data.stages.map((entry): RouteStage => {
    const { stage: id, ...given } = entry;
    const at = ORDER.indexOf(id as StageId);
    if (at < 0) throw new RouteError("route", "stage", id, ORDER.join(", "));
    if (at === last) throw new RouteError(id, "stage", id, "each stage once");
    if (at < last) throw new RouteError(id, "stage", id, `the order ${ORDER.join(", ")}`);
    last = at;
    return { stage: id as StageId, ...checked(id as StageId, given) };
  });
  const route = { ...read.data, stages };
  wired(stepsOf(route));
  return route;
}

/** Colourways once were a setting of Films: files of that time still are read. */
function withWaysLifted(json: unknown): unknown {
  const { stages, ...rest } = (json ?? {}) as { readonly stages?: unknown; readonly colourways?: unknown };
  if (!Array.isArray(stages) || rest.colourways !== undefined) return json;
  const films = (stages as readonly unknown[]).find(isFilmsWithWays);
  if (!films) return json;
  const { colourways, ...others } = films;
  return {
    ...{ ...rest, colourways: namedApart(colourways) },
    stages: stages.map((s: unknown) => (s === films ? others : s)),
  };
}

/** The same list with no name twice, which once was allowed. */
function namedApart(ways: unknown): unknown {
  if (!Array.isArray(ways)) return ways;
  const taken = new Set<string>();
  return (ways as readonly unknown[]).map((way) => {
    const { name } = (way ?? {}) as { readonly name?: unknown };
    if (typeof name !== "string") return way;
    let own = name;
    for (let n = 2; taken.has(wayWord(own)); n++) own = `${name.slice(0, 36)} ${n}`;
    taken.add(wayWord(own));
    return { ...(way as object), name: own };
  });
}

const isFilmsWithWays = (
  entry: unknown,
): entry is { readonly stage: "films"; readonly colourways: unknown } =>
  typeof entry === "object" &&
  entry !== null &&
  (entry as { stage?: unknown }).stage === "films" &&
  "colourways" in entry;

function checked(id: StageId, given: object): object {
  const settings = stageById(id).settings.safeParse(given);
  if (!settings.success) throw routeErrorOf(id, settings.error, given);
  return settings.data;
}

/** The same route with other colourways. @throws RouteError */
export function withColourways(route: Route, ways: readonly Colourway[]): Route {
  const read = colourways.safeParse(ways);
  if (!read.success) throw routeErrorOf("colourways", read.error, ways);
  return { ...route, colourways: read.data };
}

/** The stages that a route runs, those that are on every route among them, each with its settings. */
export function stepsOf(
  route: Pick<Route, "stages">,
): { readonly stage: RegisteredStage; readonly settings: object }[] {
  const always = STAGES.filter((s) => s.always).map((stage) => ({ stage, settings: {} }));
  const given = route.stages.map((entry) => ({ stage: stageById(entry.stage), settings: settingsIn(entry) }));
  return [...always, ...given];
}

const known = new WeakMap<RouteStage, object>();

/** An entry's settings without its name: the same object each time, so that what was learned of it can be kept. */
function settingsIn(entry: RouteStage): object {
  let settings = known.get(entry);
  if (!settings) {
    const { stage: _, ...rest } = entry;
    known.set(entry, (settings = rest));
  }
  return settings;
}

/** The settings of one stage of a route, without its name; null when the route leaves the stage out. */
export function settingsOf<Id extends StageId>(route: Pick<Route, "stages">, id: Id): SettingsOf<Id> | null {
  const entry = route.stages.find((s) => s.stage === id);
  return entry ? (settingsIn(entry) as SettingsOf<Id>) : null;
}

/** The same route with some settings of one stage changed; undefined takes a setting out. The stage is checked. */
export function withSettings(route: Route, id: StageId, change: object): Route {
  const entry = route.stages.find((s) => s.stage === id);
  return entry ? replaceSettings(route, id, withoutUndefined({ ...settingsIn(entry), ...change })) : route;
}

const withoutUndefined = (settings: object): object =>
  Object.fromEntries(Object.entries(settings).filter(([, v]) => v !== undefined));

/** The same route with one stage's settings replaced as a whole. The other stages stay the very same. */
export function replaceSettings(route: Route, id: StageId, settings: object): Route {
  const changed = { stage: id, ...checked(id, settings) };
  const next = { ...route, stages: route.stages.map((s) => (s.stage === id ? changed : s)) };
  wired(stepsOf(next));
  return next;
}

/** The same route with a stage put in at its place, with its defaults; unchanged when it is there already. */
export function withStage(route: Route, id: StageId): Route {
  if (settingsOf(route, id)) return route;
  const stages = [...route.stages, { stage: id }].sort(
    (a, b) => ORDER.indexOf(a.stage) - ORDER.indexOf(b.stage),
  );
  return readRoute({ ...route, stages });
}

/** The same route without a stage. */
export function withoutStage(route: Route, id: StageId): Route {
  return readRoute({ ...route, stages: route.stages.filter((s) => s.stage !== id) });
}
