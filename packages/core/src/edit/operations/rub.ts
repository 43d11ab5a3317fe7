import { z } from "zod";
import { at, definePathOperation } from "../operation";
import { rubbed } from "../rub";

/** Whatever lies along a stroke evened out. */
export const rub = definePathOperation(
  z.strictObject({
    edit: z.literal("rub"),
    along: z.array(at).min(1).max(2000),
    reachMm: z.number().min(0.05).max(50),
  }),
  {
    *act(bench, { along, reachMm }) {
      let any = false;
      for (const [k, path] of bench.paths.entries()) {
        const even = yield* rubbed(path, along.map(bench.mm), reachMm);
        if (even !== path) any = bench.replace(k, [even]);
      }
      return any;
    },
    turned: (edit, by) => ({ ...edit, along: edit.along.map(by.at) }),
  },
);
