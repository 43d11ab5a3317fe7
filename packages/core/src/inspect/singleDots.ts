import { rowsAtOnce, type Work } from "../maths/work";
import { unpackRow } from "../raster/bits";
import { MM_PER_INCH } from "../maths/units";
import { type Finish } from "../result/finish";
import { type Dots } from "./dots";
import { figure, grouped, MOST_PLACES, placeOf, type Check, type Place } from "./check";
import { type Limits } from "./limits";

/**
 * Marks with no mark among their eight neighbours. They matter when one dot of this resolution is finer
 * than what the process marks for sure.
 */
export function* checkSingleDots({ bits }: Dots, finish: Finish, limits: Limits): Work<Check> {
  const { width, height } = bits;
  const blank = () => new Uint8Array(width + 2);
  let [above, row, below] = [blank(), blank(), blank()];
  const places: Place[] = [];
  let count = 0;
  unpackRow(bits, 0, below.subarray(1));
  const atOnce = rowsAtOnce(width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    [above, row, below] = [row, below, above];
    if (y + 1 < height) unpackRow(bits, y + 1, below.subarray(1));
    else below.fill(0);
    for (let x = 1; x <= width; x++) {
      if (row[x] === 0 || row[x - 1] + row[x + 1] !== 0) continue;
      const around = above[x - 1] + above[x] + above[x + 1] + below[x - 1] + below[x] + below[x + 1];
      if (around !== 0) continue;
      count++;
      if (places.length < MOST_PLACES) places.push(placeOf({ x: x - 1, y, width: 1, height: 1 }, finish));
    }
  }
  const dotMm = MM_PER_INCH / finish.dotsPerInch;
  const tooFine = dotMm < limits.dotMm - 1e-9;
  const many = grouped(count);
  return {
    id: "singleDots",
    level: count > 0 && tooFine ? "look" : "fine",
    value: count,
    unit: "dots",
    text: count === 0 ? "No single dots" : `${many} single ${count === 1 ? "dot" : "dots"}`,
    detail:
      tooFine && count > 0
        ? `${figure(dotMm, 3)} mm each, under ${figure(limits.dotMm, 2)} mm: may not mark.`
        : `${figure(dotMm, 3)} mm each; the process holds ${figure(limits.dotMm, 2)} mm.`,
    places,
  };
}
