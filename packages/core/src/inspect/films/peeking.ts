import { dotsPerMm } from "../../maths/units";
import { inStretches, workSlice, type Work } from "../../maths/work";
import { componentsOf } from "../../region/components";
import { NOWHERE, squaredDistanceTo } from "../../region/distance";
import { type Finish } from "../../result/finish";
import { figure, firstOf, MOST_PLACES, placeOf, type Check } from "../check";

/** Plates print from half on where shapes are compared. */
const HALF = 128;
/** Less than this of white in one place is not seen. */
const LEAST_MM2 = 0.02;

/**
 * White that is not covered, or would not be if colour and white came to lie off each other by as much as the press
 * lets them: white nearer than that to where nothing covers it. White that is to be seen as white is left out.
 *
 * @param white       greys of the underbase, 255 = bare
 * @param over        of the inks over it
 * @param seen        of what is to be white: where the art itself is
 * @param registerMm  how far plates may be off
 */
export function* checkPeeking(
  white: Uint8Array,
  over: readonly Uint8Array[],
  seen: Uint8Array | null,
  finish: Finish,
  registerMm: number,
): Work<{ readonly check: Check; readonly needMm: number }> {
  const { widthPx: width, heightPx: height } = finish;
  const perMm = dotsPerMm(finish);
  const bare = new Uint8Array(white.length);
  yield* workSlice(
    inStretches(white.length, (from, to) => {
      for (let i = from; i < to; i++) {
        let cover = seen ? 255 - seen[i] : 0;
        for (const plane of over) cover += 255 - plane[i];
        bare[i] = cover < HALF ? 1 : 0;
      }
    }),
    0,
    0.2,
  );
  const squared = yield* workSlice(squaredDistanceTo(bare, width, height), 0.2, 0.7);
  // An edge is half a pixel from the middles on either side of it.
  const reach = registerMm * perMm + 0.5;
  const least = reach * reach - 1e-6;
  let nearest = Infinity;
  const rowAt = (y: number, row: Uint8Array): void => {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const peeks = white[i] < HALF && squared[i] !== NOWHERE && squared[i] < least;
      row[x] = peeks && !(seen && seen[i] < HALF) ? 1 : 0;
      if (row[x] && squared[i] < nearest) nearest = squared[i];
    }
  };
  const smallest = Math.max(1, Math.ceil(LEAST_MM2 * perMm * perMm));
  const found = yield* workSlice(componentsOf(width, height, rowAt, smallest), 0.7, 1);
  const mm2 = found.reduce((sum, c) => sum + c.pixels, 0) / perMm / perMm;
  const inside = Math.max(0, Math.sqrt(nearest) - 0.5) / perMm;
  const needMm = found.length === 0 ? 0 : Math.ceil(20 * (registerMm - inside + 0.5 / perMm)) / 20;
  const bared = nearest === 0;
  const check: Check = {
    id: "whitePeeks",
    level: found.length === 0 ? "fine" : bared ? "stop" : "look",
    value: Math.round(mm2 * 100) / 100,
    unit: "mm²",
    text: found.length === 0 ? "White stays covered" : bared ? "White is not covered" : "White will peek out",
    detail:
      found.length === 0
        ? `Covered even where plates are ${figure(registerMm, 2)} mm off.`
        : `${figure(mm2, 2)} mm² ${bared ? "bare, or bared" : "bared"} where plates are ${figure(registerMm, 2)} mm off. Choke the white by ${figure(needMm, 2)} mm more.`,
    places: firstOf(found, MOST_PLACES, (a, b) => b.pixels - a.pixels).map((c) => placeOf(c, finish)),
  };
  return { check, needMm };
}
