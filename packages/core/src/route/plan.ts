import { type Colourway } from "../recolour/colourway";
import { isTurned, NO_TURN, turnedSize, type Turn } from "../turn/turn";
import { asItIs, type Placement } from "../result/finish";
import { placeInOrder, type RegisteredStage, type StageId } from "../stage/stages";
import { canonical, stageKey } from "../settings/canonical";
import { stepsOf, type Route } from "./route";
import { type ArtworkFacts } from "./source";
import { wired } from "./wiring";

/** A stage of a route with its settings, what it takes, and the name of its result. */
export interface Step {
  readonly stage: RegisteredStage;
  readonly settings: object;
  /** Hash of the stage, its settings and the keys of what it really takes. */
  readonly key: string;
  readonly takes: Readonly<Record<string, Step>>;
}

/** What running a route on an artwork will do, known before anything is run. */
export interface Plan {
  readonly route: Route;
  /** Of the artwork as it is turned. */
  readonly facts: ArtworkFacts;
  /** How it is turned before anything else. */
  readonly turn: Turn;
  /** Size and place of the finished piece. */
  readonly place: Placement;
  /** Width in pixels at which artwork made of shapes is wanted; undefined for any other. */
  readonly drawWidth: number | undefined;
  readonly steps: readonly Step[];
}

/**
 * @throws RouteError when a setting cannot be met for this artwork
 */
export function planOf(route: Route, supplied: ArtworkFacts): Plan {
  const given = stepsOf(route);
  const turning = given.findLast(({ stage }) => stage.turn);
  const turn = turning?.stage.turn!(turning.settings) ?? NO_TURN;
  const facts = { ...supplied, ...turnedSize(supplied, turn) };
  const placing = given.findLast(({ stage }) => stage.place);
  const place = placing?.stage.place!(placing.settings, facts) ?? asItIs(facts);
  // Shapes are drawn at the finish width, so that nothing is ever resampled.
  const drawWidth =
    facts.vector && placing ? Math.max(1, Math.round(place.finish.widthPx / place.frame.width)) : undefined;
  const sourceKey = `${facts.sha256} ${drawWidth ?? ""}${isTurned(turn) ? canonical(turn) : ""}`;
  const steps: Step[] = [];
  for (const [k, ports] of wired(given).entries()) {
    const { stage, settings } = given[k];
    const takes = Object.fromEntries(Object.entries(ports).map(([name, from]) => [name, steps[from]]));
    const from = Object.values(takes).map((s) => s.key);
    const key = stageKey(stage.id, settings, from.length ? from : [sourceKey]);
    steps.push({ stage, settings, key, takes });
  }
  return { route, facts, turn, place, drawWidth, steps };
}

/**
 * Looks whether every setting can be met for an artwork, without running anything.
 * @throws RouteError when one cannot
 */
export function admit(route: Route, facts: ArtworkFacts): void {
  const { steps, place } = planOf(route, facts);
  for (const { stage, settings } of steps) stage.admit?.(settings, place);
}

/** A step as it is in a colourway; null where it is the same there. */
export function stepInWay({ stage, settings, takes }: Step, way: Colourway): Step | null {
  if (!stage.inWay) return null;
  const own = stage.inWay(settings, way);
  const from = Object.values(takes).map((s) => s.key);
  return { stage, settings: own, takes, key: stageKey(stage.id, own, from) };
}

/** Size and place of what a stage shows: the piece, or a canvas of its own. */
export function canvasOf(plan: Plan, id: StageId): Placement {
  const step = stepAt(plan, id);
  return step?.stage.canvas?.(step.settings) ?? plan.place;
}

/** The step of a stage; null when the route leaves it out. */
export const stepAt = (plan: Plan, id: StageId): Step | null =>
  plan.steps.find((s) => s.stage.id === id) ?? null;

/** The last step of a route that comes no later than a stage. */
export const stepUpTo = (plan: Plan, id: StageId): Step =>
  plan.steps.findLast((s) => placeInOrder(s.stage.id) <= placeInOrder(id)) ?? plan.steps[0];
