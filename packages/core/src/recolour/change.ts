import { z } from "zod";

export const hexColour = z.string().regex(/^#[0-9a-f]{6}$/i, { error: "a colour as #rrggbb" });

const becomesColour = z.strictObject({ colour: hexColour });
const becomesMoved = z.strictObject({
  /** Degrees that the hue is turned by, counter-clockwise in the plane of OKLab's two axes. */
  hue: z.number().min(-360).max(360).default(0),
  /** Times the saturation. */
  saturation: z.number().min(0).max(4).default(1),
  /** Share by which it is made lighter, or darker below 0. */
  lightness: z.number().min(-1).max(1).default(0),
});

/** A range of colours of an art, and what it becomes. */
export const colourChange = z.strictObject({
  /** The colour that stands for the range. */
  from: hexColour,
  /** How far colours may differ from it and still belong wholly, in hundredths of OKLab with shading taken out. */
  tolerance: z.number().min(0).max(100).default(10),
  /** Over so much more they belong less and less. */
  softness: z.number().min(0).max(100).default(6),
  to: z.union([becomesColour, becomesMoved], {
    error: '{ "colour": "#rrggbb" }, or how far "hue", "saturation" and "lightness" are moved',
  }),
});

export type ColourChange = z.output<typeof colourChange>;

/** The most changes of one colourway. */
export const MOST_CHANGES = 24;
