import { MM_PER_INCH } from "./units";

export type Unit = "mm" | "in";

/** Figures that a length keeps in inches, where it has no more in millimetres. */
const FIGURES = 3;
const NUMBER = "[−-]?\\d+(?:\\.\\d+)?";
/** One figure or several, then the unit: "0.25 mm", "12 × 30 mm", "1 to 50 mm", "4 mm²", "300 mm/s". */
const LENGTHS = new RegExp(
  `(${NUMBER})((?: (?:×|x|to|by|and|or) ${NUMBER})*) (mm(?:[²2](?![\\w]))?)(?![\\w])`,
  "g",
);

/** How many figures a number is written with, leading zeros apart. */
const figuresOf = (text: string): number => text.replace(/[−-]|^0\.0*|\./g, "").length;

function inInches(text: string, per: number): string {
  const value = Number(text.replace("−", "-")) / per;
  const shown = Number(value.toPrecision(Math.max(FIGURES, figuresOf(text))));
  return String(shown).replace("-", "−");
}

/**
 * Words with their lengths in the unit that is wished. What is written in millimetres everywhere ("0.25 mm", "12 × 30 mm",
 * "4 mm²", "300 mm/s") is read from the words, so that whoever writes them need not know who reads them.
 */
export function inUnit(text: string, unit: Unit): string {
  if (unit === "mm") return text;
  return text.replace(LENGTHS, (_, first: string, more: string, of: string) => {
    const per = of === "mm" ? MM_PER_INCH : MM_PER_INCH * MM_PER_INCH;
    const rest = more.replace(new RegExp(NUMBER, "g"), (n) => inInches(n, per));
    return `${inInches(first, per)}${rest} ${of.replace("mm", "in")}`;
  });
}
