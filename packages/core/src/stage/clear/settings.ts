import { z } from "zod";
import { known } from "../../settings/known";

const share = z.number().min(0).max(1);
/** Fractions of the artwork's width and height. */
const at = z.tuple([share, share]);
/** A hand may go past the edge. */
const free = z.number().min(-1).max(2);
const offset = z.number().min(-3).max(3);
const tolerance = z.number().min(0).max(100).default(11);

const strokePoint = z.union([z.tuple([free, free]), z.tuple([free, free, share])], {
  error: "[x, y] or [x, y, pressure]",
});
const stroke = z.strictObject({
  points: z.array(strokePoint).min(1).max(5000),
  sizeMm: z.number().min(0.05).max(1000).default(4),
  softness: share.default(0),
});
const strokes = z.array(stroke).max(2000);

const knot = z.strictObject({
  at: z.tuple([free, free]),
  in: z.tuple([offset, offset]).optional(),
  out: z.tuple([offset, offset]).optional(),
});

export const pickOp = z.strictObject({
  op: z.literal("pick"),
  at,
  tolerance,
  joined: z.boolean().default(true),
});
export const gapsOp = z.strictObject({
  op: z.literal("gaps"),
  like: z.number().int().min(0).max(99).default(0),
  tolerance,
  smallestMm2: z
    .union([z.number().min(0).max(1e6), z.null()], { error: "0 to 1000000, or null for none" })
    .default(0.5),
  but: z.array(at).max(2000).default([]),
});
/** A share, or where the picture's own ink and paper put it. */
const found = z.union([z.literal("auto"), share], { error: '"auto" or 0 to 1' });
export const liftOp = z
  .strictObject({
    op: z.literal("lift"),
    kept: found.default("auto"),
    gone: found.default("auto"),
    paper: z
      .string()
      .regex(/^(auto|#[0-9a-fA-F]{6})$/, { error: '"auto" or "#rrggbb"' })
      .default("auto"),
    light: z.enum(["auto", "even", "uneven"]).default("auto"),
  })
  .superRefine(({ kept, gone }, context) => {
    if (kept !== "auto" && gone !== "auto" && !(gone > kept))
      context.addIssue({ code: "custom", path: ["gone"], message: `above kept, which is ${kept}` });
  });
export const holdOp = z.strictObject({ op: z.literal("hold"), strokes: strokes.default([]) });
export const brushOp = z.strictObject({
  op: z.literal("brush"),
  paints: z.enum(["away", "back"]).default("away"),
  strokes: strokes.default([]),
});
export const backOp = z.strictObject({ op: z.literal("back"), at: z.array(at).min(1).max(200) });
export const throughOp = z.strictObject({
  op: z.literal("through"),
  at: z.array(at).max(200).default([]),
  as: z.enum(["seeThrough", "solid", "gone"]).default("seeThrough"),
});
export const cutOutOp = z.strictObject({
  op: z.literal("cutOut"),
  keep: strokes.default([]),
  away: strokes.default([]),
});
const box = z.tuple([free, free, z.number().min(0.001).max(3), z.number().min(0.001).max(3)]);
export const pathOp = z.strictObject({
  op: z.literal("path"),
  kind: z.enum(["round", "rectangle", "rounded", "free"]).default("round"),
  keep: z.enum(["inside", "outside"]).default("inside"),
  box: box.default([0.1, 0.1, 0.8, 0.8]),
  cornerMm: z.number().min(0).max(1000).default(5),
  knots: z.array(knot).max(500).default([]),
});

export const clearOp = z.discriminatedUnion(
  "op",
  [pickOp, gapsOp, liftOp, holdOp, brushOp, backOp, throughOp, cutOutOp, pathOp],
  {
    error: (issue) =>
      issue.code === "invalid_union"
        ? '"pick", "gaps", "lift", "hold", "brush", "back", "through", "path", "cutOut"'
        : undefined,
  },
);
export type ClearOp = z.output<typeof clearOp>;
export type ClearOpOf<K extends ClearOp["op"]> = Extract<ClearOp, { op: K }>;

export const clearSettings = z
  .strictObject({
    ops: z.array(known<ClearOp>(clearOp)).max(100).default([]),
    fringe: z.enum(["unmix", "none"]).default("unmix"),
    edgeMm: z.number().min(-20).max(20).default(0),
    featherMm: z.number().min(0).max(20).default(0),
    specksMm2: z.number().min(0).max(1000).default(0),
    pinholesMm2: z.number().min(0).max(1000).default(0),
  })
  .superRefine(({ ops }, context) => {
    const picks = ops.filter((o) => o.op === "pick").length;
    ops.forEach((op, i) => {
      if (op.op === "gaps" && op.like >= picks)
        context.addIssue({
          code: "custom",
          path: ["ops", i, "like"],
          message: picks === 0 ? "a pick on this route to be like" : `a pick's number, 0 to ${picks - 1}`,
        });
    });
  });

export type ClearSettings = z.output<typeof clearSettings>;
