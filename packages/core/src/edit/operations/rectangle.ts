import { z } from "zod";
import { rectangleKnots } from "../../path/outline";
import { at, definePathOperation, sizeMm } from "../operation";

/** A rectangle about a place. */
export const rectangle = definePathOperation(
  z.strictObject({
    edit: z.literal("rectangle"),
    at,
    widthMm: sizeMm,
    heightMm: sizeMm,
    cornerMm: z.number().min(0).max(1000).default(0),
  }),
  {
    act(bench, edit) {
      const [[x, y], w, h, c] = [bench.mm(edit.at), edit.widthMm, edit.heightMm, edit.cornerMm];
      return bench.draw({ knots: rectangleKnots(x - w / 2, y - h / 2, w, h, c, c), closed: true });
    },
    turned: (edit, by) => ({
      ...edit,
      at: by.at(edit.at),
      widthMm: by.across ? edit.heightMm : edit.widthMm,
      heightMm: by.across ? edit.widthMm : edit.heightMm,
    }),
  },
);
