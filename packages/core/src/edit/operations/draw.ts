import { z } from "zod";
import { drawOver, over } from "../drawOver";
import { at, byMm, definePathOperation } from "../operation";
import { knotOf } from "../points";

const drawnKnot = z.strictObject({ at, in: byMm.optional(), out: byMm.optional() });

export const draw = definePathOperation(
  z.strictObject({
    edit: z.literal("draw"),
    knots: z.array(drawnKnot).min(2).max(2000),
    closed: z.boolean(),
    over,
  }),
  {
    act(bench, { knots, closed, over: how }) {
      return drawOver(bench, [{ knots: knots.map((k) => knotOf(bench.mm(k.at), k.in, k.out)), closed }], how);
    },
    turned(edit, by) {
      const knots = edit.knots.map((knot) => {
        const [back, out] = [knot.in, knot.out].map((offset) => offset && by.offset(offset));
        // Mirrored, it is gone along from its end, so that it runs the same way round as seen.
        const [toIn, toOut] = by.mirrors ? [out, back] : [back, out];
        return { at: by.at(knot.at), ...(toIn && { in: toIn }), ...(toOut && { out: toOut }) };
      });
      return { ...edit, knots: by.mirrors ? knots.reverse() : knots };
    },
  },
);
