import { codesOf, hexOf } from "../colour/oklab";
import { finish, portion, rowsAtOnce, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { type Clearing } from "./clearing";
import { EVEN, lightOn, lightRow, lumaAt, paperColour, percentile, type Codes, type Light } from "./paper";

export interface LiftWish {
  /** Lightness 0..1 up to which the ink stays whole, and from which the paper is gone. */
  readonly kept: number;
  readonly gone: number;
  /** "auto", or the paper's colour as #rrggbb */
  readonly paper: string;
  /** Even: one paper colour for all. Uneven: the light on the paper is measured and divided out. */
  readonly light: "even" | "uneven";
}

/** A share of paper that changes no backing by more than three code values stays in the ink. */
const UNSEEN = 0.012;
/** From this share of paper on, an even tone below `kept` is a tone of its own and not thin ink. */
const OWN_TONE = 0.2;
/** Shares told by red, green and blue may differ by so much in a mixture of ink and paper. */
const OWN_COLOUR = 0.1;
/** Paper is looked at within so many pixels of a click: its grain evens out. */
const ABOUT = 3;
/** Lightness may differ by so much among neighbours of an even tone. */
const EVEN_TONE = 12 / 255;

/**
 * Lifts ink off paper. Cover falls in a straight line from whole at lightness `kept` to nothing at `gone`. Ink
 * and paper mix in every soft edge, so the paper's share is taken out of the colour as well: it is the largest share
 * that leaves no channel darker than the darkest ink. A pixel darker than `kept` keeps its colour to the bit
 * where that share cannot be seen, or where it lies in an even tone lighter than thin ink would be.
 */
export function* liftInk(clearing: Clearing, wish: LiftWish): Work<void> {
  const { source, data, held } = clearing;
  const { width, height } = source;
  const light = wish.light === "uneven" ? yield* portion(lightOn(source), 0, 0.2) : EVEN;
  yield 0.2;
  const even = evened(source, light);
  yield 0.2;
  const paper = wish.paper === "auto" ? paperColour(even) : codesOf(wish.paper);
  yield 0.2;
  const ink = inkColour(even);
  const room = paper.map((p, k) => Math.max(1, p - ink[k]));
  const row = new Float64Array(width);
  const atOnce = rowsAtOnce(3 * width);
  const slope = 1 / (wish.gone - wish.kept);
  const { data: from } = source;
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.2 + (0.8 * y) / height;
    lightRow(light, width, height, y, row);
    for (let x = 0, o = y * width * 4; x < width; x++, o += 4) {
      const lit = 1 / row[x];
      // With even light the lightness is the grey value itself; paper of another colour only shifts what is taken out.
      const lightness = lumaAt(from, o) * lit;
      const cover = (wish.gone - lightness) * slope;
      const hold = held ? held[o >> 2] : 0;
      if (hold >= 128) continue;
      if (cover <= 0) {
        data[o + 3] = 0;
        continue;
      }
      if (data[o + 3] === 0) continue;
      const alpha = Math.min(1, cover);
      const r = from[o] * lit;
      const g = from[o + 1] * lit;
      const b = from[o + 2] * lit;
      const [sr, sg, sb] = [(r - ink[0]) / room[0], (g - ink[1]) / room[1], (b - ink[2]) / room[2]];
      const share = Math.max(0, Math.min(sr, sg, sb));
      if (alpha === 1) {
        // A colour that is no mixture of ink and paper, or too pale for thin ink, is a tone of its own where it is even.
        const own = share > OWN_TONE || Math.max(sr, sg, sb) - share > OWN_COLOUR;
        if (share <= UNSEEN || (own && isEven(from, width, height, x, y))) continue;
      }
      const left = 1 / Math.max(1e-3, 1 - Math.min(share, 0.999));
      data[o] = code((r - share * paper[0]) * left);
      data[o + 1] = code((g - share * paper[1]) * left);
      data[o + 2] = code((b - share * paper[2]) * left);
      data[o + 3] = Math.round((data[o + 3] * Math.round(alpha * 255)) / 255);
    }
  }
}

/**
 * The paper's colour about a pixel, #rrggbb, as a lift wants it: in uneven light as it would look in the brightest.
 * Null outside the picture.
 */
export function paperAt(picture: Rgba, x: number, y: number, light: LiftWish["light"]): string | null {
  const { width, height, data } = picture;
  if (x < 0 || y < 0 || x >= width || y >= height) return null;
  const row = new Float64Array(width);
  const sums = [0, 0, 0];
  let count = 0;
  const lamp = light === "uneven" ? finish(lightOn(picture)) : EVEN;
  for (let v = Math.max(0, y - ABOUT); v <= Math.min(height - 1, y + ABOUT); v++) {
    lightRow(lamp, width, height, v, row);
    for (let u = Math.max(0, x - ABOUT); u <= Math.min(width - 1, x + ABOUT); u++, count++)
      for (let k = 0; k < 3; k++) sums[k] += data[(v * width + u) * 4 + k] / row[u];
  }
  const [r, g, b] = sums.map((sum) => code(sum / count));
  return hexOf(r, g, b);
}

const code = (v: number): number => Math.max(0, Math.min(255, Math.round(v)));

function isEven(data: Uint8Array, width: number, height: number, x: number, y: number): boolean {
  let [least, most] = [1, 0];
  for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
    for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
      const luma = lumaAt(data, (v * width + u) * 4);
      if (luma < least) least = luma;
      if (luma > most) most = luma;
    }
  return most - least <= EVEN_TONE;
}

/** The picture, thinned out, as it would look in even light. */
function evened(picture: Rgba, light: Light): Rgba {
  if (light === EVEN) return picture;
  const step = Math.max(1, Math.floor(Math.sqrt((picture.width * picture.height) / 250000)));
  const [width, height] = [Math.floor(picture.width / step), Math.floor(picture.height / step)];
  const data = new Uint8Array(width * height * 4);
  const row = new Float64Array(width);
  for (let y = 0, o = 0; y < height; y++) {
    lightRow(light, width, height, y, row);
    for (let x = 0; x < width; x++, o += 4) {
      const i = (y * step * picture.width + x * step) * 4;
      for (let k = 0; k < 3; k++) data[o + k] = code(picture.data[i + k] / row[x]);
      data[o + 3] = picture.data[i + 3];
    }
  }
  return { width, height, data };
}

/** The darkest ink: the mean of the darkest two thousandths of what is darker than mid tone. */
function inkColour({ width, height, data }: Rgba): Codes {
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / 500000)));
  const counts = new Float64Array(256);
  const sums = [new Float64Array(256), new Float64Array(256), new Float64Array(256)];
  for (let y = step >> 1; y < height; y += step)
    for (let x = step >> 1; x < width; x += step) {
      const o = (y * width + x) * 4;
      const bin = Math.round(lumaAt(data, o) * 255);
      if (data[o + 3] < 128 || bin > 150) continue;
      counts[bin]++;
      for (let k = 0; k < 3; k++) sums[k][bin] += data[o + k];
    }
  const darkest = percentile(counts, 0.002);
  if (counts[darkest] === 0) return [0, 0, 0];
  return sums.map((s) => Math.round(s[darkest] / counts[darkest])) as unknown as Codes;
}

/** Where to set the two ends for a picture: gone below the spread of the paper's own lightness, kept above the ink's. */
export function liftLevels(picture: Rgba, uneven: boolean): { kept: number; gone: number } {
  const light = uneven ? finish(lightOn(picture)) : EVEN;
  const { width, height, data } = picture;
  const counts = new Float64Array(384);
  const row = new Float64Array(width);
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / 500000)));
  for (let y = step >> 1; y < height; y += step) {
    lightRow(light, width, height, y, row);
    for (let x = step >> 1; x < width; x += step) {
      const o = (y * width + x) * 4;
      if (data[o + 3] >= 128) counts[Math.min(383, Math.round((lumaAt(data, o) / row[x]) * 255))]++;
    }
  }
  let paper = 128;
  for (let bin = 128; bin < 384; bin++) if (counts[bin] >= counts[paper]) paper = bin;
  // The paper's spread is seen on its pale side, where no ink mixes in.
  let [weighted, count] = [0, 0];
  for (let bin = paper; bin < 384; bin++) {
    weighted += counts[bin] * (bin - paper) * (bin - paper);
    count += counts[bin];
  }
  const spread = count === 0 ? 0 : Math.sqrt(weighted / count);
  const gone = Math.max(0.4, (paper - 3 - 4 * spread) / 255);
  const ink =
    percentile(
      counts.map((c, bin) => (bin < gone * 255 * 0.8 ? c : 0)),
      0.3,
    ) / 255;
  const kept = Math.min(gone - 0.15, Math.max(0.05, ink + 0.35 * (gone - ink)));
  return { kept: hundredths(kept), gone: hundredths(gone) };
}

const hundredths = (v: number): number => Math.round(v * 100) / 100;
