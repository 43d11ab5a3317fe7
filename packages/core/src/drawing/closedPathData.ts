import { z } from "zod";
import { knotsFrom } from "./pathData";

/** Path data in mm, such as a die or a drawing gives, with at least one closed path. */
export const closedPathData = z
  .string()
  .max(2e6)
  .refine((d) => hasClosed(d), { error: "SVG path data in mm, closed" });

function hasClosed(d: string): boolean {
  try {
    return knotsFrom(d).some((path) => path.closed);
  } catch {
    return false;
  }
}
