import { dotsPerMm } from "../../maths/units";
import { inStretches, workSlice, type Work } from "../../maths/work";
import { componentsOf } from "../../region/components";
import { type Finish } from "../../result/finish";
import { figure, firstOf, MOST_PLACES, placeOf, type Check } from "../check";

const HALF = 128;
const LEAST_MM2 = 0.02;

/**
 * Gaps that open between inks that meet: where a plate moved by as much as the press lets it, to any of four sides, leaves
 * a place bare that it covered alone, with another ink beside it.
 *
 * @param planes  greys of the inks that are seen, 255 = bare
 */
export function* checkOpenings(
  planes: readonly Uint8Array[],
  finish: Finish,
  registerMm: number,
): Work<Check> {
  const { widthPx: width, heightPx: height } = finish;
  const perMm = dotsPerMm(finish);
  const by = Math.round(registerMm * perMm);
  const count = width * height;
  const opened = new Uint8Array(count);
  const inked = new Uint8Array(count); // number of the one ink that covers, from 1; 0 none, 255 several
  yield* workSlice(
    inStretches(count, (from, to) => {
      for (let k = 0; k < planes.length; k++) {
        const plane = planes[k];
        for (let i = from; i < to; i++) if (plane[i] < HALF) inked[i] = inked[i] === 0 ? k + 1 : 255;
      }
    }),
    0,
    0.3,
  );
  const rowsAtOnce = Math.max(1, Math.floor(200_000 / width));
  if (by > 0)
    for (let y = 0; y < height; y++) {
      if (y % rowsAtOnce === 0) yield 0.3 + (0.5 * y) / height;
      for (let x = 0, i = y * width; x < width; x++, i++) {
        const own = inked[i];
        if (own === 0 || own === 255) continue;
        const plane = planes[own - 1];
        // Where the plate comes from another side's colour, and was not there, the cloth shows.
        if (
          (x >= by && isOther(inked[i - by], own) && plane[i - by] >= HALF) ||
          (x + by < width && isOther(inked[i + by], own) && plane[i + by] >= HALF) ||
          (y >= by && isOther(inked[i - by * width], own) && plane[i - by * width] >= HALF) ||
          (y + by < height && isOther(inked[i + by * width], own) && plane[i + by * width] >= HALF)
        )
          opened[i] = 1;
      }
    }
  const rowAt = (y: number, row: Uint8Array): void => row.set(opened.subarray(y * width, (y + 1) * width));
  const smallest = Math.max(1, Math.ceil(LEAST_MM2 * perMm * perMm));
  const found = yield* workSlice(componentsOf(width, height, rowAt, smallest), 0.8, 1);
  const mm2 = found.reduce((sum, c) => sum + c.pixels, 0) / perMm / perMm;
  return {
    id: "openings",
    level: found.length > 0 ? "look" : "fine",
    value: Math.round(mm2 * 100) / 100,
    unit: "mm²",
    text: found.length > 0 ? "Gaps between inks may open" : "No gaps open between inks",
    detail:
      found.length > 0
        ? `${figure(mm2)} mm² of cloth or white would show where plates are ${figure(registerMm, 2)} mm off. Trap by ${figure(registerMm, 2)} mm.`
        : `None where plates are ${figure(registerMm, 2)} mm off.`,
    places: firstOf(found, MOST_PLACES, (a, b) => b.pixels - a.pixels).map((c) => placeOf(c, finish)),
  };
}

/** Covered by some other ink alone. */
const isOther = (label: number, own: number): boolean => label !== 0 && label !== own;
