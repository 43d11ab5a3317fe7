import { z } from "zod";
import { type Rect } from "../raster/types";
import { materialKey } from "../route/route";

/** A length in mm. */
export const mm = (least: number, most: number) => z.number().min(least).max(most);
export const speed = z.number().min(0.1).max(5000);
export const resolutions = z.array(z.number().min(10).max(4800)).min(1).max(12);

const margins = z.strictObject({
  leftMm: mm(0, 10000).default(0),
  topMm: mm(0, 10000).default(0),
  rightMm: mm(0, 10000).default(0),
  bottomMm: mm(0, 10000).default(0),
});

/** What is known of every machine. */
export const commonProfile = {
  key: materialKey,
  name: z.string().trim().min(1).max(60),
  bed: z.strictObject({ widthMm: mm(20, 100000), heightMm: mm(20, 100000) }),
  /** What of the bed the head does not reach. */
  margins: margins.default(margins.parse({})),
  /** With the beam off, or the knife up. */
  travelMmPerS: speed,
  accelMmPerS2: z.number().min(1).max(100000),
  /** How far a rounded corner may leave the true one: what decides how fast a bend is taken. */
  cornerMm: mm(0.0001, 1).default(0.01),
};
export type CommonProfile = z.output<z.ZodObject<typeof commonProfile>> & { readonly kind: string };

/** A number of a machine's profile, by the names that lead to it, as its handbook calls it. */
export interface ProfileNumber {
  readonly of: string;
  readonly label: string;
  readonly unit: "mm" | "mm/s" | "mm/s²" | "ms" | "";
}

/** Numbers that every machine has, for its form and its sheet. */
export const COMMON_NUMBERS: readonly ProfileNumber[] = [
  { of: "bed.widthMm", label: "Bed width", unit: "mm" },
  { of: "bed.heightMm", label: "Bed depth", unit: "mm" },
  { of: "travelMmPerS", label: "Travel speed", unit: "mm/s" },
  { of: "accelMmPerS2", label: "Acceleration", unit: "mm/s²" },
  { of: "cornerMm", label: "Cornering tolerance", unit: "mm" },
  { of: "margins.leftMm", label: "Unreachable margin, left", unit: "mm" },
  { of: "margins.rightMm", label: "Unreachable margin, right", unit: "mm" },
  { of: "margins.topMm", label: "Unreachable margin, top", unit: "mm" },
  { of: "margins.bottomMm", label: "Unreachable margin, bottom", unit: "mm" },
];

/** The part of the bed that the head reaches, in mm from the bed's top left. */
export const reachable = ({ bed, margins: m }: Pick<CommonProfile, "bed" | "margins">): Rect => ({
  x: m.leftMm,
  y: m.topMm,
  width: bed.widthMm - m.leftMm - m.rightMm,
  height: bed.heightMm - m.topMm - m.bottomMm,
});
