import { z } from "zod";
import { asItIs } from "../../result/finish";
import { type Picture } from "../../result/result";
import { defineStage } from "../stage";

/** The image as the customer supplied it. It has no settings: it is never altered. */
export const artwork = defineStage({
  id: "artwork",
  title: "Artwork",
  settings: z.strictObject({}),
  always: true,
  takes: () => ({}),
  gives: "picture",
  async read(source, { drawWidth }): Promise<Picture> {
    const colour = await source.pixels(drawWidth);
    return { kind: "picture", ...asItIs(colour), colour, cleared: null };
  },
  summary: () => "as supplied",
});
