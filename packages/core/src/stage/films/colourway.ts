import { numberOf } from "../../colour/oklab";
import { type Colourway } from "./settings";

/** How a colourway is looked at. */
export const wayView = ({ garment, colours }: Pick<Colourway, "garment" | "colours">) => ({
  garment: numberOf(garment),
  colours: Object.fromEntries(Object.entries(colours).map(([name, hex]) => [name, numberOf(hex)])),
});
