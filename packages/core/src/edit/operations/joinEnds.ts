import { z } from "zod";
import { reversedPath, type KnotPath } from "../../path/pathSet";
import { type Knot } from "../../path/outline";
import { type AtKnot } from "../find";
import { at, definePathOperation, type Bench } from "../operation";
import { knotOf } from "../points";

/** Two free ends joined by a straight line, or in one point where they lie on one another; the two ends of one path close it. */
export const joinEnds = definePathOperation(z.strictObject({ edit: z.literal("joinEnds"), at, with: at }), {
  act(bench, edit) {
    const a = bench.knotAt(edit.at);
    if (!a || !isEnd(bench, a)) return false;
    const found = bench.knotAt(edit.with);
    // Ends that were parted by opening a path here lie on one another: a place tells one of them alone.
    const b = found && found.path === a.path && found.knot === a.knot ? endOn(bench, a) : found;
    if (!b || !isEnd(bench, b)) return false;
    if (a.path === b.path) return bench.replace(a.path, [closedUp(bench.paths[a.path])]);
    const out = a.knot === 0 ? reversedPath(bench.paths[a.path]) : bench.paths[a.path];
    const back = b.knot === 0 ? bench.paths[b.path] : reversedPath(bench.paths[b.path]);
    const other = bench.paths[b.path];
    bench.replace(a.path, [{ closed: false, knots: inOne(out.knots, back.knots) }]);
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
    {
      words: "Join here",
      on: "points",
      of: 1,
      make: ([a]) => ({ edit: "joinEnds", at: a, with: a }) as const,
    },
  ],
});

/** Nearer than this, in mm, two ends are one point. */
const SAME_MM = 0.01;

type End = Pick<AtKnot, "path" | "knot">;

const isEnd = (bench: Bench, { path, knot }: End): boolean => {
  const { closed, knots } = bench.paths[path];
  return !closed && (knot === 0 || knot === knots.length - 1);
};

const isSame = (a: Knot, b: Knot): boolean =>
  Math.abs(a.at[0] - b.at[0]) + Math.abs(a.at[1] - b.at[1]) < SAME_MM;

/** Another end of the same set that lies on an end. */
function endOn(bench: Bench, a: End): End | null {
  const own = bench.paths[a.path].knots[a.knot];
  for (const [path, { closed, knots }] of bench.paths.entries()) {
    if (closed || bench.set[path] !== bench.set[a.path]) continue;
    for (const knot of [0, knots.length - 1])
      if ((path !== a.path || knot !== a.knot) && isSame(knots[knot], own)) return { path, knot };
  }
  return null;
}

/** The knots of a line and of one that goes on where it ends. */
function inOne(out: readonly Knot[], back: readonly Knot[]): Knot[] {
  const [end, start] = [out[out.length - 1], back[0]];
  if (!isSame(end, start)) return [...out, ...back];
  return [...out.slice(0, -1), knotOf(end.at, end.in, start.out), ...back.slice(1)];
}

function closedUp({ knots }: KnotPath): KnotPath {
  const [first, last] = [knots[0], knots[knots.length - 1]];
  if (!isSame(first, last) || knots.length < 4) return { knots, closed: true };
  return { knots: [knotOf(first.at, last.in, first.out), ...knots.slice(1, -1)], closed: true };
}
