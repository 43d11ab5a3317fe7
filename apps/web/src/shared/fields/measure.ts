import { type Unit } from "@hardline/core/maths/lengthWords";
import { MM_PER_INCH } from "@hardline/core/maths/units";

/** How a number is shown and typed: its unit, and how much of it there is in what is kept. */
export interface Measure {
  readonly unit: string;
  /** What is kept is what is shown times this. */
  readonly per: number;
  readonly decimals: number;
  /** It is a length, and may be typed with a unit of its own. */
  readonly isLength: boolean;
}

/** Inches need a decimal more to be about as fine as millimetres, and square ones three. */
const [FINER, FINER_AREA] = [1, 3];
const MOST_DECIMALS = 5;

/** How something that is kept in a unit is shown in the unit of length that is set: "mm", "mm²", "mm/s" and so on change. */
export function measureOf(unit: string, decimals: number, shown: Unit): Measure {
  const isLength = /^mm( |$)/.test(unit);
  const found = /^mm(²?)/.exec(unit);
  if (!found || shown === "mm") return { unit, per: 1, decimals, isLength };
  return {
    unit: unit.replace("mm", "in"),
    per: found[1] ? MM_PER_INCH * MM_PER_INCH : MM_PER_INCH,
    decimals: Math.min(MOST_DECIMALS, decimals + (found[1] ? FINER_AREA : FINER)),
    isLength,
  };
}

/** Units that a length may be typed with, in mm. */
const UNITS: Readonly<Record<string, number>> = {
  ...{ mm: 1, cm: 10, m: 1000, in: MM_PER_INCH, inch: MM_PER_INCH, inches: MM_PER_INCH },
  ...{ '"': MM_PER_INCH, "″": MM_PER_INCH, "”": MM_PER_INCH, "''": MM_PER_INCH },
  ...{ mil: MM_PER_INCH / 1000, thou: MM_PER_INCH / 1000, pt: MM_PER_INCH / 72 },
};

/** What is kept has no more than so many decimals: a product with 25.4 brings digits that nobody typed. */
const KEPT = 1e6;
const TYPED = /^([+−-]?)(?:(\d+)[ -]+)?(\d+)\/(\d+)$|^([+−-]?)(\d*[.,]?\d*)$/;

/** A number as people type it: a decimal point or comma, a fraction ("1/8"), a whole and a fraction ("1 1/8"); null for none. */
export function numberIn(text: string): number | null {
  const found = TYPED.exec(text.trim());
  if (!found) return null;
  const [, minus, whole, above, below, sign, plain] = found;
  if (above !== undefined) {
    const value = Number(whole ?? 0) + Number(above) / Number(below);
    return Number.isFinite(value) ? (minus && minus !== "+" ? -value : value) : null;
  }
  if (!/\d/.test(plain)) return null;
  const value = Number(plain.replace(",", "."));
  return Number.isFinite(value) ? (sign && sign !== "+" ? -value : value) : null;
}

/**
 * What was typed into a field, as it is kept; null where it is no such number. A length may have a unit of its own:
 * "3mm", "1/8 in", "0.065\"", "2,5 cm".
 * @param prefix  what stands before the number in the field
 */
export function readTyped(text: string, { unit, per, isLength }: Measure, prefix = ""): number | null {
  const own = text.trim().replace(prefix.trim(), "").trim();
  const [, number, named] = /^(.*?[\d.,])\s*(\/?[a-z"″”'%²°].*)?$/i.exec(own) ?? [];
  if (number === undefined) return null;
  const value = numberIn(number);
  if (value === null) return null;
  const kept = (factor: number): number => Math.round(value * factor * KEPT) / KEPT;
  if (named === undefined || named.trim().toLowerCase() === unit.toLowerCase()) return kept(per);
  if (!isLength) return null;
  const [of] = named.trim().toLowerCase().split(" ");
  return of in UNITS ? kept(UNITS[of]) : null;
}

/** What stands behind a number: inches are short, as on a rule. */
export const suffixOf = ({ unit }: Measure): string => (unit === "in" ? "″" : unit && ` ${unit}`);

/** A number that its decimals would put off by more than this share is shown with as many figures as it needs. */
const OFF = 0.02;

/** A kept number as it is shown, without its unit. */
export function shownNumber(value: number, { per, decimals }: Measure): string {
  const own = value / per;
  const plain = Number(own.toFixed(decimals));
  return String(
    per === 1 || Math.abs(plain - own) <= OFF * Math.abs(own) ? plain : Number(own.toPrecision(2)),
  );
}
