import { z } from "zod";
import { anyPathData } from "../../drawing/closedPathData";
import { drawingSize } from "../../drawing/overArtwork";
import { pathEdits } from "../../edit/operations";

const isThreshold = (value: unknown): boolean =>
  value === "auto" || (Number.isInteger(value) && (value as number) >= 1 && (value as number) <= 255);
const area = z.number().min(0).max(10000);
const hexColour = z.string().regex(/^#[0-9a-f]{6}$/i, { error: "#rrggbb" });

/** How a machine runs one set of shapes. Sets run by their order, then as they are. */
const pass = z.strictObject({
  set: z.string().trim().min(1).max(40),
  name: z
    .string()
    .trim()
    .regex(/^[\p{L}\p{N}][\p{L}\p{N} _-]{0,39}$/u, {
      error: "letters, digits, spaces and hyphens, 40 at most",
    }),
  use: z.enum(["fill", "score", "through", "kiss"]).default("fill"),
  power: z.number().min(0).max(100).default(50),
  speed: z.number().min(0.1).max(5000).default(100),
  order: z.int().min(0).max(99).default(0),
});
export type TracePass = z.output<typeof pass>;

/** Paths that a drawing has of its own, by sets, in mm from the upper left of the whole of it, which is so large. */
const drawing = z.strictObject({
  sets: z
    .array(
      z.strictObject({
        name: z.string().trim().min(1).max(40),
        colour: hexColour,
        use: z.enum(["fill", "score"]).default("fill"),
        d: anyPathData,
      }),
    )
    .min(1)
    .max(100),
  ...drawingSize,
});

export const traceSettings = z.strictObject({
  from: z.enum(["tone", "blackWhite", "drawing"]).default("tone"),
  drawing: drawing.optional(),
  threshold: z
    .custom<"auto" | number>(isThreshold, { error: '"auto" or a whole number 1 to 255' })
    .default(128),
  toleranceMm: z.number().min(0.001).max(5).default(0.05),
  smallestMm2: area.default(0.1),
  smallestHoleMm2: area.default(0.1),
  corners: z.number().min(0).max(1).default(0.5),
  smoothMm: z.number().min(0).max(5).default(0),
  centreMm: z.number().min(0).max(20).default(0),
  /** How readily strokes thinner than a pixel are traced; 0 leaves them. Of one tone alone. */
  thin: z.number().min(0).max(1).default(0),
  tones: z
    .union([z.int().min(1).max(6), z.array(hexColour).min(2).max(6)], {
      error: "1 to 6, or 2 to 6 colours as #rrggbb",
    })
    .default(1),
  trapMm: z.number().min(0).max(5).default(0),
  passes: z.array(pass).max(12).default([]),
  edits: pathEdits,
});
export type TraceSettings = z.output<typeof traceSettings>;
