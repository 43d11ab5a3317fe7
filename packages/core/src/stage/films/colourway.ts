import { numberOf } from "../../colour/oklab";
import { type Colourway } from "./settings";

/** How a colourway is looked at. */
export const lookOf = ({ garment, colours }: Pick<Colourway, "garment" | "colours">) => ({
  garment: numberOf(garment),
  colours: Object.fromEntries(Object.entries(colours).map(([name, hex]) => [name, numberOf(hex)])),
});
