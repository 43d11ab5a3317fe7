import { canonical } from "../settings/canonical";
import { RouteError } from "../settings/errors";
import { placeInOrder, type StageId } from "../stage/stages";
import { readRoute, type Route } from "./route";

/** A setting that two people changed, each to something else. */
export interface SettingConflict {
  /** The stage, or "route" for what belongs to the whole of it. */
  readonly stage: string;
  readonly setting: string;
}

export interface Merged {
  /** Null where something cannot be had both ways. */
  readonly route: Route | null;
  readonly conflicts: readonly SettingConflict[];
}

type Plain = Readonly<Record<string, unknown>>;

/**
 * Two changes of one route as one: what only one of them changed is taken from that one. Settings count one by one, a list
 * (picks, edits, a curve) as one setting; a stage that one left out is gone unless the other changed something on it.
 * A route that cannot be run when both are had is a conflict of the whole of it.
 * @param base    what both began with
 * @see three-way merge, as of Khanna, Kunal and Pierce, A Formal Investigation of Diff3 (FSTTCS 2007): here over names, not lines
 */
export function mergeRoutes(base: Route, mine: Route, theirs: Route): Merged {
  const conflicts: SettingConflict[] = [];
  const whole = threeWays(
    "route",
    withoutStages(base),
    withoutStages(mine),
    withoutStages(theirs),
    conflicts,
  );
  const names = [...new Set([...theirs.stages, ...mine.stages].map(({ stage }) => stage))];
  const stages = names.flatMap((name) => {
    const [was, here, there] = [base, mine, theirs].map((r): Plain | undefined =>
      r.stages.find((s) => s.stage === name),
    );
    if (isSame(here, there)) return here ? [here] : [];
    if (isSame(here, was)) return there ? [there] : [];
    if (isSame(there, was)) return here ? [here] : [];
    if (!here || !there || !was) {
      // Put in by both, with other settings, compares with nothing; left out by one and changed by the other is one thing.
      if (here && there) return [threeWays(name, {}, here, there, conflicts)];
      conflicts.push({ stage: name, setting: "the whole stage" });
      return [];
    }
    return [threeWays(name, was, here, there, conflicts)];
  });
  if (conflicts.length > 0) return { route: null, conflicts };
  try {
    return { route: readRoute({ ...whole, stages: [...stages].sort(inOrder) }), conflicts };
  } catch (error) {
    if (!(error instanceof RouteError)) throw error;
    return { route: null, conflicts: [{ stage: error.stage, setting: error.setting }] };
  }
}

type Named = { readonly stage?: unknown };
const inOrder = (a: Named, b: Named): number => placeOf(a) - placeOf(b);
const placeOf = ({ stage }: Named): number => placeInOrder(stage as StageId);

const withoutStages = ({ stages: _, ...rest }: Route): Plain => rest as unknown as Plain;

const isSame = (a: unknown, b: unknown): boolean => a === b || canonical(a ?? null) === canonical(b ?? null);

/** One object of three, by its names; those that cannot be had both ways are noted. */
function threeWays(
  stage: string,
  was: Plain,
  here: Plain,
  there: Plain,
  conflicts: SettingConflict[],
  within = "",
): Plain {
  const merged: Record<string, unknown> = {};
  for (const key of new Set([...Object.keys(there), ...Object.keys(here)])) {
    const [a, b, c] = [was[key], here[key], there[key]];
    const name = within ? `${within}.${key}` : key;
    if (isSame(b, c) || isSame(c, a)) merged[key] = b;
    else if (isSame(b, a)) merged[key] = c;
    else if (isPlain(a) && isPlain(b) && isPlain(c)) merged[key] = threeWays(stage, a, b, c, conflicts, name);
    else conflicts.push({ stage, setting: name });
  }
  return Object.fromEntries(Object.entries(merged).filter(([, value]) => value !== undefined));
}

const isPlain = (value: unknown): value is Plain =>
  typeof value === "object" && value !== null && !Array.isArray(value);
