import { z } from "zod";

export const MOST_MM = 5000;
export const LEAST_DPI = 10;
export const MOST_DPI = 4800;

export const sizeSettings = z.strictObject({
  widthMm: z.number().min(1).max(MOST_MM).optional(),
  heightMm: z.number().min(1).max(MOST_MM).optional(),
  dotsPerInch: z.number().min(LEAST_DPI).max(MOST_DPI).default(254),
  resample: z.enum(["lanczos3", "bicubic", "box", "none"]).default("lanczos3"),
});

export type SizeSettings = z.output<typeof sizeSettings>;
