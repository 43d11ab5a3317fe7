import { z } from "zod";
import { colourChange, hexColour, MOST_CHANGES } from "../../recolour/change";
import { knockOutSettings } from "../films/settings";

export const transferSettings = z.strictObject({
  garment: hexColour.default("#ffffff"),
  /** What ranges of the art's colours become, in order. */
  recolour: z.array(colourChange).max(MOST_CHANGES).default([]),
  knockOut: knockOutSettings.optional(),
  /** Grey, 0..1, that becomes full black; what is darker too. */
  black: z.number().min(0).max(0.9).default(0),
  saturation: z.number().min(0).max(2).default(1),
  edges: z.enum(["soft", "dots"]).default("soft"),
  /** Side of a dot where soft edges become dots. */
  dotMm: z.number().min(0.02).max(1).default(0.1),
  white: z
    .strictObject({
      chokeMm: z.number().min(0).max(5).default(0.15),
      strength: z.number().min(0).max(1).default(1),
    })
    .default({ chokeMm: 0.15, strength: 1 }),
  /** What lies under an ink shows through it, as with nearly all that print on a white layer, or is hidden. */
  inks: z.enum(["seeThrough", "opaque"]).default("seeThrough"),
  mirror: z.boolean().default(false),
});

export type TransferSettings = z.output<typeof transferSettings>;
