import { z } from "zod";
import { at, byMm, definePathOperation } from "../operation";

/** A shape moved, its holes with it. */
export const move = definePathOperation(z.strictObject({ edit: z.literal("move"), at, byMm }), {
  act: (bench, edit) =>
    bench.changeAll(bench.shapeAt(edit.at), (path) => ({
      ...path,
      knots: path.knots.map((k) => ({
        ...k,
        at: [k.at[0] + edit.byMm[0], k.at[1] + edit.byMm[1]] as const,
      })),
    })),
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at), byMm: by.offset(edit.byMm) }),
});
