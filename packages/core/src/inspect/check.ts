import { MM_PER_INCH } from "../maths/units";
import { type Finish } from "../result/finish";
import { type Rect } from "../raster/types";

export type Level = "fine" | "look" | "stop";

/** A place on the finished piece, in millimetres from its top left. */
export interface Place {
  readonly xMm: number;
  readonly yMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** A measured rule. `value` and `unit` are the measured figure; `text` and `detail` say it in words. */
export interface Check {
  readonly id: string;
  readonly level: Level;
  readonly value: number;
  readonly unit: string;
  readonly text: string;
  readonly detail: string;
  /** Where, worst first; at most `MOST_PLACES`. */
  readonly places: readonly Place[];
  /** Settings of the stage that mend it, where that is safe to do without a look. */
  readonly repair?: { readonly label: string; readonly change: object };
  /** Settings that mend one place alone, in the order of the first of the places. */
  readonly repairOne?: { readonly label: string; readonly changes: readonly object[] };
}

export const MOST_PLACES = 50;

/** How much of a plate is marked, and the ink that it takes. */
export interface PlateReading {
  readonly name: string;
  /** 0xrrggbb */
  readonly colour: number;
  readonly percent: number;
  readonly mm2: number;
  /** Of ink, for one piece. */
  readonly millilitres: number;
}

export type Readings = Readonly<
  Record<string, number | string | readonly number[] | readonly PlateReading[]>
>;

/** How many checks want a look, and how many a stop. */
export function findingsOf(checks: readonly Check[]): { readonly looks: number; readonly stops: number } {
  const count = (level: Level): number => checks.filter((c) => c.level === level).length;
  return { looks: count("look"), stops: count("stop") };
}

const RANK: Record<Level, number> = { fine: 0, look: 1, stop: 2 };

/** Below 0 when the first of two levels is the graver one. */
export const graverFirst = (a: Level, b: Level): number => RANK[b] - RANK[a];

/** The first of a list in some order, without ordering all of it: a photograph can have a million specks. */
export function firstOf<T>(list: readonly T[], count: number, order: (a: T, b: T) => number): T[] {
  const first: T[] = [];
  for (const item of list) {
    if (first.length === count && order(item, first[count - 1]) >= 0) continue;
    let at = first.length;
    while (at > 0 && order(item, first[at - 1]) < 0) at--;
    first.splice(at, 0, item);
    if (first.length > count) first.pop();
  }
  return first;
}

const round = (mm: number): number => Math.round(mm * 1000) / 1000;

export function placeOf({ x, y, width, height }: Rect, { dotsPerInch }: Finish): Place {
  const mm = MM_PER_INCH / dotsPerInch;
  return { xMm: round(x * mm), yMm: round(y * mm), widthMm: round(width * mm), heightMm: round(height * mm) };
}

/** A box in mm of the piece, as a place. */
export const placeInMm = ({ x, y, width, height }: Rect): Place => ({
  xMm: x,
  yMm: y,
  widthMm: width,
  heightMm: height,
});

/** A number with as many decimals as a person needs, without trailing zeros. */
export function figure(value: number, decimals = 1): string {
  return String(Number(value.toFixed(decimals)));
}

/** Digits in threes, with thin spaces, as the trade prints quantities. */
export function grouped(n: number): string {
  return String(n).replace(/\B(?=(\d{3})+$)/g, "\u2009");
}
