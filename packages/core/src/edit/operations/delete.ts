import { z } from "zod";
import { at, definePathOperation } from "../operation";

export const deletePath = definePathOperation(z.strictObject({ edit: z.literal("delete"), at }), {
  act(bench, edit) {
    const found = bench.pathAt(edit.at);
    return !!found && bench.replace(found.path, []);
  },
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
  presses: [
    {
      words: "Delete",
      on: "paths",
      of: "each",
      key: "Delete",
      make: ([p]) => ({ edit: "delete", at: p }) as const,
    },
  ],
});
