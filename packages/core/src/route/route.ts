import { z } from "zod";
import { type Limits } from "../inspect/check";
import { fingerprint } from "../raster/fingerprint";
import { STAGES, stageById, type StageId } from "../stage/stages";
import { RouteError, routeErrorOf } from "./errors";

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
  readonly checks: Limits;
  readonly stages: readonly RouteStage[];
}

const outline = z.strictObject({
  format: z.literal(ROUTE_FORMAT),
  version: z.literal(ROUTE_VERSION),
  name: z.string().trim().min(1).max(120),
  checks: z
    .strictObject({
      areaMm2: z.number().min(0.1).max(10000).default(4),
      dotMm: z.number().min(0.005).max(5).default(0.1),
      strayMm2: z.number().min(0).max(1000).default(1),
    })
    .default({ areaMm2: 4, dotMm: 0.1, strayMm2: 1 }),
  stages: z.array(z.looseObject({ stage: z.string() })).max(20),
});

const settable = STAGES.filter((s) => s.id !== "artwork");

/**
 * Reads a route file, fills in defaults and brings it into the form in which it is run.
 * @throws RouteError that names the stage, the setting, the value and what is allowed
 */
export function readRoute(json: unknown): Route {
  const read = outline.safeParse(json);
  if (!read.success) throw routeErrorOf("route", read.error, json);
  const order = settable.map((s) => s.id);
  let last = -1;
  const stages = read.data.stages.map((entry): RouteStage => {
    const { stage: id, ...given } = entry;
    const at = order.indexOf(id);
    if (at < 0) throw new RouteError("route", "stage", id, order.join(", "));
    if (at === last) throw new RouteError(id, "stage", id, "each stage once");
    if (at < last) throw new RouteError(id, "stage", id, `the order ${order.join(", ")}`);
    last = at;
    const settings = stageById(id).settings.safeParse(given);
    if (!settings.success) throw routeErrorOf(id, settings.error, given);
    return { stage: id as StageId, ...settings.data };
  });
  return { ...read.data, stages };
}

/** The settings of one stage of a route, without its name; null when the route leaves the stage out. */
export function settingsOf<S extends object = Record<string, unknown>>(route: Route, id: StageId): S | null {
  const entry = route.stages.find((s) => s.stage === id);
  if (!entry) return null;
  const { stage: _, ...settings } = entry;
  return settings as unknown as S;
}

/** The same route with some settings of one stage changed; undefined takes a setting out. The result is checked. */
export function withSettings(route: Route, id: StageId, change: Record<string, unknown>): Route {
  return readRoute({
    ...route,
    stages: route.stages.map((s) => (s.stage === id ? withoutUndefined({ ...s, ...change }) : s)),
  });
}

function withoutUndefined(settings: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(settings).filter(([, v]) => v !== undefined));
}

/** The same route with one stage's settings replaced as a whole. */
export function replaceSettings(route: Route, id: StageId, settings: Record<string, unknown>): Route {
  return readRoute({
    ...route,
    stages: route.stages.map((s) => (s.stage === id ? { stage: id, ...settings } : s)),
  });
}

/** The same route with a stage put in at its place, with its defaults; unchanged when it is there already. */
export function withStage(route: Route, id: StageId): Route {
  if (settingsOf(route, id)) return route;
  const order = settable.map((s) => s.id);
  const stages = [...route.stages, { stage: id }].sort(
    (a, b) => order.indexOf(a.stage) - order.indexOf(b.stage),
  );
  return readRoute({ ...route, stages });
}

/** The same route without a stage. */
export function withoutStage(route: Route, id: StageId): Route {
  return readRoute({ ...route, stages: route.stages.filter((s) => s.stage !== id) });
}

/** JSON with keys in alphabetical order, so that equal values have equal text. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_, v: unknown) =>
    v && typeof v === "object" && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );
}

/** Names the result of a stage: its settings and what it takes in. */
export const stageKey = (id: string, settings: unknown, taken: string): string =>
  fingerprint(canonical([id, settings, taken]));
