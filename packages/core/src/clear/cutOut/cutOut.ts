import { freed, product, shareOf } from "../../colour/mixture";
import { workSlice, rowsAtOnce, type Work } from "../../maths/work";
import { halveRgba, readyRgba } from "../../raster/halve";
import { type Rgba } from "../../raster/types";
import { type Clearing } from "../clearing";
import { coverOfStrokes, type Stroke } from "../strokes";
import { BAND_IN, bandAbout, IN, OUT } from "./band";
import { guidedLines, spread } from "./guided";
import { NearColours } from "./nearColours";
import { scaleOf } from "./scale";
import { AWAY, KEEP } from "./said";
import { segment } from "./segment";

// Thresholds: what they decide is measured by `npm run scenes`.

/** Pixels in which the subject is found, and in which its edge is: more than the eye needs, few enough for a second. */
const SEGMENT_PIXELS = 150000;
const MATTE_PIXELS = 700000;

export interface CutOutWish {
  readonly keep: readonly Stroke[];
  readonly away: readonly Stroke[];
}

/**
 * Cuts a subject out of a photograph. Strokes on the subject and on the background teach the colours of both; a cut
 * along the picture's edges parts them; in the band about that cut the cover of every pixel is told from the
 * colours known on either side and filtered with the picture as guide, so hair and soft edges keep their shape. The
 * background is taken out of the colour of what is part covered.
 *
 * Without strokes on both sides nothing is known, and nothing is done.
 *
 * @see segment, guidedLines
 * @see Wang & Cohen, "Optimized Color Sampling for Robust Matting", CVPR 2007 (the choice among known colours)
 * @see He & Sun, "Fast Guided Filter", 2015 (lines found on a smaller picture, used on the whole one)
 */
export function* cutOut(clearing: Clearing, wish: CutOutWish, unmix: boolean): Work<void> {
  const { source } = clearing;
  const middle = yield* workSlice(reduced(source, MATTE_PIXELS), 0, 0);
  const small = yield* workSlice(reduced(middle, SEGMENT_PIXELS), 0, 0);
  const said = yield* strokesOn(clearing, small, wish);
  if (!said.includes(KEEP) || !said.includes(AWAY)) return;
  const segments = yield* workSlice(segment(small, said), 0, 0.5);
  const certain = yield* strokesOn(clearing, middle, wish);
  const band = yield* workSlice(bandAbout(segments, small, middle, certain), 0.5, 0.6);
  const matte = yield* workSlice(matteOf(middle, band, certain), 0.6, 0.8);
  yield* workSlice(apply(clearing, middle, band, matte, unmix), 0.8, 1);
}

function* reduced(picture: Rgba, most: number): Work<Rgba> {
  let out = picture;
  while (out.width * out.height > most && out.width > 1 && out.height > 1) {
    yield* readyRgba(out, 2);
    out = halveRgba(out);
  }
  return out;
}

function* strokesOn(
  { source, frame, dotsPerMm }: Clearing,
  picture: Rgba,
  { keep, away }: CutOutWish,
): Work<Uint8Array> {
  const on = { source: picture, frame, dotsPerMm: (dotsPerMm * picture.width) / source.width };
  const [kept, gone] = [yield* coverOfStrokes(on, keep), yield* coverOfStrokes(on, away)];
  const said = new Uint8Array(kept.length);
  for (let i = 0; i < said.length; i++)
    if (kept[i] > 64 || gone[i] > 64) said[i] = kept[i] >= gone[i] ? KEEP : AWAY;
  return said;
}

interface Matte {
  /** Lines from colour to cover. */
  readonly line: Float32Array;
  readonly subject: NearColours;
  readonly background: NearColours;
}

/** Colours of either side that are tried for a mixture, and pixels from the band at which they are taken: beyond its blur. */
const CANDIDATES = 3;
const STAND_OFF = 2;
/** What it speaks against a pair that it makes a pixel a mixture: most pixels are not. */
const MIXED = 200;
/** Contrast between subject and background, in code values, at which the two colours tell the cover well. */
const CLEAR_CONTRAST = 20;
/** Squared distance from the mixture, in code values, at which a pixel is as likely none. */
const STRANGER = 600;

function* matteOf(picture: Rgba, band: Uint8Array, said: Uint8Array): Work<Matte> {
  const { width, height, data } = picture;
  const count = width * height;
  // What lies right beside the band may still be mixed a little; colours are taken from a few pixels further off.
  const unknown = new Uint8Array(count);
  for (let i = 0; i < count; i++) unknown[i] = band[i] & 1;
  yield 0.02;
  const { mask: beside } = spread(unknown, width, height, STAND_OFF);
  yield 0.05;
  const subject = new NearColours(picture, (i) => band[i] === IN && (!beside[i] || said[i] === KEEP));
  yield 0.1;
  const background = new NearColours(picture, (i) => band[i] === OUT && (!beside[i] || said[i] === AWAY));
  yield 0.13;
  const cover = new Float32Array(count);
  const weight = new Float32Array(count);
  const wanted = new Uint8Array(count);
  const f = new Float64Array(3 * CANDIDATES);
  const b = new Float64Array(3 * CANDIDATES);
  const atOnce = rowsAtOnce(8 * width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.15 + (0.35 * y) / height;
    for (let x = 0; x < width; x++, i++) {
      if ((band[i] & 1) === 0) {
        cover[i] = band[i] === IN ? 1 : 0;
        weight[i] = 1;
        continue;
      }
      wanted[i] = 1;
      const told = coverBetween(
        data,
        i * 4,
        f,
        subject.near(x, y, CANDIDATES, f),
        b,
        background.near(x, y, CANDIDATES, b),
      );
      // Where both sides have one colour, or the pixel has none of theirs, the cut is all there is to go by.
      const side = band[i] === BAND_IN ? 1 : 0;
      const known = told.contrast * told.fit;
      cover[i] = known * told.cover + (1 - known) * side;
      weight[i] = told.trust;
    }
  }
  const line = yield* workSlice(guidedLines(picture, cover, weight, wanted, 2, 2e-4), 0.5, 1);
  // Beside the band the cover is what it is, so that what lies between the two is too.
  for (let i = 0; i < count; i++) if (band[i] === IN) line[i * 4 + 3] = 1;
  return { line, subject, background };
}

/** The cover that explains a colour best as a mixture of one of the subject's colours and one of the background's. */
function coverBetween(
  data: Uint8Array,
  o: number,
  f: Float64Array,
  fs: number,
  b: Float64Array,
  bs: number,
): { cover: number; trust: number; contrast: number; fit: number } {
  let best = { cover: 0.5, trust: 0.01, contrast: 0, fit: 0 };
  let least = Infinity;
  for (let p = 0; p < fs * 3; p += 3)
    for (let q = 0; q < bs * 3; q += 3) {
      const [dx, dy, dz] = [f[p] - b[q], f[p + 1] - b[q + 1], f[p + 2] - b[q + 2]];
      const whole = product(dx, dy, dz, dx, dy, dz);
      const along = product(data[o] - b[q], data[o + 1] - b[q + 1], data[o + 2] - b[q + 2], dx, dy, dz);
      const cover = whole < 1 ? 0.5 : Math.min(1, Math.max(0, shareOf(along, whole)));
      let off = 0;
      for (let k = 0; k < 3; k++) {
        const e = data[o + k] - b[q + k] - cover * (f[p + k] - b[q + k]);
        off += e * e;
      }
      // Nearer colours are believed first; a pair that is all but one colour explains anything.
      const doubt =
        off +
        12 * (p + q) +
        MIXED * Math.min(cover, 1 - cover) +
        (4 * CLEAR_CONTRAST * CLEAR_CONTRAST * 25) / (whole + 25);
      if (doubt >= least) continue;
      least = doubt;
      const contrast = whole / (whole + CLEAR_CONTRAST * CLEAR_CONTRAST);
      const trust = Math.max(0.01, (contrast * contrast * 200) / (200 + off));
      best = { cover, trust, contrast, fit: STRANGER / (STRANGER + off) };
    }
  return best;
}

function* apply(
  { source, data, held }: Clearing,
  middle: Rgba,
  band: Uint8Array,
  { line, subject, background }: Matte,
  unmix: boolean,
): Work<void> {
  const { width, height, data: from } = source;
  const scale = scaleOf(middle, source);
  const f = new Float64Array(3);
  const b = new Float64Array(3);
  const atOnce = rowsAtOnce(8 * width);
  const c = new Float64Array(4);
  for (let y = 0, o = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    const v = (y + 0.5) * scale - 0.5;
    const my = Math.min(middle.height - 1, Math.floor((y + 0.5) * scale));
    for (let x = 0; x < width; x++, o += 4) {
      const mx = Math.min(middle.width - 1, Math.floor((x + 0.5) * scale));
      const kind = band[my * middle.width + mx];
      if (kind === IN || data[o + 3] === 0) continue;
      const hold = held ? held[o >> 2] : 0;
      if (kind === OUT) {
        if (data[o + 3] > hold) data[o + 3] = hold;
        continue;
      }
      lineAt(line, middle, (x + 0.5) * scale - 0.5, v, c);
      const told = from[o] * c[0] + from[o + 1] * c[1] + from[o + 2] * c[2] + 255 * c[3];
      const cover = told <= 5 ? 0 : told >= 250 ? 255 : Math.round(told);
      const alpha = Math.max(hold, Math.round((cover * data[o + 3]) / 255));
      if (alpha >= data[o + 3]) continue;
      data[o + 3] = alpha;
      if (alpha === 0 || !unmix || !subject.near(mx, my, 1, f) || !background.near(mx, my, 1, b)) continue;
      const share = alpha / 255;
      for (let k = 0; k < 3; k++) {
        const own = freed(from[o + k], b[k], share);
        data[o + k] = Math.max(0, Math.min(255, Math.round(own * share + f[k] * (1 - share))));
      }
    }
  }
}

/** The line between the four nearest pixels' lines. */
function lineAt(line: Float32Array, { width, height }: Rgba, u: number, v: number, out: Float64Array): void {
  const x = Math.min(width - 2, Math.max(0, Math.floor(u)));
  const y = Math.min(height - 2, Math.max(0, Math.floor(v)));
  const fu = Math.min(1, Math.max(0, u - x));
  const fv = Math.min(1, Math.max(0, v - y));
  const [a, b] = [(y * width + x) * 4, ((y + 1) * width + x) * 4];
  for (let k = 0; k < 4; k++)
    out[k] =
      (line[a + k] * (1 - fu) + line[a + 4 + k] * fu) * (1 - fv) +
      (line[b + k] * (1 - fu) + line[b + 4 + k] * fu) * fv;
}
