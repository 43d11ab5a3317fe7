import { labOf, labOfHex } from "./glareLab";
import { codesOf, labDistance } from "../colour/oklab";
import { inStretches, workSlice, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { markEdges } from "./flatEdges";
import { CLOTH, MIXED, numbersIn, THIN } from "./flatLabels";
import { bestOf, bestPair, sharply, type Sharp } from "./twoInks";

// Thresholds: what they decide is measured by `npm run films`.

/** A pixel is a colour as it is when it is off by less than this, or by this share of the way to the next colour. */
const NOISE = 9;
/** A pixel is of a colour when it is this near, and nearer than this share of the way to the next colour. */
const OF_THE_WAY = 0.3;
/** An ink this near to the cloth is the cloth's own colour. */
const OWN = 1.5;
/** Off the line between two colours by more than this share of it, a mixture is of others. */
const OFF_LINE = 0.25;
/** How far about a mixed pixel the colours are looked for that it is mixed of. */
const REACHES = [1, 2, 3, 5];

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
  const labels = yield* workSlice(labelsOf(colours, wish), 0, 0.3);
  const planes = wish.inks.map(() => new Uint8Array(count).fill(255));
  const centres = [...wish.inks, wish.garment].map((hex) => sharply(codesOf(hex)));
  yield* workSlice(markEdges(data, labels, width, height, centres), 0.3, 0.5);
  const mixed = new Mixed(data, labels, width, height, centres);
  yield* workSlice(
    inStretches(count, (from, to) => sharePixels(labels, planes, mixed, from, to)),
    0.5,
    1,
  );
  return planes;
}

/** Four bytes to a word, but for those that are left over at the end. */
const inFours = (bytes: Uint8Array): Uint32Array =>
  new Uint32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2);

/** Pixels to their ink, as whole as the art is there; those on the way between two to either its part. */
function sharePixels(
  labels: Uint8Array,
  planes: readonly Uint8Array[],
  mixed: Mixed,
  from: number,
  to: number,
): void {
  const { data } = mixed;
  const colours = new Uint32Array(data.buffer, data.byteOffset, labels.length);
  const fours = inFours(labels);
  const planeFours = planes.map(inFours);
  for (let i = from; i < to; i++) {
    const label = labels[i];
    // Most art lies in areas: four pixels of one are looked at together.
    if ((i & 3) === 0 && fours[i >> 2] === Math.imul(label, 0x01010101) >>> 0) {
      if (label === CLOTH) {
        i += 3;
        continue;
      }
      if (label < THIN) {
        const all = colours[i] & colours[i + 1] & colours[i + 2] & colours[i + 3];
        if (all >>> 24 === 255) planeFours[label][i >> 2] = 0;
        else for (let k = i; k < i + 4; k++) planes[label][k] = 255 - data[4 * k + 3];
        i += 3;
        continue;
      }
    }
    if (label === CLOTH) continue;
    const alpha = data[4 * i + 3];
    if (label < THIN) {
      planes[label][i] = 255 - alpha;
      continue;
    }
    const [one, other, part] = label < MIXED ? mixed.thin(i, label & ~THIN) : mixed.of(i);
    const first = Math.round(part * alpha);
    if (one < planes.length) planes[one][i] -= Math.min(planes[one][i], first);
    if (other < planes.length) planes[other][i] -= Math.min(planes[other][i], alpha - first);
  }
}

/** For each pixel the ink it is nearest to, `MIXED` where it is not near enough; `CLOTH` where nothing is printed. */
function* labelsOf(colours: Uint32Array, { inks, garment, tolerance }: FlatWish): Work<Uint8Array> {
  const centres = inks.map(labOfHex);
  const cloth = labOfHex(garment);
  // An ink of the cloth's own colour is meant to be printed.
  const own = centres.some((c) => labDistance(c, cloth) < OWN) ? null : cloth;
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
  const [keys, known] = [new Int32Array(1 << 16).fill(-1), new Uint8Array(1 << 16)];
  yield* inStretches(colours.length, (from, to) =>
    labelPixels(colours, labels, keys, known, labelOf, from, to),
  );
  return labels;
}

/** Each colour's label is worked out once, as long as no other takes its place. */
function labelPixels(
  colours: Uint32Array,
  labels: Uint8Array,
  keys: Int32Array,
  known: Uint8Array,
  labelOf: (colour: number) => number,
  from: number,
  to: number,
): void {
  const fours = inFours(labels);
  let [last, label] = [0, CLOTH]; // nothing, which is cloth
  for (let i = from; i < to; i++) {
    const pixel = colours[i];
    // Of flat art most pixels are as the one before, and so are the next.
    if (pixel !== last) {
      last = pixel;
      const colour = pixel & 0xffffff;
      const slot = Math.imul(colour, 0x9e3779b1) >>> 16;
      if (pixel >>> 24 === 0) label = CLOTH;
      else {
        if (keys[slot] !== colour) {
          keys[slot] = colour;
          known[slot] = labelOf(colour);
        }
        label = known[slot];
      }
    } else if (
      (i & 3) === 0 &&
      i + 3 < to &&
      colours[i + 1] === last &&
      colours[i + 2] === last &&
      colours[i + 3] === last
    ) {
      fours[i >> 2] = Math.imul(label, 0x01010101);
      i += 3;
      continue;
    }
    labels[i] = label;
  }
}

/** An area is even where so far off to all sides no channel differs by more than noise does. */
const EVEN_OVER = 4;
const EVEN_WITHIN = 16;

/** What mixed pixels are mixed of. */
class Mixed {
  private readonly cloth: number;

  constructor(
    readonly data: Uint8Array,
    private readonly labels: Uint8Array,
    private readonly width: number,
    private readonly height: number,
    private readonly centres: readonly Sharp[],
  ) {
    this.cloth = centres.length - 1;
  }

  /** Which two inks a pixel is shared between, and the first one's part: of those about it the two that explain it best. */
  of(i: number): [one: number, other: number, part: number] {
    const { data, centres } = this;
    const nearest = this.labels[i] & ~MIXED;
    // An even area of a colour that no ink has is no edge: it goes to the ink it is most like.
    if (this.isEven(i)) return [nearest, nearest, 1];
    const pixel = sharply(data, 4 * i);
    let alone = nearest;
    for (const reach of REACHES) {
      const about = this.labelsAbout(i, reach);
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

  /** The same of a pixel of a thin stroke: with one of those beside it, or its ink alone. */
  thin(i: number, ink: number): [one: number, other: number, part: number] {
    const { data, centres } = this;
    const pixel = sharply(data, 4 * i);
    for (const reach of REACHES) {
      const others = this.labelsAbout(i, reach).filter((k) => k !== ink);
      if (others.length === 0) continue;
      const best = bestOf(
        pixel,
        centres,
        others.map((k) => [ink, k]),
      );
      return best.off <= OFF_LINE ? [best.one, best.other, best.part] : [ink, ink, 1];
    }
    return [ink, ink, 1];
  }

  private isEven(i: number): boolean {
    const { data, width, height } = this;
    const [x, y] = [i % width, Math.floor(i / width)];
    return (
      (x < EVEN_OVER || this.isAlike(i, i - EVEN_OVER)) &&
      (x + EVEN_OVER >= width || this.isAlike(i, i + EVEN_OVER)) &&
      (y < EVEN_OVER || this.isAlike(i, i - EVEN_OVER * width)) &&
      (y + EVEN_OVER >= height || this.isAlike(i, i + EVEN_OVER * width)) &&
      data[4 * i + 3] > 0
    );
  }

  /** What is clear says nothing against it. */
  private isAlike(i: number, j: number): boolean {
    const { data } = this;
    const [o, p] = [4 * i, 4 * j];
    return (
      data[p + 3] === 0 ||
      (Math.abs(data[o] - data[p]) <= EVEN_WITHIN &&
        Math.abs(data[o + 1] - data[p + 1]) <= EVEN_WITHIN &&
        Math.abs(data[o + 2] - data[p + 2]) <= EVEN_WITHIN)
    );
  }

  private labelsAbout(i: number, reach: number): number[] {
    const { labels, width, height, cloth } = this;
    const [x, y] = [i % width, Math.floor(i / width)];
    let seen = 0;
    for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
      for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++) {
        const label = labels[v * width + u];
        if (label === CLOTH) seen |= 1 << cloth;
        else if (label < MIXED) seen |= 1 << (label & ~THIN);
      }
    return numbersIn(seen, cloth);
  }
}
