import { z } from "zod";
import { at, definePathOperation } from "../operation";
import { split as parted } from "../points";

/** A closed path opened at a point, or an open one parted there. */
export const split = definePathOperation(z.strictObject({ edit: z.literal("split"), at }), {
  act(bench, edit) {
    const found = bench.knotAt(edit.at);
    return !!found && bench.replace(found.path, parted(bench.paths[found.path], found.knot));
  },
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
  presses: [{ words: "Open here", on: "points", of: 1, make: ([p]) => ({ edit: "split", at: p }) as const }],
});
