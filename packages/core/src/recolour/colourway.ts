import { z } from "zod";
import { numberOf } from "../colour/oklab";
import { colourChange, hexColour, MOST_CHANGES } from "./change";

/** A way of making the same art: on other cloth, in other inks, with ranges of its colours changed. */
export const colourway = z.strictObject({
  name: z.string().trim().min(1).max(40),
  /** Colour of the cloth, or of whatever it is printed on. */
  garment: hexColour,
  /** Of films: colours of inks by name; an ink that is not named keeps its own. */
  colours: z.record(z.string(), hexColour).default({}),
  /** Of art that is not parted into inks: what its colours become, in order. */
  recolour: z.array(colourChange).max(MOST_CHANGES).default([]),
  /** It is handed over, and stands on what the customer sees. */
  shown: z.boolean().default(true),
});
export type Colourway = z.output<typeof colourway>;

/** The most colourways of a route. */
export const MOST_WAYS = 24;

export const colourways = z
  .array(colourway)
  .max(MOST_WAYS)
  .superRefine((ways, context) => {
    ways.forEach(({ name }, k) => {
      if (ways.findIndex((other) => wayWord(other.name) === wayWord(name)) < k)
        context.addIssue({
          code: "custom",
          path: [k, "name"],
          message: "a name that no other colourway has",
        });
    });
  });

/** A colourway's name as files are named: small letters, digits and hyphens. */
export const wayWord = (name: string): string =>
  name
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-|-$/g, "") || "way";

/** How films are looked at in a colourway. */
export const wayView = ({ garment, colours }: Pick<Colourway, "garment" | "colours">) => ({
  garment: numberOf(garment),
  colours: Object.fromEntries(Object.entries(colours).map(([name, hex]) => [name, numberOf(hex)])),
});
