import { z } from "zod";
import { type Work } from "../../maths/work";
import { type KnotPath } from "../../path/pathSet";
import { scaledPath } from "../../path/scaled";
import { fitRings } from "../../fit/fitRings";
import { fitSides } from "../../fit/fit";
import { flat, ringOf } from "../find";
import { at, definePathOperation } from "../operation";

export const simplify = definePathOperation(
  z.strictObject({
    edit: z.literal("simplify"),
    at,
    withinMm: z.number().min(0.001).max(10),
  }),
  {
    *act(bench, edit) {
      const found = bench.pathAt(edit.at);
      if (!found) return false;
      return bench.replace(found.path, yield* simpler(bench.paths[found.path], edit.withinMm));
    },
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at) }),
  },
);

function* simpler(path: KnotPath, withinMm: number): Work<KnotPath[]> {
  if (path.closed) return yield* fitRings([ringOf(path)], withinMm);
  const units = withinMm / 2;
  const knots = yield* fitSides(
    flat(path).points.map((v) => v / units),
    { tolerance: 2, corners: 0.5 },
  );
  return [scaledPath({ knots, closed: false }, units)];
}
