import { z } from "zod";
import { reversedPath, type KnotPath } from "../../path/pathSet";
import { type AtKnot } from "../find";
import { at, definePathOperation } from "../operation";
import { knotOf } from "../points";

/** Two free ends joined by a straight line; the two ends of one path close it. */
export const joinEnds = definePathOperation(z.strictObject({ edit: z.literal("joinEnds"), at, with: at }), {
  act(bench, edit) {
    const [a, b] = [bench.knotAt(edit.at), bench.knotAt(edit.with)];
    if (!a || !b) return false;
    const isEnd = ({ path, knot }: AtKnot): boolean => {
      const { closed, knots } = bench.paths[path];
      return !closed && (knot === 0 || knot === knots.length - 1);
    };
    if (!isEnd(a) || !isEnd(b) || (a.path === b.path && a.knot === b.knot)) return false;
    if (a.path === b.path) return bench.replace(a.path, [closedUp(bench.paths[a.path])]);
    const out = a.knot === 0 ? reversedPath(bench.paths[a.path]) : bench.paths[a.path];
    const back = b.knot === 0 ? bench.paths[b.path] : reversedPath(bench.paths[b.path]);
    const other = bench.paths[b.path];
    bench.replace(a.path, [{ closed: false, knots: [...out.knots, ...back.knots] }]);
    return bench.replace(bench.paths.indexOf(other), []);
  },
  turned: (edit, by) => ({ ...edit, at: by.at(edit.at), with: by.at(edit.with) }),
  presses: [
    {
      words: "Join ends",
      on: "points",
      of: 2,
      make: ([a, b]) => ({ edit: "joinEnds", at: a, with: b }) as const,
    },
  ],
});

/** Nearer than this, in mm, two ends are one point. */
const SAME_MM = 0.01;

function closedUp({ knots }: KnotPath): KnotPath {
  const [first, last] = [knots[0], knots[knots.length - 1]];
  const isSame = Math.abs(first.at[0] - last.at[0]) + Math.abs(first.at[1] - last.at[1]) < SAME_MM;
  if (!isSame || knots.length < 4) return { knots, closed: true };
  return { knots: [knotOf(first.at, last.in, first.out), ...knots.slice(1, -1)], closed: true };
}
