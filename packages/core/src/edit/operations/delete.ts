import { z } from "zod";
import { at, definePathOperation } from "../operation";

/** A shape taken away, its holes with it: a hole that stayed would be filled. */
export const deletePath = definePathOperation(z.strictObject({ edit: z.literal("delete"), at }), {
  act(bench, edit) {
    const shape = bench.shapeAt(edit.at);
    for (const k of [...shape].sort((a, b) => b - a)) bench.replace(k, []);
    return shape.length > 0;
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
