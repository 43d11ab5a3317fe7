import { z } from "zod";
import { isTurned, turnedSize } from "../../raster/turn";
import { turned } from "../../resample/turned";
import { asItIs } from "../../result/finish";
import { type Picture } from "../../result/result";
import { defineStage } from "../stage";

/** The image as the customer supplied it, turned as Size has it. It has no settings: what it shows is never altered. */
export const artwork = defineStage({
  id: "artwork",
  title: "Artwork",
  settings: z.strictObject({}),
  always: true,
  takes: () => ({}),
  gives: "picture",
  async read(source, { drawWidth, turn }, doing): Promise<Picture> {
    const { width } = turnedSize(source.facts, turn);
    // Shapes are drawn so large that they have the wanted width once they are turned.
    const asDrawn = drawWidth && Math.max(1, Math.round((drawWidth * source.facts.width) / width));
    const picture = await source.pixels(asDrawn);
    const colour = isTurned(turn) ? await doing(turned(picture, turn)) : picture;
    return { kind: "picture", ...asItIs(colour), colour, cleared: null };
  },
  summary: () => "as supplied",
});
