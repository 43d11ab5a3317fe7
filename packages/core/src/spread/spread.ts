import { figure } from "../inspect/check";
import { replaceSettings, settingsOf, type Route } from "../route/route";
import { stageById, type StageId } from "../stage/stages";
import { curveThrough, type CurvePoint } from "../tone/curve";
import { kindAt, type Kind } from "./schema";

/** As many variants as are compared at once. */
export const MOST_VARIANTS = 9;
/** Steps that are proposed for a number. */
const STEPS = 5;

/** A setting that is spread out: of a stage, by the names that lead to it, such as "sharpen.amount". */
export interface Axis {
  readonly stage: StageId;
  readonly path: string;
  /** What it is called on the docket. */
  readonly title: string;
  readonly unit?: string;
  /** What is shown of a value is it times this: 100 for a share in percent. */
  readonly scale?: number;
  /** Steps of it; when left out, sensible ones are proposed. */
  readonly values?: readonly SpreadValue[];
}

/** A value of a number or a choice; of a curve, percent of its own strength, or, of a straight one, of a lift. */
export type SpreadValue = number | string | boolean;

export interface Variant {
  /** What each axis is set to. */
  readonly labels: readonly string[];
  readonly route: Route;
  /** It is what is set now. */
  readonly kept: boolean;
}

/** What can be said of a setting that is to be spread out. */
export interface Spread {
  readonly kind: Kind["kind"] | "ways";
  readonly steps: readonly {
    readonly value: SpreadValue;
    readonly label: string;
    readonly kept: boolean;
    readonly route: Route;
  }[];
}

/** Settings of a stage that are ways of their own to spread, such as one method beside another. */
const offeredBy = (stage: StageId, path: string) => stageById(stage).variants?.find((f) => f.id === path);

/** The steps of one axis, each with the route that has it. @throws RouteError when a given step is not allowed */
export function spreadOf(route: Route, axis: Axis): Spread {
  const { stage, path } = axis;
  const settings = settingsOf(route, stage);
  if (!settings) return { kind: "fixed", steps: [] };
  const own = offeredBy(stage, path);
  const spreadOut = own && !axis.values ? own.spread(settings) : [];
  if (spreadOut.length > 0)
    return {
      kind: "ways",
      steps: spreadOut.slice(0, MOST_VARIANTS).map(({ label, kept, settings: own }) => ({
        value: label,
        label,
        kept,
        route: replaceSettings(route, stage, own),
      })),
    };
  const keys = path.split(".");
  const kind = kindAt(stageById(stage).settings, settings, keys);
  const now = valueAt(settings, keys);
  const steps = axis.values ?? proposed(kind, now);
  return {
    kind: kind.kind,
    steps: steps.slice(0, MOST_VARIANTS).map((value) => {
      const set = kind.kind === "curve" ? curveBy(now as CurvePoint[], value as number) : value;
      return {
        value,
        label: labelOf(kind, now, value, axis),
        kept: JSON.stringify(set) === JSON.stringify(now),
        route: replaceSettings(route, stage, withValue(settings, keys, set)),
      };
    }),
  };
}

/** Variants of a route: the steps of one axis, or of two against each other, the first along the rows. */
export function variantsOf(route: Route, axes: readonly Axis[]): Variant[] {
  const [first, second] = axes;
  if (!first) return [];
  const one = spreadOf(route, first).steps;
  if (!second) return one.map(({ label, kept, route: r }) => ({ labels: [label], kept, route: r }));
  return around(spreadOf(route, second).steps, GRID).flatMap((down) =>
    around(one, GRID).map(({ value, label, kept }) => ({
      labels: [label, down.label],
      kept: kept && down.kept,
      route: spreadOf(down.route, { ...first, values: [value] }).steps[0]?.route ?? down.route,
    })),
  );
}

/** Rows and columns of a grid of two settings. */
const GRID = 3;

/** So many of the steps, the one that is set now among them. */
function around<T extends { readonly kept: boolean }>(steps: readonly T[], count: number): readonly T[] {
  const at = Math.max(
    0,
    steps.findIndex((s) => s.kept),
  );
  const from = Math.max(0, Math.min(steps.length - count, at - 1));
  return steps.slice(from, from + count);
}

function proposed(kind: Kind, now: unknown): readonly SpreadValue[] {
  switch (kind.kind) {
    case "choice":
      return kind.options.slice(0, MOST_VARIANTS);
    case "curve":
      return isStraight(now as CurvePoint[]) ? [-10, 0, 10, 20, 30] : [0, 50, 100, 150, 200];
    case "number":
      return numbersAround(typeof now === "number" ? now : Math.max(0, kind.least), kind);
    default:
      return [];
  }
}

/** Steps about a number: each two thirds or one and a half of the next; about nothing, even steps from it. */
function numbersAround(now: number, { least, most, whole }: Extract<Kind, { kind: "number" }>): number[] {
  const low = Number.isFinite(least) ? least : Math.min(0, now);
  const high = Number.isFinite(most) ? most : Math.max(1, 8 * Math.abs(now));
  const even = now === 0 || (low >= 0 && high <= 1) || (whole && now < 8);
  const unit = whole ? Math.max(1, Math.round(nice((high - low) / 20))) : nice((high - low) / 20);
  const wished = even
    ? [-2, -1, 0, 1, 2].map((k) => now + k * unit)
    : [0.5, 0.7, 1, 1.4, 2].map((k) => (k === 1 ? now : tidy(now * k, whole)));
  // Where the range ends, steps go on at the other side.
  const inside = [
    ...new Set(wished.filter((v) => v >= low && v <= high).map((v) => Number(v.toPrecision(6)))),
  ];
  const step = (k: number): number => (even ? now + k * unit : tidy(now * (1 + 0.5 * k), whole));
  for (let k = 3; inside.length < STEPS && k < 12; k++)
    for (const v of [step(k), step(-k)])
      if (v >= low && v <= high && inside.length < STEPS && !inside.includes(Number(v.toPrecision(6))))
        inside.push(Number(v.toPrecision(6)));
  return inside.sort((a, b) => a - b);
}

/** One, two or five times a power of ten. */
function nice(value: number): number {
  let power = 1;
  while (power * 10 <= value) power *= 10;
  while (power > value) power /= 10;
  const times = value / power;
  return (times >= 5 ? 5 : times >= 2 ? 2 : 1) * power;
}

const tidy = (value: number, whole: boolean): number =>
  whole ? Math.round(value) : Number(value.toPrecision(2));

const isStraight = (points: readonly CurvePoint[]): boolean => points.every(([x, y]) => x === y);

/** A curve at so many percent of how it bends; a straight one lifted in the middle by so many percent of the range. */
function curveBy(points: readonly CurvePoint[], percent: number): CurvePoint[] {
  const clamped = (y: number): number => Math.min(1, Math.max(0, Math.round(1e4 * y) / 1e4));
  if (!isStraight(points)) {
    if (percent === 100) return [...points];
    return points.map(([x, y]) => [x, clamped(x + ((y - x) * percent) / 100)]);
  }
  if (percent === 0) return [...points];
  const middle = clamped(curveThrough(points)(0.5) + percent / 100);
  return [points[0], [0.5, middle], points[points.length - 1]];
}

function labelOf(kind: Kind, now: unknown, value: SpreadValue, { unit = "", scale = 1 }: Axis): string {
  if (kind.kind === "curve")
    return isStraight(now as CurvePoint[])
      ? `middle ${(value as number) > 0 ? "+" : ""}${value}`
      : `${value} % of the curve`;
  if (typeof value === "boolean") return value ? "on" : "off";
  if (typeof value === "string") return value.replace(/-/g, " ");
  return `${figure(value * scale, 3)}${unit && ` ${unit}`}`;
}

function valueAt(settings: object, keys: readonly string[]): unknown {
  let at: unknown = settings;
  for (const key of keys) at = (at as Record<string, unknown> | undefined)?.[key];
  return at;
}

/** The same settings with another value at a place. */
function withValue(settings: object, [key, ...rest]: readonly string[], value: unknown): object {
  const own = settings as Record<string, unknown>;
  const inner = rest.length === 0 ? value : withValue((own[key] ?? {}) as object, rest, value);
  if (!Array.isArray(settings)) return { ...own, [key]: inner };
  return settings.map((v, i) => (i === Number(key) ? inner : v));
}

/**
 * Steps as a person types them, apart by commas.
 * @returns null when one of them is not what the setting takes
 */
export function stepsTyped(text: string, kind: Spread["kind"], scale = 1): SpreadValue[] | null {
  const parts = text
    .split(/[,;]/)
    .map((p) => p.trim())
    .filter(Boolean)
    .slice(0, MOST_VARIANTS);
  if (parts.length === 0) return null;
  if (kind !== "number" && kind !== "curve") return parts;
  const numbers = parts.map((p) => Number(p.replace(/(\d)\s*[%a-z°²/]+$/i, "$1")));
  return numbers.every(Number.isFinite) ? numbers.map((n) => n / scale) : null;
}
