import { z } from "zod";
import { markEntry } from "./markEntry";

const mm = z.number().min(0).max(100000);

/** The register marks of a sheet that is printed and then cut, as they are kept with its run until they are looked for. */
export const jobMarks = z.object({
  entry: markEntry,
  /** The middle of each mark, in mm from the sheet's top left. */
  places: z
    .array(z.tuple([mm, mm]).readonly())
    .min(3)
    .max(20),
  widthMm: mm,
  heightMm: mm,
});
export type JobMarks = z.output<typeof jobMarks>;

/** @throws ZodError where what was kept is no such thing */
export const readJobMarks = (json: unknown): JobMarks => jobMarks.parse(json);
