import { workSlice, type Work } from "../maths/work";
import { dotsPerMm } from "../maths/units";
import { packRow } from "../raster/bits";
import { bitAt, newBits, type Bits, type Rect } from "../raster/types";
import { type Finish } from "../result/finish";
import { type Plates } from "../result/result";
import { evenAreas } from "./evenAreas";
import { markedShare } from "./markedShare";

/** What is told of a part of the dots in a strip. */
export interface CropReadings {
  /** Of the part's art. */
  readonly markedPercent: number;
  /** Area without a dot, of areas large enough to be pointed out. */
  readonly bareMm2: number;
}

/** The dots of a part, in whole dots; what lies outside the piece is bare. */
export function partOfBits(bits: Bits, { x, y, width, height }: Rect): Bits {
  const part = newBits(width, height);
  const row = new Uint8Array(width);
  for (let v = 0; v < height; v++) {
    for (let u = 0; u < width; u++) row[u] = bitAt(bits, x + u, y + v);
    packRow(row, part, v);
  }
  return part;
}

/** Marked share and empty area of a part of the dots, over all plates that are one bitmap. */
export function* cropReadings(
  { plates: [{ bits }], cover }: Plates,
  part: Rect,
  finish: Finish,
  areaMm2: number,
): Work<CropReadings> {
  const { x, y, width, height } = part;
  const own = cover && new Uint8Array(width * height);
  if (own && cover)
    for (let v = 0; v < height; v++)
      for (let u = 0; u < width; u++)
        if (x + u < bits.width && y + v < bits.height)
          own[v * width + u] = cover[(y + v) * bits.width + x + u];
  const dots = { bits: partOfBits(bits, part), cover: own };
  const areas = yield* workSlice(evenAreas(0, dots, finish, areaMm2), 0, 0.9);
  const perMm = dotsPerMm(finish);
  const share = yield* workSlice(markedShare(dots), 0.9, 1);
  return {
    markedPercent: Math.round(share * 10) / 10,
    bareMm2: Math.round((10 * areas.reduce((sum, a) => sum + a.pixels, 0)) / (perMm * perMm)) / 10,
  };
}
