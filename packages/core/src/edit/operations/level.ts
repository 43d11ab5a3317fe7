import { z } from "zod";
import { type Point } from "../../fit/line";
import { at, definePathOperation, type Press } from "../operation";
import { movedPoint } from "../points";

const press = (words: string, way: "horizontally" | "vertically") =>
  ({
    words,
    on: "points",
    of: 2,
    make: ([a, b]) => ({ edit: "level", at: a, with: b, way }) as const,
  }) satisfies Press;

const OTHER = { horizontally: "vertically", vertically: "horizontally" } as const;

/** Two points brought to one height, or under one another: each goes half of the way. */
export const level = definePathOperation(
  z.strictObject({
    edit: z.literal("level"),
    at,
    with: at,
    way: z.enum(["horizontally", "vertically"]),
  }),
  {
    act(bench, edit) {
      const [a, b] = [bench.knotAt(edit.at), bench.knotAt(edit.with)];
      if (!a || !b || (a.path === b.path && a.knot === b.knot)) return false;
      const [p, q] = [bench.paths[a.path].knots[a.knot].at, bench.paths[b.path].knots[b.knot].at];
      const to = (place: Point): Point =>
        edit.way === "horizontally" ? [place[0], (p[1] + q[1]) / 2] : [(p[0] + q[0]) / 2, place[1]];
      bench.replace(a.path, [movedPoint(bench.paths[a.path], a.knot, to(p))]);
      return bench.replace(b.path, [movedPoint(bench.paths[b.path], b.knot, to(q))]);
    },
    turned: (edit, by) => ({
      ...edit,
      at: by.at(edit.at),
      with: by.at(edit.with),
      way: by.across ? OTHER[edit.way] : edit.way,
    }),
    presses: [press("Level", "horizontally"), press("Plumb", "vertically")],
  },
);
