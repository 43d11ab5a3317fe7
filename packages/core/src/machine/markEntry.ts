import { z } from "zod";

const mm = (least: number, most: number) => z.number().min(least).max(most);

/** What register marks look like and where the machine's camera expects them. */
export const markEntry = z.strictObject({
  shape: z.enum(["disc", "square", "cross"]).default("disc"),
  sizeMm: mm(1, 30).default(6),
  /** Round the sheet: four corners, and then the middles of the long sides. */
  count: z.union([z.literal(3), z.literal(4), z.literal(6)], { error: "3, 4, 6" }).default(4),
  /** From the edge of the sheet to the middle of a mark. */
  insetMm: mm(1, 200).default(12),
  /** Nothing else may be printed so near to a mark's edge. */
  clearMm: mm(0, 50).default(3),
});
export type MarkEntry = z.output<typeof markEntry>;
