import { inStretches, workSlice, rowsAtOnce, type Work } from "../maths/work";
import { TINT } from "../raster/types";
import { componentsOf } from "../region/components";
import { squaredDistanceTo } from "../region/distance";
import { dotsPerMm } from "../maths/units";
import { type Picture } from "../result/result";
import { figure, firstOf, MOST_PLACES, placeOf, type Check, type Readings } from "./check";
import { type Limits } from "./limits";

/** A soft edge may run out over so many millimetres. */
const SOFT_MM = 0.5;
const SOFT_DOTS = 4;
/** Further out, so many steps uphill must lead to the art. */
const SLOPE = 16;
/** A step goes so far, over the bumps of grain. */
const STRIDE = 3;
/** Faint pixels followed uphill between two slices. */
const FOLLOWED_AT_ONCE = 8192;

/** Whether a faint pixel is the end of a soft edge: going on to the strongest pixel around leads up to the art. */
function runsOut(data: Uint8Array, width: number, height: number, i: number): boolean {
  for (let steps = 0; steps < SLOPE; steps++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const [left, right] = [Math.max(0, x - STRIDE), Math.min(width - 1, x + STRIDE)];
    let highest = i;
    for (let v = Math.max(0, y - STRIDE); v <= Math.min(height - 1, y + STRIDE); v++)
      for (let j = v * width + left; j <= v * width + right; j++)
        if (data[j * 4 + 3] > data[highest * 4 + 3]) highest = j;
    if (data[highest * 4 + 3] >= TINT) return true;
    if (highest === i) return false;
    i = highest;
  }
  return false;
}

/** Stray islands below `limits.strayMm2`, and faint tint outside the art, from one step of cover (0.4 %) up. */
export function* checkLeftovers(
  art: Picture,
  limits: Limits,
): Work<{ islands: Check; tint: Check; readings: Readings }> {
  const { width, height, data } = art.colour;
  // However faint, what the ground was seen through is art.
  const through = art.cleared?.through ?? [];
  const perMm = dotsPerMm(art.finish);
  const solid = new Uint8Array(width * height);
  let [kept, clear] = [0, 0];
  const looked = inStretches(solid.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const alpha = data[i * 4 + 3];
      solid[i] = alpha >= TINT || (alpha > 0 && through.some((p) => p[i])) ? 1 : 0;
      kept += solid[i];
      if (alpha === 0) clear++;
    }
  });
  yield* workSlice(looked, 0, 0.1);
  const rowOf = (plane: Uint8Array) => (y: number, row: Uint8Array) =>
    row.set(plane.subarray(y * width, (y + 1) * width));
  const all = yield* workSlice(componentsOf(width, height, rowOf(solid)), 0.1, 0.4);
  const largest = limits.strayMm2 * perMm * perMm;
  const stray = all.filter((c) => c.pixels < largest && all.length > 1);

  const reach = Math.max(SOFT_DOTS, SOFT_MM * perMm);
  const near = yield* workSlice(squaredDistanceTo(solid, width, height), 0.4, 0.8);
  const faint = new Uint8Array(width * height);
  let [count, least, most, followed] = [0, TINT, 0, 0];
  const atOnce = rowsAtOnce(width) * width;
  for (let i = 0; i < faint.length; i++) {
    if (i % atOnce === 0) yield 0.8 + (0.1 * i) / faint.length;
    const alpha = data[i * 4 + 3];
    if (alpha === 0 || alpha >= TINT || near[i] <= reach * reach) continue;
    if (++followed % FOLLOWED_AT_ONCE === 0) yield 0.8 + (0.1 * i) / faint.length;
    if (runsOut(data, width, height, i)) continue;
    faint[i] = 1;
    count++;
    if (alpha > most) most = alpha;
    if (alpha < least) least = alpha;
  }
  const tints = yield* workSlice(componentsOf(width, height, rowOf(faint)), 0.9, 1);
  const bySize = (a: { pixels: number }, b: { pixels: number }): number => b.pixels - a.pixels;
  const placesOf = (list: typeof all) =>
    firstOf(list, MOST_PLACES, bySize).map((c) => placeOf(c, art.finish));
  const mm2 = (pixels: number): string => figure(pixels / perMm / perMm, 2);
  const percent = (alpha: number): string => figure((100 * alpha) / 255, 1);
  return {
    islands: {
      id: "strayIslands",
      level: stray.length > 0 ? "look" : "fine",
      value: stray.length,
      unit: "islands",
      text:
        stray.length === 0
          ? "No stray islands"
          : `${stray.length} stray ${stray.length === 1 ? "island" : "islands"}`,
      detail:
        stray.length === 0
          ? `None under ${figure(limits.strayMm2, 2)} mm².`
          : `Under ${figure(limits.strayMm2, 2)} mm²; the largest ${mm2(firstOf(stray, 1, bySize)[0].pixels)} mm².`,
      places: placesOf(stray),
    },
    tint: {
      id: "faintTint",
      level: count > 0 ? "look" : "fine",
      value: Math.round((10000 * count) / (width * height)) / 100,
      unit: "%",
      text: count === 0 ? "No faint tint" : "Faint tint outside the art",
      detail:
        count === 0
          ? "Where nothing should be, nothing is."
          : `${mm2(count)} mm², ${percent(least)} to ${percent(most)} % strong. It prints as a haze.`,
      places: placesOf(tints),
    },
    readings: {
      keptPercent: Math.round((10000 * kept) / solid.length) / 100,
      clearPercent: Math.round((10000 * clear) / solid.length) / 100,
    },
  };
}
