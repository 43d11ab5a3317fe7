import { z } from "zod";
import { type Work } from "../../maths/work";
import { isTurned, turnedSize, type Turn } from "../../turn/turn";
import { type Rgba } from "../../raster/types";
import { turned } from "../../turn/turned";
import { asItIs } from "../../result/finish";
import { type Picture } from "../../result/result";
import { defineStage } from "../stage";

/** The picture as it is read, turned as Size has it. */
export function* uprightOf(picture: Rgba, turn: Turn): Work<Picture> {
  const colour = isTurned(turn) ? yield* turned(picture, turn) : picture;
  return { kind: "picture", ...asItIs(colour), colour, cleared: null };
}

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
    return doing(uprightOf(await source.pixels(asDrawn), turn));
  },
  summary: () => "as supplied",
});
