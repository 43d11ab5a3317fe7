import { type Rgba } from "@hardline/core/raster/types";
import { type ColourChange } from "@hardline/core/recolour/change";
import { proposeRange } from "@hardline/core/recolour/proposeRange";
import { colourAt } from "./colourAt";

export type FoundRange = Pick<ColourChange, "from" | "tolerance" | "softness">;

/** The colour of the art at a pixel, and how far its range goes in it; null where there is no art. */
export function rangeAt(picture: Rgba, x: number, y: number): FoundRange | null {
  const from = colourAt(picture, x, y);
  return from ? { from, ...proposeRange(picture, from) } : null;
}
