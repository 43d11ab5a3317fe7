import { z } from "zod";
import { roundKnots } from "../../path/outline";
import { drawOver, over } from "../drawOver";
import { at, definePathOperation, sizeMm } from "../operation";

/** A circle about a place. */
export const circle = definePathOperation(
  z.strictObject({ edit: z.literal("circle"), at, diameterMm: sizeMm, over }),
  {
    act(bench, edit) {
      const [[x, y], d] = [bench.mm(edit.at), edit.diameterMm];
      return drawOver(bench, [{ knots: roundKnots(x - d / 2, y - d / 2, d, d), closed: true }], edit.over);
    },
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
  },
);
