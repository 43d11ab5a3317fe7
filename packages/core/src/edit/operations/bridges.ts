import { z } from "zod";
import { evenOdd, joined, without } from "../../polygon/inSlices";
import { bridgesOf, gapsOf } from "../../polygon/islands";
import { keptCurves, traceable } from "../../polygon/keptCurves";
import { at, definePathOperation } from "../operation";

/**
 * Bridges to what would drop out of a stencil: to what lies in the holes of a shape that is cut out (`filled`), or, of a
 * piece, to what lies within its gaps (`gaps`). Of the shape at a place, or of all.
 */
export const bridges = definePathOperation(
  z.strictObject({
    edit: z.literal("bridges"),
    at: at.optional(),
    widthMm: z.number().min(0.05).max(50),
    cutOut: z.enum(["filled", "gaps"]).default("filled"),
  }),
  {
    *act(bench, edit) {
      const all = bench.paths.flatMap((path, k) => (path.closed && bench.set[k] === bench.home ? [k] : []));
      const numbers = edit.at ? bench.shapeAt(edit.at).filter((k) => bench.paths[k].closed) : all;
      if (numbers.length === 0) return false;
      const from = traceable(numbers.map((k) => bench.paths[k]));
      const area = yield* evenOdd(from.rings);
      // Gaps are what the other lines enclose: turned inside out, a piece is what is left standing.
      const cut = edit.cutOut === "filled" ? area : yield* evenOdd(gapsOf(area));
      const bars = bridgesOf(cut, edit.widthMm);
      if (bars.length === 0) return false;
      const made = edit.cutOut === "filled" ? yield* without(area, bars) : yield* joined(area, bars);
      const set = bench.set[numbers[0]];
      for (const k of [...numbers].sort((a, b) => b - a)) bench.replace(k, []);
      for (const path of yield* keptCurves(made, from)) bench.put(path, set);
      return true;
    },
    turned: (edit, by) => ({ ...edit, ...(edit.at && { at: by.at(edit.at) }) }),
    presses: [
      {
        words: "Bridges",
        on: "paths",
        of: "each",
        make: ([p]) => ({ edit: "bridges", at: p, widthMm: 1, cutOut: "filled" }) as const,
      },
    ],
  },
);
