import { z } from "zod";
import { fitRings } from "../../fit/fitRings";
import { flattened } from "../../path/flatten";
import { pathSetOf } from "../../path/pathSet";
import { strokeOf } from "../../polygon/stroke";
import { at, definePathOperation } from "../operation";

const ends = z.enum(["round", "flat"]).default("round");
const LOOK = { name: "", use: "score", colour: 0 } as const;
/** Straight pieces stay so near to the line, in mm. */
const NEAR_MM = 0.002;

/** The outline of a line that is so wide, in the line's place: a shape to be filled or cut. */
export const outline = definePathOperation(
  z.strictObject({ edit: z.literal("outline"), at, widthMm: z.number().min(0.01).max(500), ends }),
  {
    *act(bench, edit) {
      const found = bench.pathAt(edit.at)?.path;
      if (found === undefined) return false;
      const path = bench.paths[found];
      const [{ points }] = flattened(pathSetOf(LOOK, [path]), NEAR_MM);
      const line = path.closed ? points.subarray(0, points.length - 2) : points;
      const made = yield* fitRings(strokeOf(line, edit.widthMm, path.closed, edit.ends));
      bench.replace(found, []);
      for (const one of made) bench.put(one, bench.home);
      return true;
    },
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
  },
);
