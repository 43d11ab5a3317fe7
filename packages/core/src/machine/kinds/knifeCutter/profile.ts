import { z } from "zod";
import { markEntry } from "../../markEntry";
import { commonProfile, mm, speed } from "../../profile";

export const knifeCutter = z.strictObject({
  ...commonProfile,
  kind: z.literal("knife-cutter"),
  cutMmPerS: speed,
  /** From the middle of the holder to the edge of the blade that trails behind it. */
  bladeOffsetMm: mm(0, 3),
  overcutMm: mm(0, 10),
  /** To lower or raise the knife, once. */
  liftMs: z.number().min(0).max(2000),
  marks: markEntry.default(markEntry.parse({})),
});
export type KnifeCutter = z.output<typeof knifeCutter>;
