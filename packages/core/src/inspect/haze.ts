import { inStretches, workSlice, type Work } from "../maths/work";
import { dotsPerMm } from "../maths/units";
import { type Cover, type Gray } from "../raster/types";
import { componentsOf } from "../region/components";
import { type Finish } from "../result/finish";
import { figure, firstOf, MOST_PLACES, placeOf, type Check } from "./check";
import { type Limits } from "./limits";

/** Grey from which on it is next to white: up to four percent of black. */
const NEARLY = 245;

/**
 * A faint tint that runs up to the picture's edge, from half a percent of black: what should be bare comes out as a
 * haze of dots.
 *
 * @param table  what each grey is turned into on the way to dots, 255 = bare
 * @param cover  where something was cleared, the outside is bare by itself
 */
export function* checkHaze(
  gray: Gray,
  table: Uint8Array,
  cover: Cover,
  finish: Finish,
  limits: Limits,
): Work<Check> {
  const fine = (detail: string): Check => ({
    id: "haze",
    level: "fine",
    value: 0,
    unit: "%",
    text: "No tint on the background",
    detail,
    places: [],
  });
  if (cover) return fine("Outside the art nothing is marked.");
  const { width, height, data } = gray;
  const faint = table.map((g) => +(g >= NEARLY && g < 255));
  const rowAt = (y: number, row: Uint8Array) => {
    for (let x = 0, i = y * width; x < width; x++, i++) row[x] = faint[data[i]];
  };
  const perMm = dotsPerMm(finish);
  const smallest = Math.ceil(limits.areaMm2 * perMm * perMm);
  const atEdge = (yield* workSlice(componentsOf(width, height, rowAt, smallest), 0, 0.9)).filter(
    (c) => c.x === 0 || c.y === 0 || c.x + c.width === width || c.y + c.height === height,
  );
  if (atEdge.length === 0) return fine("Where nothing should be, nothing is.");
  let [darkest, sum] = [255, 0];
  yield* workSlice(
    inStretches(data.length, (from, to) => {
      for (let i = from; i < to; i++)
        if (faint[data[i]]) {
          sum++;
          if (table[data[i]] < darkest) darkest = table[data[i]];
        }
    }),
    0.9,
    1,
  );
  const percent = (100 * (255 - darkest)) / 255;
  return {
    id: "haze",
    level: "look",
    value: Math.round(percent * 10) / 10,
    unit: "%",
    text: "Tint on the background",
    detail: `Up to ${figure(percent)} % over ${figure(sum / perMm / perMm, 0)} mm²: a haze of dots. Set Tone's white to ${figure(100 - percent - 0.5, 0)} % or less.`,
    places: firstOf(atEdge, MOST_PLACES, (a, b) => b.pixels - a.pixels).map((c) => placeOf(c, finish)),
  };
}
