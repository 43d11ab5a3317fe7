import { type Knot } from "./outline";
import { type KnotPath } from "./pathSet";

/** A path with everything made larger, or smaller. */
export const scaledPath = ({ knots, closed }: KnotPath, by: number): KnotPath => ({
  closed,
  knots: knots.map((knot) => scaledKnot(knot, by)),
});

/** A knot with its place and handles made larger, or smaller. */
export function scaledKnot({ at, in: back, out }: Knot, by: number): Knot {
  const of = (p: readonly [number, number]): [number, number] => [p[0] * by, p[1] * by];
  return { at: of(at), ...(back ? { in: of(back) } : {}), ...(out ? { out: of(out) } : {}) };
}
