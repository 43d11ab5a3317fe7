import { z } from "zod";
import { at, definePathOperation } from "../operation";
import { withPoint } from "../points";

export const addPoint = definePathOperation(z.strictObject({ edit: z.literal("addPoint"), at }), {
  act: (bench, edit) =>
    bench.change(bench.pathAt(edit.at), (path, { segment, share }) => withPoint(path, segment, share)),
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
});
