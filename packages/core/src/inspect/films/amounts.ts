import { inStretches, workSlice, type Work } from "../../maths/work";
import { dotsPerMm, MM_PER_INCH } from "../../maths/units";
import { countMarks } from "../../raster/bits";
import { componentsOf } from "../../region/components";
import { type Plate } from "../../result/result";
import { type Finish } from "../../result/finish";
import { figure, firstOf, MOST_PLACES, placeOf, type Check } from "../check";

/** A pixel or two over the limit come of rounding. */
const ROUNDING = 2;
const LEAST_MM2 = 0.25;

/** All inks together, where they are most. @param planes  greys, 255 = bare; @param limit  percent */
export function* checkTotalInk(planes: readonly Uint8Array[], finish: Finish, limit: number): Work<Check> {
  const { widthPx: width, heightPx: height } = finish;
  const perMm = dotsPerMm(finish);
  const most = (limit * 255) / 100 + ROUNDING;
  const over = new Uint8Array(width * height);
  let highest = 0;
  yield* workSlice(
    inStretches(over.length, (from, to) => {
      for (let i = from; i < to; i++) {
        let sum = 0;
        for (const plane of planes) sum += 255 - plane[i];
        if (sum > highest) highest = sum;
        over[i] = sum > most ? 1 : 0;
      }
    }),
    0,
    0.6,
  );
  const rowAt = (y: number, row: Uint8Array): void => row.set(over.subarray(y * width, (y + 1) * width));
  const found = yield* workSlice(
    componentsOf(width, height, rowAt, Math.max(1, Math.ceil(LEAST_MM2 * perMm * perMm))),
    0.6,
    1,
  );
  const percent = (100 * highest) / 255;
  return {
    id: "totalInk",
    level: found.length > 0 ? "look" : "fine",
    value: Math.round(percent),
    unit: "%",
    text: found.length > 0 ? "More ink than the cloth takes" : "Ink within the limit",
    detail: `At most ${figure(percent, 0)} % of all inks together; ${figure(limit, 0)} % is allowed.`,
    places: firstOf(found, MOST_PLACES, (a, b) => b.pixels - a.pixels).map((c) => placeOf(c, finish)),
  };
}

/** Less of the film than this is hardly worth a screen. */
const NEARLY_EMPTY = 0.0005;
/** So much of two plates' marks in common, they are one. */
const NEARLY_EQUAL = 0.97;

/** Plates that hardly print, and pairs that print the same. */
export function* checkPlates(plates: readonly Plate[], finish: Finish): Work<Check> {
  const dots = finish.widthPx * finish.heightPx;
  const counts: number[] = [];
  for (const { bits } of plates) {
    counts.push(countMarks(bits));
    yield (0.3 * counts.length) / plates.length;
  }
  const empty = plates.filter((_, k) => counts[k] < NEARLY_EMPTY * dots).map((p) => p.name);
  const equal: string[] = [];
  for (let a = 0; a < plates.length; a++)
    for (let b = a + 1; b < plates.length; b++) {
      const [few, many] = [Math.min(counts[a], counts[b]), Math.max(counts[a], counts[b])];
      if (few < NEARLY_EMPTY * dots || few < NEARLY_EQUAL * many) continue;
      const both = yield* workSlice(commonMarks(plates[a], plates[b]), 0.3, 1);
      if (both >= NEARLY_EQUAL * (few + many - both)) equal.push(`${plates[a].name} and ${plates[b].name}`);
    }
  const found = empty.length + equal.length;
  const words = [
    empty.length > 0 && `Nearly nothing on ${empty.join(", ")}.`,
    equal.length > 0 && `${equal.join("; ")} print nearly the same.`,
  ];
  return {
    id: "plates",
    level: found > 0 ? "look" : "fine",
    value: found,
    unit: "plates",
    text: found > 0 ? "Films that may not be needed" : "Every film is needed",
    detail: found > 0 ? words.filter(Boolean).join(" ") : "None is nearly empty, no two are nearly equal.",
    places: [],
  };
}

function* commonMarks({ bits: a }: Plate, { bits: b }: Plate): Work<number> {
  const both = new Uint8Array(a.data.length);
  yield* inStretches(both.length, (from, to) => {
    for (let i = from; i < to; i++) both[i] = a.data[i] & b.data[i];
  });
  return countMarks({ ...a, data: both });
}

/** Whether the film, with its margin, fits the printer. @param mostMm  null when not known */
export function checkFilmWidth(finish: Finish, marginMm: number, mostMm: number | null): Check[] {
  if (mostMm === null) return [];
  const own = Math.min(finish.widthMm, finish.heightMm) + 2 * marginMm;
  const fits = own <= mostMm + 1e-6;
  return [
    {
      id: "filmWidth",
      level: fits ? "fine" : "stop",
      value: Math.round(own * 10) / 10,
      unit: "mm",
      text: fits ? "Film fits the printer" : "Film wider than the printer",
      detail: `${figure(own)} mm with its margin; the printer takes ${figure(mostMm)} mm (${figure(mostMm / MM_PER_INCH)} in).`,
      places: [],
    },
  ];
}
