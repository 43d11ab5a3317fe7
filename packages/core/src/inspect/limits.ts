import { z } from "zod";
import { LEAST_DPI, MOST_DPI } from "../maths/units";

/** One thing that the shop holds results against. */
interface Limit {
  readonly name: string;
  /** In a word or two, before its field. */
  readonly words: string;
  /** What it says of a result, as a sentence begins. */
  readonly says: string;
  readonly least: number;
  readonly most: number;
  readonly unit: "mm" | "mm²" | "dots/in";
  readonly decimals: number;
  /** Where a route says nothing. */
  readonly usual: number | null;
  /** It may be left open: nothing is then held against it. */
  readonly open: boolean;
}

const limit = <const L extends Omit<Limit, "open">>(one: L) => ({ ...one, open: false }) as const;
const openLimit = <const L extends Omit<Limit, "open">>(one: L) => ({ ...one, open: true }) as const;

/**
 * Every limit there is. A new one is an entry here, and a stage that lists it among its own. The usual figures
 * are where a shop begins: a material's own come of its wedge, a press's of what it keeps register by.
 */
export const LIMITS = [
  limit({
    ...{ name: "areaMm2", words: "Areas from", says: "Smallest area that is pointed out" },
    ...{ least: 0.1, most: 10000, unit: "mm²", decimals: 1, usual: 4 },
  }),
  limit({
    ...{ name: "dotMm", words: "Dots under", says: "Smallest dot the process marks" },
    ...{ least: 0.005, most: 5, unit: "mm", decimals: 3, usual: 0.1 },
  }),
  limit({
    ...{ name: "gapMm", words: "Gaps under", says: "Smallest gap that stays open" },
    ...{ least: 0.005, most: 5, unit: "mm", decimals: 3, usual: 0.1 },
  }),
  limit({
    ...{ name: "strokeMm", words: "Strokes under", says: "Thinnest stroke that holds" },
    ...{ least: 0.005, most: 5, unit: "mm", decimals: 3, usual: 0.1 },
  }),
  limit({
    ...{ name: "strayMm2", words: "Stray under", says: "Islands smaller than this are stray" },
    ...{ least: 0, most: 1000, unit: "mm²", decimals: 2, usual: 1 },
  }),
  openLimit({
    ...{ name: "machineDotsPerInch", words: "Machine at", says: "Dots per inch that the machine runs at" },
    ...{ least: LEAST_DPI, most: MOST_DPI, unit: "dots/in", decimals: 1, usual: null },
  }),
  limit({
    ...{ name: "neckMm", words: "Necks under", says: "Thinnest neck the material bears" },
    ...{ least: 0, most: 50, unit: "mm", decimals: 2, usual: 1 },
  }),
  limit({
    ...{ name: "cornerMm", words: "Bends under", says: "Tightest bend that blade or beam follows" },
    ...{ least: 0, most: 20, unit: "mm", decimals: 2, usual: 0.1 },
  }),
  limit({
    ...{ name: "holeMm2", words: "Holes under", says: "Smallest hole that is cut cleanly" },
    ...{ least: 0, most: 10000, unit: "mm²", decimals: 1, usual: 1 },
  }),
  openLimit({
    ...{ name: "sheetMm", words: "Cut up to", says: "Longest cut that the machine takes" },
    ...{ least: 10, most: 100000, unit: "mm", decimals: 1, usual: null },
  }),
  limit({
    ...{ name: "registerMm", words: "Plates off by" },
    says: "How far plates may come to lie off each other on the press",
    ...{ least: 0, most: 5, unit: "mm", decimals: 2, usual: 0.25 },
  }),
  openLimit({
    ...{ name: "filmMm", words: "Film up to", says: "Widest film that the printer takes" },
    ...{ least: 20, most: 100000, unit: "mm", decimals: 1, usual: 330.2 },
  }),
] as const;

type Known = (typeof LIMITS)[number];
/** What the shop holds results against, by name; null where it is left open. */
export type Limits = {
  readonly [L in Known as L["name"]]: L["open"] extends true ? number | null : number;
};

const rangeOf = ({ least, most, usual, open }: Limit): z.ZodType => {
  const range = z.number().min(least).max(most);
  return open ? range.nullable().default(usual) : range.default(usual!);
};

export const limitsSchema = z.strictObject(
  Object.fromEntries(LIMITS.map((one) => [one.name, rangeOf(one)])),
) as unknown as z.ZodType<Limits, Partial<Limits>>;

/** What results are held against where a route says nothing. */
export const USUAL_LIMITS: Limits = limitsSchema.parse({});
