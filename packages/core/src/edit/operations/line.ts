import { z } from "zod";
import { at, definePathOperation } from "../operation";

/** A straight line from place to place. */
export const line = definePathOperation(z.strictObject({ edit: z.literal("line"), at, to: at }), {
  act: (bench, edit) =>
    bench.draw({ knots: [{ at: bench.mm(edit.at) }, { at: bench.mm(edit.to) }], closed: false }),
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at), to: by.at(edit.to) }),
});
