import { z } from "zod";
import { areaOfPath } from "../find";
import { definePathOperation } from "../operation";

export const deleteSmaller = definePathOperation(
  z.strictObject({ edit: z.literal("deleteSmaller"), mm2: z.number().min(0).max(100000) }),
  {
    act(bench, { mm2 }) {
      const small = bench.paths.map((p) => p.closed && areaOfPath(p) < mm2);
      for (let k = small.length - 1; k >= 0; k--) if (small[k]) bench.replace(k, []);
      return small.includes(true);
    },
    turned: (edit) => edit,
  },
);
