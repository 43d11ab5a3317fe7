import { z } from "zod";
import { type Work } from "../../maths/work";
import { common, evenOdd, joined, without } from "../../polygon/inSlices";
import { keptCurves, traceable } from "../../polygon/keptCurves";
import { type Ring, type Rings } from "../../polygon/rings";
import { areaOfPath } from "../find";
import { at, definePathOperation, type Press } from "../operation";

const HOW = { join: joined, subtract: without, intersect: common, rest } as const;
type How = keyof typeof HOW;

const press = (words: string, how: How) =>
  ({
    words,
    on: "paths",
    of: 2,
    make: ([a, b]) => ({ edit: "combine", at: a, with: b, how }) as const,
  }) satisfies Press;

/** What is in one of two areas and not in the other. */
function* rest(a: Rings, b: Rings): Work<Ring[]> {
  return [...(yield* without(a, b)), ...(yield* without(b, a))];
}

/** Two shapes as they are seen filled, holes open: made one, the first without the second, what is in both, or what is in one alone. */
export const combine = definePathOperation(
  z.strictObject({
    edit: z.literal("combine"),
    at,
    with: at,
    how: z.enum(["join", "subtract", "intersect", "rest"]),
  }),
  {
    *act(bench, edit) {
      const [a, b] = [bench.pathAt(edit.at)?.path, bench.pathAt(edit.with)?.path];
      if (a === undefined || b === undefined || a === b) return false;
      const [one, other] = [bench.paths[a], bench.paths[b]];
      if (!one.closed || !other.closed) return false;
      const holesOf = (place: typeof edit.at, without: number) =>
        bench
          .shapeAt(place, without)
          .slice(1)
          .map((k) => bench.paths[k]);
      const holes = [holesOf(edit.at, b), holesOf(edit.with, a)];
      // A hole that both go round is the larger one's: the other was laid over it.
      const smaller = areaOfPath(one) < areaOfPath(other) ? 0 : 1;
      holes[smaller] = holes[smaller].filter((path) => !holes[1 - smaller].includes(path));
      const from = traceable([one, ...holes[0], other, ...holes[1]]);
      const first = yield* evenOdd(from.rings.slice(0, 1 + holes[0].length));
      const second = yield* evenOdd(from.rings.slice(1 + holes[0].length));
      bench.replace(a, yield* keptCurves(yield* HOW[edit.how](first, second), from));
      for (const path of [other, ...holes.flat()]) bench.replace(bench.paths.indexOf(path), []);
      return true;
    },
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at), with: by.at(edit.with) }),
    presses: [
      press("Join", "join"),
      press("Subtract", "subtract"),
      press("Overlap", "intersect"),
      press("Rest", "rest"),
    ],
  },
);
