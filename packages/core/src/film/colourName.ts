import { labOfHex } from "./glareLab";
import { degreesOf } from "../maths/steady";

/** Hues of OKLab in degrees, up to which a name reaches. */
const HUES: readonly (readonly [upTo: number, name: string])[] = [
  [18, "pink"],
  [42, "red"],
  [75, "orange"],
  [115, "yellow"],
  [165, "green"],
  [225, "teal"],
  [280, "blue"],
  [325, "purple"],
  [360, "pink"],
];

/** A plain word for a colour, fit for the name of a film. @param hex  #rrggbb */
export function colourName(hex: string): string {
  const { l, a, b } = labOfHex(hex);
  const chroma = Math.sqrt(a * a + b * b);
  if (chroma < 3.5)
    return l > 93 ? "white" : l < 32 ? "black" : l > 76 ? "pale grey" : l < 50 ? "dark grey" : "grey";
  const hue = degreesOf(b, a);
  const name = HUES.find(([upTo]) => hue < upTo)![1];
  if (name === "blue" && l < 38) return "navy";
  if ((name === "orange" || name === "red") && l < 55 && chroma < 13) return "brown";
  if (l > 88 && chroma < 7) return "cream";
  return name;
}

/** A name that none of the others has: with a number where the word is taken. */
export function freeName(word: string, taken: readonly string[]): string {
  if (!taken.includes(word)) return word;
  let k = 2;
  while (taken.includes(`${word} ${k}`)) k++;
  return `${word} ${k}`;
}
