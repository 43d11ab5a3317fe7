import { codesOf, labDistance } from "../colour/oklab";
import { mixture } from "../colour/mixture";
import { inStretches, portion, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { labOf } from "./colourCount";
import { labOfHex } from "./clusters";

/** The cloth: what takes no ink. */
const CLOTH = 0xff;
/** Marks a pixel that is none of the colours, but on the way between two. */
const MIXED = 0x80;
/** A pixel is a colour as it is when it is off by less than this, or by this share of the way to the next colour. */
const NOISE = 9;
const OF_THE_WAY = 0.3;
/** Off the line between two colours by more than this share of it, a mixture is of others. */
const OFF_LINE = 0.25;
/** How far about a mixed pixel the colours are looked for that it is mixed of. */
const REACHES = [1, 2, 4];

export interface FlatWish {
  /** #rrggbb of each ink, and of the cloth. */
  readonly inks: readonly string[];
  readonly garment: string;
  /** So near the cloth's colour, in hundredths of OKLab, art is taken for cloth. */
  readonly tolerance: number;
}

/**
 * Every pixel to its ink. A pixel at an edge is shared between the two inks that meet there, as it lies between their
 * colours; with the cloth it is shared likewise. Shares come to the whole of the pixel, so where two inks meet there is
 * neither a third colour nor a seam.
 *
 * @returns for each ink a plane of greys, 255 = bare
 */
export function* separateFlat({ width, height, data }: Rgba, wish: FlatWish): Work<Uint8Array[]> {
  const count = width * height;
  const colours = new Uint32Array(data.buffer, data.byteOffset, count);
  const labels = yield* portion(labelsOf(colours, wish), 0, 0.4);
  const planes = wish.inks.map(() => new Uint8Array(count).fill(255));
  const centres = [...wish.inks, wish.garment].map(codesOf);
  const share = (label: number, i: number, part: number): void => {
    if (label < planes.length) planes[label][i] -= Math.min(planes[label][i], part);
  };
  yield* portion(
    inStretches(count, (from, to) => {
      for (let i = from; i < to; i++) {
        const label = labels[i];
        if (label === CLOTH) continue;
        const alpha = data[4 * i + 3];
        if (label < MIXED) {
          planes[label][i] = 255 - alpha;
          continue;
        }
        const [one, other, part] = mixedOf(data, labels, i, width, height, centres, label & ~MIXED);
        const first = Math.round(part * alpha);
        share(one, i, first);
        share(other, i, alpha - first);
      }
    }),
    0.4,
    1,
  );
  return planes;
}

/** For each pixel the ink it is nearest to, `MIXED` where it is not near enough; `CLOTH` where nothing is printed. */
function* labelsOf(colours: Uint32Array, { inks, garment, tolerance }: FlatWish): Work<Uint8Array> {
  const centres = inks.map(labOfHex);
  const cloth = labOfHex(garment);
  // An ink of the cloth's own colour is meant to be printed.
  const own = centres.some((c) => labDistance(c, cloth) < 3) ? null : cloth;
  const all = own ? [...centres, own] : centres;
  const free = all.map((c) =>
    Math.min(...all.filter((d) => d !== c).map((d) => OF_THE_WAY * labDistance(c, d)), NOISE),
  );
  const labelOf = (colour: number): number => {
    const lab = labOf(colour & 255, (colour >> 8) & 255, (colour >> 16) & 255);
    if (own && labDistance(lab, own) <= tolerance) return CLOTH;
    let [best, least] = [0, Infinity];
    for (const [k, centre] of all.entries()) {
      const d = labDistance(lab, centre);
      if (d < least) [best, least] = [k, d];
    }
    if (least > free[best]) return best | MIXED;
    return best === inks.length ? CLOTH : best;
  };
  const labels = new Uint8Array(colours.length);
  const slots = 1 << 16;
  const keys = new Int32Array(slots).fill(-1);
  const known = new Uint8Array(slots);
  yield* inStretches(colours.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const pixel = colours[i];
      if (pixel >>> 24 === 0) {
        labels[i] = CLOTH;
        continue;
      }
      const colour = pixel & 0xffffff;
      const slot = Math.imul(colour, 0x9e3779b1) >>> 16;
      if (keys[slot] !== colour) {
        keys[slot] = colour;
        known[slot] = labelOf(colour);
      }
      labels[i] = known[slot];
    }
  });
  return labels;
}

/** Which two inks a pixel is shared between, and the first one's part: of those about it the two that explain it best. */
function mixedOf(
  data: Uint8Array,
  labels: Uint8Array,
  i: number,
  width: number,
  height: number,
  centres: readonly (readonly number[])[],
  nearest: number,
): [one: number, other: number, part: number] {
  const cloth = centres.length - 1;
  const pixel = data.subarray(4 * i, 4 * i + 3);
  // An even area of a colour that no ink has is no edge: it goes to the ink it is most like.
  if (isEven(data, i, width, height)) return [nearest, nearest, 1];
  let alone = nearest;
  for (const reach of REACHES) {
    const about = labelsAbout(labels, i, width, height, reach, cloth);
    if (about.length === 1) alone = about[0];
    if (about.length < 2) continue;
    const best = bestPair(pixel, centres, about);
    if (best.off <= OFF_LINE) return [best.one, best.other, best.part];
  }
  // A stroke so thin that nothing of it is whole: of all colours, those that explain it.
  const every = bestPair(pixel, centres, Array.from(centres.keys()));
  if (every.off <= OFF_LINE / 2 && (every.one === alone || every.other === alone))
    return [every.one, every.other, every.part];
  return [alone, alone, 1];
}

/** An area is even where so far off to all sides no channel differs by more than noise does. */
const EVEN_OVER = 4;
const EVEN_WITHIN = 16;

function isEven(data: Uint8Array, i: number, width: number, height: number): boolean {
  const [x, y] = [i % width, Math.floor(i / width)];
  for (const by of [EVEN_OVER, EVEN_OVER * width]) {
    const along = by === EVEN_OVER ? [x, width] : [y, height];
    for (const sign of [-1, 1]) {
      const at = along[0] + sign * EVEN_OVER;
      if (at < 0 || at >= along[1]) continue;
      const o = 4 * (i + sign * by);
      if (data[o + 3] === 0) continue;
      for (let c = 0; c < 3; c++) if (Math.abs(data[o + c] - data[4 * i + c]) > EVEN_WITHIN) return false;
    }
  }
  return true;
}

function labelsAbout(
  labels: Uint8Array,
  i: number,
  width: number,
  height: number,
  reach: number,
  cloth: number,
): number[] {
  const [x, y] = [i % width, Math.floor(i / width)];
  let seen = 0;
  for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
    for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++) {
      const label = labels[v * width + u];
      if (label === CLOTH) seen |= 1 << cloth;
      else if (label < MIXED) seen |= 1 << label;
    }
  const list: number[] = [];
  for (let k = 0; k <= cloth; k++) if ((seen >> k) & 1) list.push(k);
  return list;
}

function bestPair(
  pixel: Uint8Array,
  centres: readonly (readonly number[])[],
  among: readonly number[],
): { one: number; other: number; part: number; off: number } {
  let best = { one: among[0], other: among[0], part: 1, off: Infinity };
  let least = Infinity;
  for (const [k, one] of among.entries())
    for (const other of among.slice(k + 1)) {
      const { share, off, whole } = mixture(pixel, centres[one], centres[other]);
      const part = Math.min(1, Math.max(0, share));
      // Beyond either end the pixel is off by what is left as well; counted in code values, as pairs differ in length.
      const distance = Math.sqrt((off * off + (share - part) * (share - part)) * whole);
      if (distance < least) [least, best] = [distance, { one, other, part, off: distance / Math.sqrt(whole) }];
    }
  return best;
}
