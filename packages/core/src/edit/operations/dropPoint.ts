import { z } from "zod";
import { at, definePathOperation } from "../operation";
import { withoutPoint } from "../points";

export const dropPoint = definePathOperation(z.strictObject({ edit: z.literal("dropPoint"), at }), {
  act: (bench, edit) => bench.change(bench.knotAt(edit.at), (path, { knot }) => withoutPoint(path, knot)),
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
  presses: [
    {
      words: "Delete",
      on: "points",
      of: "each",
      key: "Delete",
      make: ([p]) => ({ edit: "dropPoint", at: p }) as const,
    },
  ],
});
