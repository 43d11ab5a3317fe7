import { z } from "zod";
import { commonProfile, resolutions, speed } from "../../profile";

export const bedLaser = z.strictObject({
  ...commonProfile,
  kind: z.literal("bed-laser"),
  /** Line pitches that it has, as dots to an inch. */
  dotsPerInch: resolutions,
  burnMmPerS: speed,
  scoreMmPerS: speed,
  cutMmPerS: speed,
  /** From when the beam is told until it is there. */
  responseMs: z.number().min(0).max(20).default(0),
});
export type BedLaser = z.output<typeof bedLaser>;
