import { z } from "zod";

const hexColour = z.string().regex(/^#[0-9a-f]{6}$/i, { error: "#rrggbb" });
/** A place of the artwork, as fractions of its width and height. */
const at = z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]).readonly();

const area = z.strictObject({
  at,
  /** Null: it stays as it is, whatever was said before. */
  colour: hexColour.nullable(),
  /** A second colour that the first goes over into, from the area's own place to another. */
  shade: z.strictObject({ colour: hexColour, to: at }).optional(),
});
export type ColouredArea = z.output<typeof area>;

export const colourSettings = z.strictObject({
  /** Lines with gaps up to this are taken for closed. */
  gapMm: z.number().min(0).max(20).default(0.5),
  /** How dark a pixel must be to be of a line. */
  lines: z.number().min(0.05).max(0.95).default(0.35),
  areas: z.array(area).max(2000).default([]),
  /** Colours at hand, kept with the ticket. */
  palette: z.array(hexColour).max(48).default([]),
});
export type ColourSettings = z.output<typeof colourSettings>;
