import { z } from "zod";
import { commonProfile, resolutions, speed } from "../../profile";

export const filmPrinter = z.strictObject({
  ...commonProfile,
  kind: z.literal("film-printer"),
  dotsPerInch: resolutions,
  /** Rows of dots that one way of the head prints. */
  swathDots: z.int().min(1).max(4096),
  printMmPerS: speed,
});
export type FilmPrinter = z.output<typeof filmPrinter>;
