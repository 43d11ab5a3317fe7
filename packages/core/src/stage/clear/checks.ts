import { checkEdge } from "../../inspect/edgeRim";
import { checkLeftovers } from "../../inspect/leftovers";
import { type Check } from "../../inspect/check";
import { checkLost, MOST_BY_ONE, type Seed } from "../../inspect/lostArt";
import { type Limits } from "../../inspect/limits";
import { type Picture } from "../../result/result";
import { type StageCheck } from "../checks";
import { type ClearOp } from "./settings";

interface About {
  readonly picture: Picture;
  /** The picture before anything was taken away, and where somebody took it away by hand. */
  readonly before: Picture;
  readonly meant: Uint8Array | null;
  /** Whether anything was taken away: only then is there an edge that was made here. */
  readonly taken: boolean;
  readonly ops: readonly ClearOp[];
  readonly limits: Limits;
}

/** Everything that is looked at in cleared art. */
export const CLEAR_CHECKS: readonly StageCheck<About>[] = [
  {
    cost: 4,
    *find({ picture, taken }) {
      return { checks: [yield* checkEdge(picture, taken)] };
    },
  },
  {
    cost: 8,
    *find({ picture, before, meant, taken, ops }) {
      if (!taken) return { checks: [] };
      const { check, seeds } = yield* checkLost(picture, before, meant);
      return { checks: [withWayBack(check, seeds, ops)] };
    },
  },
  {
    cost: 6,
    *find({ picture, limits }) {
      const { readings, islands, tint } = yield* checkLeftovers(picture, limits);
      return { readings, checks: [islands, tint] };
    },
  },
];

/** What brings the parts back: all with one press, or one of them. */
function withWayBack(check: Check, seeds: readonly Seed[], ops: readonly ClearOp[]): Check {
  if (seeds.length === 0) return check;
  const by = (op: object, of: readonly Seed[]) => (of.length > 0 ? [{ ...op, at: of.map((s) => s.at) }] : []);
  // Through what runs out towards the ground it was most likely seen; the operator has the last word.
  const back = (of: readonly Seed[]) => {
    const [solid, through] = [false, true].map((runsOut) => of.filter((s) => s.runsOut === runsOut));
    return {
      ops: [...ops, ...by({ op: "back" }, solid), ...by({ op: "through", as: "seeThrough" }, through)],
    };
  };
  const label = seeds.length === 1 ? "Bring it back" : "Bring them back";
  const one = { label: "Bring back", changes: seeds.slice(0, MOST_BY_ONE).map((seed) => back([seed])) };
  return {
    ...check,
    repair: { label, change: back(seeds) },
    ...(seeds.length > 1 ? { repairOne: one } : {}),
  };
}
