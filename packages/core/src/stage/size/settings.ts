import { z } from "zod";
import { LEAST_DPI, MOST_DPI } from "../../maths/units";
import { paperSettings } from "../../paper/settings";
import { closedPathData } from "../../drawing/closedPathData";

export const MOST_MM = 5000;

const share = z.number().min(0).max(1);
/** Left, top, width and height as fractions of the artwork. */
const box = z
  .tuple([share, share, z.number().min(0.01).max(1), z.number().min(0.01).max(1)])
  .superRefine(([x, y, width, height], context) => {
    if (x + width > 1 + 1e-9) context.addIssue({ code: "custom", path: [2], message: `${1 - x} or less` });
    if (y + height > 1 + 1e-9) context.addIssue({ code: "custom", path: [3], message: `${1 - y} or less` });
  })
  .default([0, 0, 1, 1]);

/** The piece's own shape: outside it is cleared, and the picture is cut down to its box. */
export const pieceShape = z.discriminatedUnion(
  "kind",
  [
    z.strictObject({ kind: z.literal("whole") }),
    z.strictObject({ kind: z.literal("round"), box }),
    z.strictObject({ kind: z.literal("rectangle"), box }),
    z.strictObject({ kind: z.literal("rounded"), box, cornerMm: z.number().min(0).max(1000).default(5) }),
    z.strictObject({ kind: z.literal("path"), box, d: closedPathData }),
  ],
  {
    error: (issue) =>
      issue.code === "invalid_union" ? '"whole", "round", "rectangle", "rounded", "path"' : undefined,
  },
);
export type PieceShape = z.output<typeof pieceShape>;

export const sizeSettings = z.strictObject({
  widthMm: z.number().min(1).max(MOST_MM).optional(),
  heightMm: z.number().min(1).max(MOST_MM).optional(),
  dotsPerInch: z.number().min(LEAST_DPI).max(MOST_DPI).default(254),
  resample: z.enum(["lanczos3", "bicubic", "box", "none"]).default("lanczos3"),
  paper: paperSettings.optional(),
  straighten: z.number().min(-45).max(45).default(0),
  turn: z
    .union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)], { error: "0, 90, 180, 270" })
    .default(0),
  mirror: z.boolean().default(false),
  shape: pieceShape.default({ kind: "whole" }),
});

export type SizeSettings = z.output<typeof sizeSettings>;
