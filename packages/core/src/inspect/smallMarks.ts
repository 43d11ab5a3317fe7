import { workSlice, type Work } from "../maths/work";
import { dotsPerMm, mmOfDots } from "../maths/units";
import { unpackRow } from "../raster/bits";
import { componentsOf } from "../region/components";
import { openedRows } from "../region/opening";
import { type Finish } from "../result/finish";
import { figure, firstOf, grouped, MOST_PLACES, placeOf, type Check } from "./check";
import { type Dots } from "./dots";

/** Dots along the side of the smallest square that is at least so many millimetres wide. */
export const sideInDots = (mm: number, finish: Finish): number =>
  Math.max(1, Math.ceil(mm * dotsPerMm(finish) - 1e-6));

const WORDS = {
  mark: { id: "smallMarks", one: "mark", many: "marks", effect: "They may not hold." },
  gap: { id: "smallGaps", one: "gap", many: "gaps", effect: "They may fill in." },
} as const;

/**
 * Marks, or gaps between them, in which no square of the smallest size fits: what is joined, over edges and corners,
 * counts as one. Measured on the bits as they are handed over.
 *
 * @param smallestMm  side of the square
 */
export function* checkSmall(
  kind: "mark" | "gap",
  dots: Dots,
  finish: Finish,
  smallestMm: number,
): Work<Check> {
  const { id, one, many, effect } = WORDS[kind];
  const side = sideInDots(smallestMm, finish);
  const held = `The process holds ${figure(smallestMm, 3)} mm, ${side} × ${side} dots.`;
  const found = side === 1 ? [] : yield* smallParts(kind === "mark" ? 1 : 0, dots, side);
  const worst = firstOf(found, MOST_PLACES, (a, b) => a.pixels - b.pixels);
  return {
    id,
    level: found.length > 0 ? "look" : "fine",
    value: found.length,
    unit: many,
    text:
      found.length === 0
        ? `No ${one} too small`
        : `${grouped(found.length)} ${found.length === 1 ? one : many} too small`,
    detail:
      found.length === 0
        ? side === 1
          ? `One dot, ${figure(mmOfDots(1, finish), 3)} mm, is held.`
          : held
        : `${held} ${effect}`,
    places: worst.map((c) => placeOf(c, finish)),
  };
}

function* smallParts(value: 0 | 1, { bits, cover }: Dots, side: number) {
  const { width, height } = bits;
  const own = (y: number, row: Uint8Array) => {
    unpackRow(bits, y, row);
    if (value === 0) for (let x = 0; x < width; x++) row[x] ^= 1;
  };
  const wide = yield* workSlice(openedRows(own, width, height, side), 0, 0.5);
  const open = new Uint8Array(width);
  const rowAt = (y: number, row: Uint8Array) => {
    own(y, row);
    wide(y, open);
    for (let x = 0; x < width; x++) row[x] += open[x];
    // Outside the art there is no gap that could fill in: it joins those it touches and is wide itself.
    if (value === 0 && cover)
      for (let x = 0, i = y * width; x < width; x++, i++) if (cover[i] === 0) row[x] = 2;
  };
  const all = yield* workSlice(componentsOf(width, height, rowAt), 0.5, 1);
  return all.filter((c) => c.strong === 0);
}
