import { z } from "zod";
import { otsuThreshold, threshold } from "../../../screen/threshold";
import { portion } from "../../../maths/work";
import { defineMethod, shared } from "../method";

const isThreshold = (value: unknown): boolean =>
  value === "auto" || (Number.isInteger(value) && (value as number) >= 1 && (value as number) <= 255);

export const lineSettings = z.strictObject({
  method: z.literal("line"),
  threshold: z
    .custom<"auto" | number>(isThreshold, { error: '"auto" or a whole number 1 to 255' })
    .default(128),
  ...shared,
});
export type LineSettings = z.output<typeof lineSettings>;

/** One threshold. */
export const line = defineMethod<LineSettings>({
  id: "line",
  title: "Line",
  tip: "One threshold: drawings, lettering, flat art",
  settings: lineSettings,
  *marks({ gray, cover }, settings) {
    const found =
      settings.threshold === "auto" ? yield* portion(otsuThreshold(gray, cover), 0, 0.5) : settings.threshold;
    return { bits: yield* portion(threshold(gray, found), 0.5, 1), threshold: found };
  },
  leadIn: (settings) => (settings.threshold === "auto" ? null : 0),
  lineWork: true,
  samples: [{ label: "Line", settings: { threshold: "auto" } }],
  sampleOf: () => ({ label: "Line", at: 0 }),
  fans: [],
  summary: (settings) => `Line at ${settings.threshold}`,
});
