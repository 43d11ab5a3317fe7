import { z } from "zod";
import { roundKnots } from "../../path/outline";
import { at, definePathOperation, sizeMm } from "../operation";

/** A circle about a place. */
export const circle = definePathOperation(
  z.strictObject({ edit: z.literal("circle"), at, diameterMm: sizeMm }),
  {
    act(bench, edit) {
      const [[x, y], d] = [bench.mm(edit.at), edit.diameterMm];
      return bench.draw({ knots: roundKnots(x - d / 2, y - d / 2, d, d), closed: true });
    },
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
  },
);
