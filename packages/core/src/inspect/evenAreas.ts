import { workSlice, type Work } from "../maths/work";
import { componentsOf, type Component } from "../region/components";
import { openedRows } from "../region/opening";
import { unpackRow } from "../raster/bits";
import { MM_PER_INCH } from "../maths/units";
import { type Finish } from "../result/finish";
import { type Dots } from "./dots";
import { figure, MOST_PLACES, placeOf, type Check } from "./check";
import { type Limits } from "./limits";

/**
 * Areas of the art without a single dot, or without a single gap, of at least `limits.areaMm2`.
 *
 * A pixel belongs to such an area when a square of a quarter of that area, all of one kind, fits over it; so
 * the gaps between ordinary dots do not add up to an area, and a thin bare strip is not one.
 *
 * @param kind      "bare": no dot; "solid": no gap
 * @param lineWork  drawings are bare and solid by intent, so what is found is told but not held against them
 */
export function* checkEvenAreas(
  kind: "bare" | "solid",
  dots: Dots,
  finish: Finish,
  limits: Limits,
  lineWork = false,
): Work<Check> {
  const areas = yield* evenAreas(kind === "solid" ? 1 : 0, dots, finish, limits.areaMm2);
  const dotMm2 = (MM_PER_INCH / finish.dotsPerInch) ** 2;
  const sizes = areas.map((a) => a.pixels * dotMm2);
  const one = areas.length === 1;
  const what = kind === "bare" ? (one ? "holds no dots" : "hold no dots") : one ? "is solid" : "are solid";
  const listed = sizes
    .slice(0, 2)
    .map((s) => figure(s))
    .join(one ? "" : " and ");
  const more = areas.length > 2 ? " the largest" : "";
  const effect = kind === "bare" ? "may shine or wash out" : "may clog or char";
  const advice = lineWork ? "As line work has them." : `${one ? "It" : "They"} ${effect}.`;
  return {
    id: kind === "bare" ? "bareAreas" : "solidAreas",
    level: areas.length && !lineWork ? "look" : "fine",
    value: areas.length,
    unit: "areas",
    text: areas.length ? `${areas.length} ${one ? "area" : "areas"} ${what}` : `No ${kind} areas`,
    detail: areas.length
      ? `${listed} mm²${more}. ${advice}`
      : `None of ${figure(limits.areaMm2, 2)} mm² or more.`,
    places: areas.slice(0, MOST_PLACES).map((a) => placeOf(a, finish)),
  };
}

/** Even areas of at least so much, largest first. */
export function* evenAreas(
  value: 0 | 1,
  { bits, cover }: Dots,
  finish: Finish,
  areaMm2: number,
): Work<Component[]> {
  const { width, height } = bits;
  const own = (y: number, row: Uint8Array) => {
    unpackRow(bits, y, row);
    if (value === 0) for (let x = 0; x < width; x++) row[x] ^= 1;
    if (cover) for (let x = 0, i = y * width; x < width; x++, i++) if (cover[i] === 0) row[x] = 0;
  };
  const perMm = finish.dotsPerInch / MM_PER_INCH;
  const side = Math.max(2, Math.round((Math.sqrt(areaMm2) / 2) * perMm));
  const wide = yield* workSlice(openedRows(own, width, height, side), 0, 0.6);
  const smallest = Math.ceil(areaMm2 * perMm * perMm);
  const found = yield* workSlice(componentsOf(width, height, wide, smallest), 0.6, 1);
  return found.sort((a, b) => b.pixels - a.pixels || a.y - b.y || a.x - b.x);
}
