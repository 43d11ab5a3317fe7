import { z } from "zod";
import { KERNEL_NAMES } from "../../screen/kernels";

const polarity = z.enum(["burns-dark", "burns-pale"]).default("burns-dark");

const line = z.strictObject({
  method: z.literal("line"),
  threshold: z
    .custom<"auto" | number>(isThreshold, { error: '"auto" or a whole number 1 to 255' })
    .default(128),
  material: polarity,
});

function isThreshold(value: unknown): boolean {
  return value === "auto" || (Number.isInteger(value) && (value as number) >= 1 && (value as number) <= 255);
}

const scatter = z.strictObject({
  method: z.literal("scatter"),
  kernel: z.enum(KERNEL_NAMES).default("floyd-steinberg"),
  strength: z.number().min(0).max(1).default(1),
  serpentine: z.boolean().default(false),
  material: polarity,
});

export const blackWhiteSettings = z.preprocess(
  // The method may be left out; scatter is what most pictures want.
  (input) => (isPlainObject(input) && !("method" in input) ? { method: "scatter", ...input } : input),
  z.discriminatedUnion("method", [line, scatter], {
    error: (issue) => (issue.code === "invalid_union" ? '"line", "scatter"' : undefined),
  }),
);

function isPlainObject(value: unknown): value is object {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

export type BlackWhiteSettings = z.output<typeof line> | z.output<typeof scatter>;
