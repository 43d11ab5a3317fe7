import { z } from "zod";

const share = z.number().min(0).max(1);

/** Curve points: first coordinates strictly rising, both within 0..1. */
export const curvePoints = z
  .array(z.tuple([share, share]))
  .min(2)
  .max(32)
  .superRefine((points, context) => {
    points.forEach(([x], i) => {
      if (i > 0 && !(x > points[i - 1][0])) {
        context.addIssue({
          code: "custom",
          path: [i, 0],
          message: `above ${points[i - 1][0]}, the point before`,
        });
      }
    });
  });

export const toneSettings = z
  .strictObject({
    black: share.default(0),
    white: share.default(1),
    curve: curvePoints.default([
      [0, 0],
      [1, 1],
    ]),
    sharpen: z
      .strictObject({
        radiusMm: z.number().min(0.01).max(5).default(0.15),
        amount: z.number().min(0).max(5).default(0),
      })
      .default({ radiusMm: 0.15, amount: 0 }),
  })
  .superRefine(({ black, white }, context) => {
    if (!(white > black))
      context.addIssue({ code: "custom", path: ["white"], message: `above black, which is ${black}` });
  });

export type ToneSettings = z.output<typeof toneSettings>;
