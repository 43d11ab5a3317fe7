import { hexOf } from "../colour/oklab";
import { rowsAtOnce, workSlice, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { extremes } from "../region/extremes";

// Thresholds: what they decide is measured by `npm run films`, flat drawings.

/** Areas whose colours are compared with are looked for so far about a pixel. */
const REACH = 6;
/** Neighbours further apart than this in luma are an edge. */
const ALIKE = 10;
/** A stroke is darker, or lighter, than all areas about it by this much of luma: more than a JPEG's ringing. */
const STANDS_OUT = 45;
/** A stroke's colour is that of its most outstanding pixels, this share of them: the others are mixed with what is beside. */
const CLEAREST = 0.15;
/** A pixel less whole than this shows its colour too faintly. */
const WHOLE = 250;

/** Of strokes too thin to have an even pixel: their colour, and the share of the art that stands out. */
export interface StrokeInk {
  readonly colour: string;
  readonly share: number;
}

/**
 * The colours of thin strokes: pixels that are darker, or lighter, than every even area near them. No mixture of these
 * areas is that, so an ink is needed for it. Luma alone is looked at, as JPEG keeps it sharp and blurs the rest.
 *
 * @returns the dark one, the light one, or both; none where nothing stands out
 * @see ITU-R BT.601 for luma
 */
export function* strokeInks(picture: Rgba): Work<StrokeInk[]> {
  const { width, height, data } = picture;
  const luma = new Uint8Array(width * height);
  const atOnce = Math.max(1, Math.floor(rowsAtOnce(width) / 8));
  let art = 0;
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.2 * y) / height;
    for (let i = y * width, o = 4 * i, end = i + width; i < end; i++, o += 4) {
      luma[i] = (77 * data[o] + 150 * data[o + 1] + 29 * data[o + 2] + 128) >> 8;
      if (data[o + 3] >= WHOLE) art++;
    }
  }
  const [low, high] = yield* evenAbout(picture, luma);
  const dark: number[] = [];
  const light: number[] = [];
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.8 + (0.2 * y) / height;
    for (let i = y * width, end = i + width; i < end; i++) {
      if (data[4 * i + 3] < WHOLE || low[i] > high[i]) continue;
      if (luma[i] + STANDS_OUT < low[i]) dark.push(i);
      else if (luma[i] > high[i] + STANDS_OUT) light.push(i);
    }
  }
  const inks: StrokeInk[] = [];
  for (const [list, way] of [
    [dark, 1],
    [light, -1],
  ] as const)
    if (list.length > 0) inks.push({ colour: clearest(data, luma, list, way), share: list.length / art });
  return inks;
}

/** Mean of the most outstanding of some pixels. @param way  1: the darkest, -1: the lightest */
function clearest(data: Uint8Array, luma: Uint8Array, list: readonly number[], way: 1 | -1): string {
  const counts = new Uint32Array(256);
  for (const i of list) counts[luma[i]]++;
  let [edge, left] = [way > 0 ? 0 : 255, Math.max(1, CLEAREST * list.length)];
  while ((left -= counts[edge]) > 0) edge += way;
  const sum = [0, 0, 0, 0];
  for (const i of list) {
    if (way * (luma[i] - edge) > 0) continue;
    for (let c = 0; c < 3; c++) sum[c] += data[4 * i + c];
    sum[3]++;
  }
  const mean = (c: number): number => Math.round(sum[c] / sum[3]);
  return hexOf(mean(0), mean(1), mean(2));
}

/** For each pixel the least and the greatest luma of even pixels about it: 255 and 0 where there are none. */
function* evenAbout({ width, height, data }: Rgba, luma: Uint8Array): Work<[Uint8Array, Uint8Array]> {
  const [low, high] = [new Uint8Array(luma.length).fill(255), new Uint8Array(luma.length)];
  const atOnce = Math.max(1, Math.floor(rowsAtOnce(width) / 16));
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.2 + (0.1 * y) / height;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (data[4 * i + 3] < WHOLE) continue;
      const own = luma[i];
      const isAlike = (j: number): boolean => data[4 * j + 3] < WHOLE || Math.abs(own - luma[j]) <= ALIKE;
      if (x > 0 && !isAlike(i - 1)) continue;
      if (x < width - 1 && !isAlike(i + 1)) continue;
      if (y > 0 && !isAlike(i - width)) continue;
      if (y < height - 1 && !isAlike(i + width)) continue;
      low[i] = high[i] = own;
    }
  }
  const [least] = yield* workSlice(extremes(low, width, height, REACH), 0.3, 0.55);
  const [, most] = yield* workSlice(extremes(high, width, height, REACH), 0.55, 0.8);
  return [least, most];
}
