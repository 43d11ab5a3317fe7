import { z } from "zod";
import { ringArea } from "../../polygon/rings";
import { isRound, ringOf } from "../find";
import { at, definePathOperation } from "../operation";

/** The gap around a place filled, with all that lies in it: the smallest path round it that is a hole. */
export const fill = definePathOperation(z.strictObject({ edit: z.literal("fill"), at }), {
  act(bench, edit) {
    const place = bench.mm(edit.at);
    const round = bench.paths
      .map((path, k) => ({ path, k, area: path.closed ? Math.abs(ringArea(ringOf(path))) : Infinity }))
      .filter(({ path }) => isRound(path, place))
      .sort((a, b) => a.area - b.area);
    // Even-odd: a place that an odd number of paths go round is filled already.
    if (round.length === 0 || round.length % 2 === 1) return false;
    const hole = round[0];
    for (let k = bench.paths.length - 1; k >= 0; k--)
      if (
        k === hole.k ||
        (bench.paths[k].closed &&
          isRound(hole.path, bench.paths[k].knots[0].at) &&
          bench.set[k] === bench.set[hole.k])
      )
        bench.replace(k, []);
    return true;
  },
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
});
