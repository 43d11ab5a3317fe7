import svgpath from "svgpath";
import { type Knot } from "../path/outline";
import { type KnotPath } from "../path/pathSet";
import { DrawingError } from "./drawing";

/** Paths of path data, moved and scaled. @throws DrawingError where it is not path data */
export function knotsFrom(d: string, transform = ""): KnotPath[] {
  const path = svgpath(d).abs().unshort().unarc();
  const fault = (path as unknown as { err?: string }).err;
  if (fault) throw new DrawingError(`The drawing has a path that cannot be read: ${fault}`);
  const moved = transform ? path.transform(transform) : path;
  const paths: { knots: Knot[]; closed: boolean }[] = [];
  const add = (x: number, y: number, back?: readonly [number, number]) =>
    paths.at(-1)?.knots.push({ at: [x, y], ...(back ? { in: back } : {}) });
  const leave = (out: readonly [number, number]) => {
    const { knots } = paths.at(-1)!;
    const last = knots.length - 1;
    if (out[0] !== 0 || out[1] !== 0) knots[last] = { ...knots[last], out };
  };
  moved.iterate((segment, _, x, y) => {
    const [kind, ...v] = segment as [string, ...number[]];
    if (kind === "M") paths.push({ knots: [{ at: [v[0], v[1]] }], closed: false });
    else if (kind === "L") add(v[0], v[1]);
    else if (kind === "H") add(v[0], y);
    else if (kind === "V") add(x, v[0]);
    else if (kind === "C") {
      leave([v[0] - x, v[1] - y]);
      add(v[4], v[5], [v[2] - v[4], v[3] - v[5]]);
    } else if (kind === "Q") {
      leave([(2 / 3) * (v[0] - x), (2 / 3) * (v[1] - y)]);
      add(v[2], v[3], [(2 / 3) * (v[0] - v[2]), (2 / 3) * (v[1] - v[3])]);
    } else if ((kind === "Z" || kind === "z") && paths.length > 0) paths.at(-1)!.closed = true;
  });
  return paths.filter((p) => p.knots.length > 1).map((p) => (p.closed ? closedOnce(p) : p));
}

/** A closed path that names its first point again at its end has it once. */
function closedOnce({ knots }: { readonly knots: readonly Knot[] }): KnotPath {
  const [first, last] = [knots[0], knots[knots.length - 1]];
  const off = Math.abs(first.at[0] - last.at[0]) + Math.abs(first.at[1] - last.at[1]);
  if (knots.length < 3 || off > 1e-6) return { knots, closed: true };
  const joined = { ...first, ...(last.in ? { in: last.in } : {}) };
  return { knots: [joined, ...knots.slice(1, -1)], closed: true };
}
