import { alongMiddles } from "../line/middle";
import { dotsPerMm, mmOfDots } from "../maths/units";
import { type Work } from "../maths/work";
import { unpackRow } from "../raster/bits";
import { type Rect } from "../raster/types";
import { componentsOf } from "../region/components";
import { type Finish } from "../result/finish";
import { figure, firstOf, MOST_PLACES, placeOf, type Check, type Readings } from "./check";
import { type Dots } from "./dots";

/** Pixels looked at in one band; with the margin above and below, in which widths are looked for, a little more. */
const BAND_PIXELS = 1 << 22;
/** A thin place shorter than this along the stroke is a notch of the pixels. */
const LEAST_LENGTH = 3;

interface Thin extends Rect {
  readonly least: number;
}

/**
 * Strokes thinner than a width: the width of each is measured by distance all along its middle. Done in bands, so that
 * a large film takes no more room than a small one.
 *
 * @param thinnestMm  what holds
 */
export function* checkStrokes(
  { bits }: Dots,
  finish: Finish,
  thinnestMm: number,
): Work<{ check: Check; readings: Readings }> {
  const limit = thinnestMm * dotsPerMm(finish);
  const found = limit <= 1 ? [] : yield* thinStrokes(bits, limit);
  const worst = firstOf(found, MOST_PLACES, (a, b) => a.least - b.least);
  const least = worst.length > 0 ? mmOfDots(worst[0].least, finish) : null;
  const held = `The process holds ${figure(thinnestMm, 3)} mm.`;
  return {
    check: {
      id: "thinStrokes",
      level: found.length > 0 ? "look" : "fine",
      value: least === null ? 0 : Math.round(least * 1000) / 1000,
      unit: "mm",
      text:
        found.length === 0
          ? "No stroke too thin"
          : `${found.length} ${found.length === 1 ? "stroke" : "strokes"} too thin`,
      detail: least === null ? held : `The thinnest is ${figure(least, 3)} mm. ${held}`,
      places: worst.map((c) => placeOf(c, finish)),
    },
    readings: least === null ? {} : { thinnestMm: Math.round(least * 1000) / 1000 },
  };
}

function* thinStrokes(bits: Dots["bits"], limit: number): Work<Thin[]> {
  const { width, height } = bits;
  const margin = Math.ceil(limit) + 2;
  const rows = Math.max(4 * margin, Math.floor(BAND_PIXELS / width));
  const found: Thin[] = [];
  for (let top = 0; top < height; top += rows) {
    const [from, to] = [Math.max(0, top - margin), Math.min(height, top + rows + margin)];
    const mask = new Uint8Array(width * (to - from));
    for (let y = from; y < to; y++)
      unpackRow(bits, y, mask.subarray((y - from) * width, (y - from + 1) * width));
    // Width in sixteenths of a dot at each thin place of a middle, 0 elsewhere.
    const thin = new Uint16Array(mask.length);
    const wanted = (y: number) => from + y >= top && from + y < top + rows;
    const work = alongMiddles(mask, width, to - from, (x, y, wide) => {
      if (wide < limit - 0.01 && wanted(y)) thin[y * width + x] = Math.max(1, Math.round(16 * wide));
    });
    for (let step = work.next(); !step.done; step = work.next())
      yield (top + Math.min(rows, height - top) * 0.9 * step.value) / height;
    const rowAt = (y: number, row: Uint8Array) => {
      for (let x = 0, i = y * width; x < width; x++, i++) row[x] = +(thin[i] > 0);
    };
    for (const { x, y, width: w, height: h } of yield* componentsOf(width, to - from, rowAt)) {
      if (Math.max(w, h) < LEAST_LENGTH) continue;
      let least = Infinity;
      for (let v = y; v < y + h; v++)
        for (let u = x; u < x + w; u++) {
          const wide = thin[v * width + u];
          if (wide > 0 && wide < least) least = wide;
        }
      found.push({ x, y: from + y, width: w, height: h, least: least / 16 });
    }
  }
  return found;
}
