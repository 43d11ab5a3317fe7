import { LIMITS, type Limits } from "../inspect/limits";
import { LEAST_DPI, LEAST_RULING, MOST_DPI, MOST_RULING } from "../maths/units";
import { type Material } from "./material";

type NumberName = { [K in keyof Material]-?: Material[K] extends number ? K : never }[keyof Material];

/** A number that is written down of a material. */
export interface MaterialNumber {
  readonly name: NumberName;
  /** Before its field. */
  readonly words: string;
  readonly unit: "dots/in" | "lines/in" | "mm" | "";
  readonly decimals: number;
  readonly least: number;
  readonly most: number;
}

/** A length that a route's check of the same name is set to. */
function length(name: NumberName & keyof Limits, words: string): MaterialNumber {
  const { least, most, decimals } = LIMITS.find((limit) => limit.name === name)!;
  return { name, words, unit: "mm", decimals, least, most };
}

/** Every number of a material, in the order in which a form asks for them, with what each may be. */
export const MATERIAL_NUMBERS: readonly MaterialNumber[] = [
  {
    ...{ name: "dotsPerInch", words: "Dots per inch", unit: "dots/in", decimals: 2 },
    ...{ least: LEAST_DPI, most: MOST_DPI },
  },
  length("dotMm", "Smallest mark"),
  length("gapMm", "Smallest gap"),
  length("strokeMm", "Thinnest stroke"),
  {
    ...{ name: "linesPerInch", words: "Screen ruling", unit: "lines/in", decimals: 1 },
    ...{ least: LEAST_RULING, most: MOST_RULING },
  },
  { name: "spreadMm", words: "A mark spreads by", unit: "mm", decimals: 3, least: 0, most: 1 },
  { name: "grainStrength", words: "Strength of the grain", unit: "", decimals: 2, least: 0, most: 1 },
];
