import { z } from "zod";
import { rectangleKnots } from "../../path/outline";
import { drawOver, over } from "../drawOver";
import { at, definePathOperation, sizeMm } from "../operation";

/** A rectangle about a place. */
export const rectangle = definePathOperation(
  z.strictObject({
    edit: z.literal("rectangle"),
    at,
    widthMm: sizeMm,
    heightMm: sizeMm,
    cornerMm: z.number().min(0).max(1000).default(0),
    over,
  }),
  {
    act(bench, edit) {
      const [[x, y], w, h, c] = [bench.mm(edit.at), edit.widthMm, edit.heightMm, edit.cornerMm];
      const knots = rectangleKnots(x - w / 2, y - h / 2, w, h, c, c);
      return drawOver(bench, [{ knots, closed: true }], edit.over);
    },
    turned: (edit, by) => ({
      ...edit,
      at: by.at(edit.at),
      widthMm: by.across ? edit.heightMm : edit.widthMm,
      heightMm: by.across ? edit.widthMm : edit.heightMm,
    }),
  },
);
