import { percentile } from "../maths/percentile";
import { codesOf, hexOf } from "../colour/oklab";
import { runToEnd, workSlice, rowsAtOnce, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { type Clearing } from "./clearing";
import { EVEN, lightOn, lightRow, lumaAt, paperColour, type Codes, type Light } from "./paper";

export interface LiftWish {
  /**
   * Lightness, 0..1 of the paper's, up to which the ink stays whole, and from which the paper is gone; "auto" where the
   * picture's own ink and paper put them.
   */
  readonly kept: number | "auto";
  readonly gone: number | "auto";
  /** "auto", or the paper's colour as #rrggbb */
  readonly paper: string;
  /**
   * Even: one paper colour for all. Uneven: the light on the paper is measured and divided out. Auto: measured where
   * the paper is to be found as well, and divided out where it is not even.
   */
  readonly light: "auto" | "even" | "uneven";
}

// Thresholds: what they decide is measured by `npm run lifts`.

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
/** Light that falls off by less than this is even. */
const EVEN_LIGHT = 0.97;
/** Of what is more ink than paper, so much is darker than ink that covers all. */
const INK = 0.1;
/** Grain goes so many deviations up and down. */
const GRAIN = 4.5;

/**
 * Lifts ink off paper. Cover falls in a straight line from whole at lightness `kept` to nothing at `gone`, lightness
 * being that of the paper where the pixel lies. Where all neighbours differ from paper, or from whole ink, by no more
 * than the paper's grain, so it is. Ink and paper mix in every soft edge, so the paper's share is taken out of the
 * colour as well: it is the largest share that leaves no channel darker than the darkest ink. A pixel darker than
 * `kept` keeps its colour to the bit where that share cannot be seen, or where it lies in an even tone lighter than
 * thin ink would be.
 */
export function* liftInk(clearing: Clearing, wish: LiftWish): Work<void> {
  const { source, data, held } = clearing;
  const { width, height } = source;
  const light = yield* workSlice(lightFor(source, wish), 0, 0.2);
  yield 0.2;
  const even = evened(source, light);
  yield 0.2;
  const paper = wish.paper === "auto" ? times(paperColour(even), 1 / even.dimmed) : codesOf(wish.paper);
  yield 0.2;
  const ink = times(inkColour(even), 1 / even.dimmed);
  const room = paper.map((p, k) => Math.max(1, p - ink[k]));
  const white = lumaOf(paper);
  const { kept, gone } = endsOf(wish, even);
  const slope = 1 / (gone - kept);
  const grain = GRAIN * grainOf(source, light, white) * slope;
  const { data: from } = source;
  // Light on the row at hand and on the one below.
  let [shade, shadeBelow] = [0, 1].map(() => new Float64Array(width));
  // Cover of the row above, of the one at hand and of the one below.
  let [above, own, below] = [0, 1, 2].map(() => new Float64Array(width));
  const coverRow = (y: number, row: Float64Array, lit: Float64Array): void => {
    if (y >= height) return;
    lightRow(light, width, height, y, lit);
    for (let x = 0, o = y * width * 4; x < width; x++, o += 4)
      row[x] = (gone - lumaAt(from, o) / (lit[x] * white)) * slope;
  };
  coverRow(0, own, shade);
  const atOnce = rowsAtOnce(4 * width);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.2 + (0.8 * y) / height;
    coverRow(y + 1, below, shadeBelow);
    const [up, down] = [y > 0 ? above : own, y + 1 < height ? below : own];
    for (let x = 0, o = y * width * 4; x < width; x++, o += 4) {
      if (held && held[o >> 2] >= 128) continue;
      let cover = own[x];
      // Grain has the same height everywhere, so in the shade it is a larger share of the light.
      const rough = grain / (shade[x] * white);
      const bare = rough - (1 - gone) * slope;
      if (cover > 0 && cover < bare) {
        if (extremeAbout(up, own, down, x, width, Math.max) < bare) cover = 0;
      } else if (cover < 1 && cover > 1 - rough) {
        if (extremeAbout(up, own, down, x, width, Math.min) > 1 - rough) cover = 1;
      }
      if (cover <= 0) {
        data[o + 3] = 0;
        continue;
      }
      if (data[o + 3] === 0) continue;
      const lit = 1 / shade[x];
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
    [above, own, below] = [own, below, above];
    [shade, shadeBelow] = [shadeBelow, shade];
  }
}

/** The least, or the most, among a pixel and its eight neighbours. */
function extremeAbout(
  up: Float64Array,
  own: Float64Array,
  down: Float64Array,
  x: number,
  width: number,
  better: (a: number, b: number) => number,
): number {
  const [l, r] = [x > 0 ? x - 1 : x, x + 1 < width ? x + 1 : x];
  let best = better(better(up[l], up[x]), up[r]);
  best = better(best, better(better(own[l], own[x]), own[r]));
  return better(best, better(better(down[l], down[x]), down[r]));
}

const lumaOf = ([r, g, b]: Codes): number => Math.max(1, r * 0.2126 + g * 0.7152 + b * 0.0722) / 255;

function* lightFor(picture: Rgba, { paper, light }: Pick<LiftWish, "paper" | "light">): Work<Light> {
  if (light === "even" || (light === "auto" && paper !== "auto")) return EVEN;
  const found = yield* lightOn(picture);
  return light === "auto" && Math.min(...found.share) > EVEN_LIGHT ? EVEN : found;
}

/** Deviation of the paper's lightness, 0..1 of white: told by its pale side, where no ink mixes in. */
function grainOf({ width, height, data }: Rgba, light: Light, white: number): number {
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / 250000)));
  const shade = new Float64Array(width);
  let [squares, count] = [0, 0];
  for (let y = step >> 1; y < height; y += step) {
    lightRow(light, width, height, y, shade);
    for (let x = step >> 1; x < width; x += step) {
      const o = (y * width + x) * 4;
      const d = lumaAt(data, o) - shade[x] * white;
      if (data[o + 3] < 128 || d < 0 || d > 0.2) continue;
      squares += d * d;
      count++;
    }
  }
  return count === 0 ? 0 : Math.sqrt(squares / count);
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
  const lamp = runToEnd(lightFor(picture, { paper: "auto", light }));
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

/** A picture less bright than it should be, so that its grain is not cut off at white. */
interface Evened extends Rgba {
  /** Its brightness by the one it should have. */
  readonly dimmed: number;
}

/** Evened light is drawn at this brightness, so that paper brighter than the mean still fits into a byte. */
const DIMMED = 0.75;

/** The picture, thinned out, as it would look in even light. */
function evened(picture: Rgba, light: Light): Evened {
  if (light === EVEN) return { ...picture, dimmed: 1 };
  const step = Math.max(1, Math.floor(Math.sqrt((picture.width * picture.height) / 250000)));
  const [width, height] = [Math.floor(picture.width / step), Math.floor(picture.height / step)];
  const data = new Uint8Array(width * height * 4);
  const row = new Float64Array(picture.width);
  for (let y = 0, o = 0; y < height; y++) {
    lightRow(light, picture.width, picture.height, y * step, row);
    for (let x = 0; x < width; x++, o += 4) {
      const i = (y * step * picture.width + x * step) * 4;
      for (let k = 0; k < 3; k++) data[o + k] = code((picture.data[i + k] * DIMMED) / row[x * step]);
      data[o + 3] = picture.data[i + 3];
    }
  }
  return { width, height, data, dimmed: DIMMED };
}

const times = (codes: Codes, by: number): Codes =>
  codes.map((v) => Math.min(255, v * by)) as unknown as Codes;

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

/** Where to set the two ends for a picture: kept at the ink's own lightness, gone at the paper's. */
export function liftLevels(picture: Rgba): { kept: number; gone: number } {
  const light = runToEnd(lightFor(picture, { paper: "auto", light: "auto" }));
  return levelsIn(evened(picture, light));
}

/** The least that the two ends lie apart. */
const APART = 0.01;

/** The two ends as they are wished, those that are to be found from the picture. */
function endsOf({ kept, gone }: LiftWish, even: ReturnType<typeof evened>): { kept: number; gone: number } {
  if (kept !== "auto" && gone !== "auto") return { kept, gone };
  const found = levelsIn(even);
  const end = gone === "auto" ? found.gone : gone;
  return { kept: Math.min(kept === "auto" ? found.kept : kept, end - APART), gone: end };
}

function levelsIn(even: ReturnType<typeof evened>): { kept: number; gone: number } {
  const white = lumaOf(times(paperColour(even), 1 / even.dimmed));
  const { width, height, data } = even;
  const counts = new Float64Array(1024);
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / 500000)));
  for (let y = step >> 1; y < height; y += step)
    for (let x = step >> 1; x < width; x += step) {
      const o = (y * width + x) * 4;
      if (data[o + 3] >= 128)
        counts[Math.min(1023, Math.round((lumaAt(data, o) / even.dimmed / white) * 1000))]++;
    }
  return { kept: Math.min(0.85, inkLevel(counts)), gone: 1 };
}

/** The ink's lightness where it covers all: near the darkest there is, thousandths of the paper's. */
function inkLevel(counts: Float64Array): number {
  const darkest = percentile(counts, 0.0005);
  const middle = (darkest + 1000) / 2;
  const inked = counts.map((c, bin) => (bin < middle ? c : 0));
  return percentile(inked, INK) / 1000;
}
