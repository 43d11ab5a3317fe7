import { z } from "zod";
import { common, evenOdd, joined, without } from "../../polygon/clip";
import { fitRings } from "../../fit/fitRings";
import { ringOf } from "../find";
import { at, definePathOperation, type Press } from "../operation";

const HOW = { join: joined, subtract: without, intersect: common } as const;
type How = keyof typeof HOW;

const press = (words: string, how: How) =>
  ({
    words,
    on: "paths",
    of: 2,
    make: ([a, b]) => ({ edit: "combine", at: a, with: b, how }) as const,
  }) satisfies Press;

/** Two closed paths as areas, made one, the first without the second, or what is in both. */
export const combine = definePathOperation(
  z.strictObject({
    edit: z.literal("combine"),
    at,
    with: at,
    how: z.enum(["join", "subtract", "intersect"]),
  }),
  {
    *act(bench, edit) {
      const [a, b] = [bench.pathAt(edit.at), bench.pathAt(edit.with)];
      if (!a || !b || a.path === b.path) return false;
      const [one, other] = [bench.paths[a.path], bench.paths[b.path]];
      if (!one.closed || !other.closed) return false;
      const rings = HOW[edit.how](evenOdd([ringOf(one)]), evenOdd([ringOf(other)]));
      bench.replace(a.path, yield* fitRings(rings));
      return bench.replace(bench.paths.indexOf(other), []);
    },
    turned: (edit, by) => ({ ...edit, at: by.at(edit.at), with: by.at(edit.with) }),
    presses: [press("Join", "join"), press("Subtract", "subtract"), press("Intersect", "intersect")],
  },
);
