import { checkEdge } from "../../inspect/edgeRim";
import { checkLeftovers } from "../../inspect/leftovers";
import { type Limits } from "../../inspect/limits";
import { type Picture } from "../../result/result";
import { type StageCheck } from "../checks";

interface About {
  readonly picture: Picture;
  /** Whether anything was taken away: only then is there an edge that was made here. */
  readonly taken: boolean;
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
    cost: 6,
    *find({ picture, limits }) {
      const { readings, islands, tint } = yield* checkLeftovers(picture, limits);
      return { readings, checks: [islands, tint] };
    },
  },
];
