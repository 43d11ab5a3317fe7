import { z } from "zod";
import { sideInDots } from "../inspect/smallMarks";
import { type Finish } from "../result/finish";
import { curveThrough, type CurvePoint } from "../tone/curve";

const MOST_SIDE = 64;
const MOST_SIDE_MM = 10;

/** A length in dots, or in millimetres. */
export type Side = number | { readonly mm: number };

function isSide(value: unknown): boolean {
  if (typeof value === "number") return Number.isInteger(value) && value >= 1 && value <= MOST_SIDE;
  if (typeof value !== "object" || value === null) return false;
  const { mm, ...more } = value as { mm?: unknown };
  return Object.keys(more).length === 0 && typeof mm === "number" && mm >= 0.005 && mm <= MOST_SIDE_MM;
}

const side = z
  .custom<Side>(isSide, {
    error: `a whole number of dots, 1 to ${MOST_SIDE}, or { "mm": 0.005 to ${MOST_SIDE_MM} }`,
  })
  .default(1);

const held = z.number().min(0).max(45).default(0);
const share = z.number().min(0).max(1);

/** How dots come out: pairs of the share of black that is made and the share that it looks like, both rising. */
export const gainPoints = z
  .array(z.tuple([share, share]))
  .min(2)
  .max(32)
  .superRefine((points, context) => {
    const complain = (path: number[], message: string): void =>
      context.addIssue({ code: "custom", path, message });
    points.forEach(([made, seen], i) => {
      if (i === 0 && (made !== 0 || seen !== 0))
        complain([0, made !== 0 ? 0 : 1], "0, for nothing stays nothing");
      else if (i > 0 && !(made > points[i - 1][0]))
        complain([i, 0], `above ${points[i - 1][0]}, the point before`);
      else if (i > 0 && !(seen > points[i - 1][1]))
        complain([i, 1], `above ${points[i - 1][1]}, the point before`);
      else if (i === points.length - 1 && (made !== 1 || seen !== 1))
        complain([i, made !== 1 ? 0 : 1], "1, for all stays all");
    });
  });

/** Settings of every way to make dots. */
export const dotSettings = {
  gain: gainPoints.default([
    [0, 0],
    [1, 1],
  ]),
  holdHighlight: held,
  holdShadow: held,
  smallestMark: side,
  smallestGap: side,
};

export interface DotSettings {
  readonly gain: readonly CurvePoint[];
  readonly holdHighlight: number;
  readonly holdShadow: number;
  readonly smallestMark: Side;
  readonly smallestGap: Side;
}

/** A length in whole dots. */
export const dotsAlong = (given: Side, finish: Finish): number =>
  typeof given === "number" ? given : sideInDots(given.mm, finish);

/** Steps in which the curve of the process is turned round. */
const STEPS = 1024;

/** What share of black has to be made so that it comes out as wanted. */
export function madeFor(gain: readonly CurvePoint[]): (wanted: number) => number {
  if (gain.every(([made, seen]) => made === seen)) return (wanted) => wanted;
  const curve = curveThrough(gain);
  const seen = Float64Array.from({ length: STEPS + 1 }, (_, k) => curve(k / STEPS));
  return (wanted) => {
    let [low, high] = [0, STEPS];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (seen[middle] <= wanted) low = middle;
      else high = middle;
    }
    const rise = seen[high] - seen[low];
    return Math.min(1, Math.max(0, (low + (rise > 0 ? (wanted - seen[low]) / rise : 0)) / STEPS));
  };
}

/**
 * What each of the 256 greys of the art is turned into on the way to dots: by the curve of the process turned round,
 * and then kept off empty and off solid.
 */
export function dotTable({ gain, holdHighlight, holdShadow }: DotSettings): Uint8Array {
  const made = madeFor(gain);
  const [least, most] = [holdHighlight / 100, 1 - holdShadow / 100];
  return Uint8Array.from({ length: 256 }, (_, g) =>
    Math.round(255 * (1 - Math.min(most, Math.max(least, made(1 - g / 255))))),
  );
}

export const isDotted = (settings: object): settings is DotSettings => "gain" in settings;

/** What of the dots differs from the usual, in words. */
export function dotWords({
  gain,
  holdHighlight,
  holdShadow,
  smallestMark,
  smallestGap,
}: DotSettings): string {
  const words: string[] = [];
  const said = (given: Side) => (typeof given === "number" ? `${given} dots` : `${given.mm} mm`);
  if (gain.some(([made, seen]) => made !== seen)) words.push("dot gain taken off");
  if (holdHighlight > 0 || holdShadow > 0) words.push(`held ${holdHighlight} to ${100 - holdShadow} %`);
  if (smallestMark !== 1) words.push(`marks from ${said(smallestMark)}`);
  if (smallestGap !== 1) words.push(`gaps from ${said(smallestGap)}`);
  return words.map((w) => `, ${w}`).join("");
}
