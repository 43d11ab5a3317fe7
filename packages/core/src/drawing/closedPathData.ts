import { z } from "zod";
import { type KnotPath } from "../path/pathSet";
import { knotsFrom } from "./pathData";

/** Path data in mm, such as a die or a drawing gives, with at least one closed path. */
export const closedPathData = z
  .string()
  .max(2e6)
  .refine((d) => pathsIn(d).some((path) => path.closed), { error: "SVG path data in mm, closed" });

/** Path data in mm with at least one path, closed or not. */
export const anyPathData = z
  .string()
  .max(2e6)
  .refine((d) => pathsIn(d).length > 0, { error: "SVG path data in mm" });

function pathsIn(d: string): KnotPath[] {
  try {
    return knotsFrom(d);
  } catch {
    return [];
  }
}
