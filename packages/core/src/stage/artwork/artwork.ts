import { z } from "zod";
import { defineStage } from "../stage";

/** The image as the customer supplied it. It has no settings: it is never altered. */
export const artwork = defineStage({
  id: "artwork",
  title: "Artwork",
  settings: z.strictObject({}),

  *run(art) {
    return art;
  },
  summary: () => "as supplied",
});
