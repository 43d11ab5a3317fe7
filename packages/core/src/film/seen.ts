import { CODE_OF_LINEAR, CODE_STEPS } from "../colour/srgb";
import { cielabOf, ciede2000 } from "../colour/ciede2000";
import { oklabOf } from "../colour/oklab";
import { sinPi } from "../maths/steady";
import { dotsPerMm } from "../maths/units";
import { workSlice, rowsAtOnce, type Work } from "../maths/work";
import { SOLID } from "../screen/dotting";
import { threshold } from "../screen/threshold";
import { readyBits, readyGray, readyRgba } from "../raster/halve";
import { newRgba, type Bits, type Gray, type Rect, type Rgba } from "../raster/types";
import { viewBits, viewGray, viewRgba, viewTone } from "../view/view";
import { type Plates, type Print } from "../result/result";
import { lightOf } from "./model";
import { MOST_TONES, seenDots, type SeenPlate } from "./seenDots";

/** How a print is looked at. */
export interface PrintView {
  /** Another garment, and other colours by name of plate, for the same films. 0xrrggbb */
  readonly garment?: number;
  readonly colours?: Readonly<Record<string, number>>;
  /** Plates as black films on white, instead of as inks on the garment. */
  readonly films?: boolean;
  /** Where the print is off the art, and by how much. */
  readonly error?: boolean;
  /** Each plate but the first is off by so much, each to another side. */
  readonly shiftMm?: number;
}

/** What is needed of a view. */
interface Seen {
  readonly part: Rect;
  readonly width: number;
  readonly height: number;
  readonly hidden?: readonly string[];
}

/** From so many dots to a screen pixel on, tones are seen instead of the dots that stand for them. */
const FAR = 2;

/**
 * The print as the model predicts it: from the dots themselves when near, from the tones that they stand for when far;
 * solid dots are looked at themselves from afar too. The whole piece is garment.
 */
export function* seenPrint(plates: Plates, view: Seen, way: PrintView = {}): Work<Rgba> {
  const { width, height, hidden = [] } = view;
  const shown = plates.plates.flatMap(({ name }, k) => (hidden.includes(name) ? [] : [k]));
  const toned = (k: number, own: Rect) => plateSeen(plates, k, own, width, height);
  const most = MOST_FOLLOWED;
  const seen = yield* workSlice(printSeen(plates, shown, { toned, most }, view, way), 0, 0.8);
  return way.error ? yield* workSlice(errorOver(plates.print!, seen, view, plates), 0.8, 1) : seen;
}

/** Dots that are looked at one by one while a hand moves the table; of more, one for each of the finish's pixels. */
const MOST_FOLLOWED = 32e6;

interface Looking {
  /** A plate with a screen as it is seen in a part of the film, 255 = bare. */
  readonly toned: (k: number, part: Rect) => Work<Gray>;
  /** Dots in the part that are looked at one by one at most. */
  readonly most: number;
}

function* printSeen(
  plates: Plates,
  shown: readonly number[],
  { toned, most }: Looking,
  { part, width, height }: Seen,
  way: PrintView,
): Work<Rgba> {
  const print = plates.print!;
  const inks = shown.map((k) => {
    const { name, ink } = plates.plates[k];
    return {
      light: lightOf(way.films ? 0x15181d : (way.colours?.[name] ?? ink)),
      opacity: way.films ? 1 : print.inks[k].opacity,
    };
  });
  const ground = lightOf(way.films ? 0xffffff : (way.garment ?? print.garment));
  const solid = shown.filter((k) => print.inks[k].solid).length;
  const isNear = part.width < width || part.height < height;
  const byDots = !isNear && solid > 0 && shown.length - solid <= MOST_TONES;
  const times = part.width * part.height > most ? plates.finish.widthPx / print.tones[0].width : 1;
  const looked = scaled(part, 1 / times);
  const seen: SeenPlate[] = [];
  for (const [n, k] of shown.entries()) {
    const at = (share: number): number => (0.6 * (n + share)) / shown.length;
    const own = shiftedBy(plates, k, part, way.shiftMm);
    if (byDots && print.inks[k].solid) {
      const bits = yield* workSlice(solidDots(plates, k, times > 1), at(0), at(1));
      const [x, y] = [Math.round((own.x - part.x) / times), Math.round((own.y - part.y) / times)];
      seen.push({ ...inks[n], dots: { bits, x, y }, share: null, under: false });
    } else {
      const { data } = yield* workSlice(toned(k, own), at(0), at(1));
      seen.push({ ...inks[n], dots: null, share: data, under: print.inks[k].role === "underbase" });
    }
  }
  if (byDots) return yield* workSlice(seenDots(seen, ground, looked, width, height), 0.6, 1);
  const shares = seen.map(({ share }) => ({ data: share! }));
  return yield* workSlice(laidOver(shares, inks, ground, width, height), 0.6, 1);
}

/** One dot for each pixel of the finish. */
const dotsOfTone = new WeakMap<Gray, Bits>();

/** The dots of a plate without a screen; a first look has none of its own. @param few  of the finish's size */
function* solidDots(plates: Plates, k: number, few: boolean): Work<Bits> {
  const { bits } = plates.plates[k];
  if (bits.width > 0 && !few) return bits;
  const tone = plates.print!.tones[k];
  let own = dotsOfTone.get(tone);
  if (!own) dotsOfTone.set(tone, (own = yield* threshold(tone, SOLID.mask.thresholds[0])));
  return own;
}

/** One plate as a screen shows it, 255 = bare. */
function* plateSeen(plates: Plates, k: number, part: Rect, width: number, height: number): Work<Gray> {
  const { bits } = plates.plates[k];
  const tone = plates.print!.tones[k];
  const times = plates.finish.widthPx / tone.width;
  if (part.width / width < FAR * Math.max(1, times) && bits.width > 0) {
    yield* readyBits(bits, part.width / width);
    return viewBits(bits, part, width, height);
  }
  const own = scaled(part, 1 / times);
  yield* readyGray(tone, own.width / width);
  return viewTone(tone, own, width, height, bits.width === 0 ? 1 : 4);
}

const scaled = ({ x, y, width, height }: Rect, by: number): Rect => ({
  x: x * by,
  y: y * by,
  width: width * by,
  height: height * by,
});

/** Inks are off to all sides, a golden turn apart: no two of them the same way. */
const GOLDEN_TURN = 0.7639320225002102; // of half a turn

function shiftedBy({ finish }: Plates, k: number, part: Rect, shiftMm = 0): Rect {
  if (k === 0 || shiftMm === 0) return part;
  const by = shiftMm * dotsPerMm(finish);
  const turn = k * GOLDEN_TURN;
  return { ...part, x: part.x - by * sinPi(turn + 0.5), y: part.y - by * sinPi(turn) };
}

/**
 * Inks by their shares one over another in linear light, on a ground.
 * @param shares  one a layer, greys, 255 = bare
 * @see `printedLight` for the model
 */
export function* laidOver(
  shares: readonly { readonly data: Uint8Array }[],
  inks: readonly { readonly light: readonly number[]; readonly opacity: number }[],
  ground: readonly number[],
  width: number,
  height: number,
): Work<Rgba> {
  const out = newRgba(width, height);
  const count = width * height;
  const [r, g, b] = [0, 1, 2].map(() => new Float64Array(Math.min(count, LAID_AT_ONCE)));
  // Covered wholly, light g becomes own (opacity + (1 - opacity) g): so much times g, and so much more.
  const layers = inks.map(({ light, opacity }) => ({
    times: light.map((own) => (own * (1 - opacity) - 1) / 255),
    plus: light.map((own) => (own * opacity) / 255),
  }));
  for (let from = 0; from < count; from += LAID_AT_ONCE) {
    if (from % PORTION === 0) yield from / count;
    const some = Math.min(LAID_AT_ONCE, count - from);
    r.fill(ground[0]);
    g.fill(ground[1]);
    b.fill(ground[2]);
    for (const [k, { times, plus }] of layers.entries())
      layOver(r, g, b, shares[k].data.subarray(from, from + some), times, plus);
    [r, g, b].forEach((light, c) => codesOf(light.subarray(0, some), out.data, 4 * from + c));
  }
  for (let o = 3; o < out.data.length; o += 4) out.data[o] = 255;
  return out;
}

/** Pixels whose light stays near the processor while all inks are laid over it. */
const LAID_AT_ONCE = 2048;
const PORTION = 32 * LAID_AT_ONCE;

function layOver(
  r: Float64Array,
  g: Float64Array,
  b: Float64Array,
  share: Uint8Array,
  [tr, tg, tb]: readonly number[],
  [pr, pg, pb]: readonly number[],
): void {
  for (let i = 0; i < share.length; i++) {
    const amount = 255 - share[i];
    if (amount === 0) continue;
    r[i] += amount * (r[i] * tr + pr);
    g[i] += amount * (g[i] * tg + pg);
    b[i] += amount * (b[i] * tb + pb);
  }
}

function codesOf(light: Float64Array, out: Uint8Array, at: number): void {
  for (let i = 0, o = at; i < light.length; i++, o += 4)
    out[o] = CODE_OF_LINEAR[Math.min(CODE_STEPS, Math.max(0, (light[i] * CODE_STEPS + 0.5) | 0))];
}

/** Differences of colour up to this one come out on the scale of the picture of errors. */
const MOST_SHOWN = 12;

/** Where the print is off: the art in pale grey, and over it red as strong as the CIEDE2000 difference. */
function* errorOver(
  { art, garment }: Print,
  seen: Rgba,
  { part, width, height }: Seen,
  plates: Plates,
): Work<Rgba> {
  const own = scaled(part, art.width / plates.finish.widthPx);
  yield* readyRgba(art, own.width / width);
  const wanted = viewRgba(art, own, width, height);
  const out = newRgba(width, height);
  const base = [garment >> 16, (garment >> 8) & 255, garment & 255];
  const atOnce = Math.max(1, Math.floor(rowsAtOnce(width) / 32));
  for (let y = 0, o = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 0; x < width; x++, o += 4) {
      const alpha = wanted.data[o + 3] / 255;
      const art8 = base.map((g, c) => Math.round(g + (wanted.data[o + c] - g) * alpha));
      const off = Math.min(1, differenceOf(seen.data, o, art8) / MOST_SHOWN);
      const grey = 150 + Math.round(oklabOf(art8[0], art8[1], art8[2]).l);
      out.data[o] = Math.round(grey + (190 - grey) * off);
      out.data[o + 1] = out.data[o + 2] = Math.round(grey * (1 - off));
      out.data[o + 3] = 255;
    }
  }
  return out;
}

/** CIEDE2000 of a pixel and a colour, of sRGB codes. */
export function differenceOf(data: Uint8Array, o: number, codes: readonly number[]): number {
  const [one, other] = [
    lightOf((data[o] << 16) | (data[o + 1] << 8) | data[o + 2]),
    lightOf((codes[0] << 16) | (codes[1] << 8) | codes[2]),
  ];
  return ciede2000(cielabOf(...one), cielabOf(...other));
}

/** A print that is handed to a customer holds at most so many pixels. */
const MOST_PROOF = 16e6;

/** The whole print as predicted, pixel for pixel of the finish where that is not too much. */
export function* proofOf(plates: Plates, way: PrintView = {}): Work<Rgba> {
  const { width, height } = plates.print!.tones[0];
  let by = 1;
  while ((width * height) / by / by > MOST_PROOF) by *= 2;
  const size = [width, height].map((side) => Math.max(1, Math.floor(side / by)));
  return yield* proofIn(plates, size[0], size[1], way);
}

/** The whole print at a size in pixels. */
export function* proofIn(plates: Plates, width: number, height: number, way: PrintView = {}): Work<Rgba> {
  const { widthPx, heightPx } = plates.finish;
  const part = { x: 0, y: 0, width: widthPx, height: heightPx };
  const shown = Array.from(plates.plates.keys());
  const toned = function* (k: number): Work<Gray> {
    const tone = plates.print!.tones[k];
    if (width === tone.width && height === tone.height) return tone;
    yield* readyGray(tone, tone.width / width);
    return viewGray(tone, { x: 0, y: 0, width: tone.width, height: tone.height }, width, height);
  };
  return yield* printSeen(plates, shown, { toned, most: Infinity }, { part, width, height }, way);
}
