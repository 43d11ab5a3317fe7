import { lightRow, lumaAt, type Light } from "../clear/paper";
import { sheetOf } from "./sheet";
import { codesOf, labDistance, oklabOf } from "../colour/oklab";
import { TINT, type Rgba } from "../raster/types";

export type Kind = "photograph" | "ink on paper" | "flat art" | "cut out";

/** The figures that the kind is told from, each 0..1. */
export interface KindFigures {
  /** Pixels that are clear. */
  readonly clear: number;
  /** Of what is not ground: pixels of the commonest few colours, edges left aside. */
  readonly flat: number;
  /** Pixels as light as the paper, light evened. */
  readonly paper: number;
  /** Pixels between paper and ink that are not beside an edge. */
  readonly middle: number;
  /** Mean colourfulness of what is not paper, in OKLab. */
  readonly chroma: number;
  /** Light of the dimmest tile by that of the brightest. */
  readonly light: number;
  /** Tiles of the picture that lie on one smooth fall of light, as a sheet of paper does. */
  readonly sheet: number;
  /** Of what is not ground: pixels that are the same as all around them, to a code value or two. */
  readonly still: number;
  /** How much of the dark is edge: 1 for hairlines, near 0 for solid shapes. */
  readonly thin: number;
}

// Thresholds: what they decide is measured by `npm run kinds`.

/** Colours that are counted, commonest first, and how far from its own, in hundredths of OKLab, a ground reaches. */
const FLAT_COLOURS = 10;
const GROUND_REACH = 6;

export function kindFigures(small: Rgba, ground: string | null): KindFigures {
  const { width, height, data } = small;
  const count = width * height;
  let clear = 0;
  for (let i = 3; i < data.length; i += 4) if (data[i] < TINT) clear++;
  const { light, sheet, least } = sheetOf(small);
  const luma = evenedLuma(small, light);
  const calm = calmPixels(luma, width, height);
  const drawn = notGround(small, ground);
  return {
    clear: clear / count,
    flat: flatShare(data, calm, drawn),
    ...paperFigures(small, luma, calm),
    sheet,
    still: stillShare(small, calm, drawn),
    light: least,
  };
}

function evenedLuma({ width, height, data }: Rgba, light: Light): Float32Array {
  const luma = new Float32Array(width * height);
  const row = new Float64Array(width);
  for (let y = 0, i = 0; y < height; y++) {
    lightRow(light, width, height, y, row);
    for (let x = 0; x < width; x++, i++)
      luma[i] = data[i * 4 + 3] < TINT ? 1 : Math.min(1.2, lumaAt(data, i * 4) / row[x]);
  }
  return luma;
}

/** 1 where a pixel is not of the colour along the picture's edge. */
function notGround({ data }: Rgba, ground: string | null): Uint8Array {
  const drawn = new Uint8Array(data.length / 4).fill(1);
  if (!ground) return drawn;
  const [r, g, b] = codesOf(ground);
  const centre = oklabOf(r, g, b);
  for (let i = 0, o = 0; i < drawn.length; i++, o += 4)
    if (labDistance(oklabOf(data[o], data[o + 1], data[o + 2]), centre) < GROUND_REACH) drawn[i] = 0;
  return drawn;
}

/** 1 where a pixel differs little from those around it. */
function calmPixels(luma: Float32Array, width: number, height: number): Uint8Array {
  const calm = new Uint8Array(luma.length);
  for (let y = 1; y + 1 < height; y++)
    for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
      const across = Math.abs(luma[i + 1] - luma[i - 1]);
      const down = Math.abs(luma[i + width] - luma[i - width]);
      calm[i] = across + down < 0.09 ? 1 : 0;
    }
  return calm;
}

/** Share of solid, calm pixels that no neighbour differs from by more than two code values. */
function stillShare({ width, height, data }: Rgba, calm: Uint8Array, drawn: Uint8Array): number {
  let still = 0;
  let all = 0;
  for (let y = 1; y + 1 < height; y++)
    for (let x = 1; x + 1 < width; x++) {
      const o = (y * width + x) * 4;
      if (data[o + 3] < 128 || !drawn[y * width + x] || !calm[y * width + x]) continue;
      all++;
      let same = 1;
      for (let k = 0; k < 3; k++) {
        const v = data[o + k];
        if (
          Math.abs(data[o + k + 4] - v) > 2 ||
          Math.abs(data[o + k - 4] - v) > 2 ||
          Math.abs(data[o + k + width * 4] - v) > 2 ||
          Math.abs(data[o + k - width * 4] - v) > 2
        )
          same = 0;
      }
      still += same;
    }
  return all === 0 ? 1 : still / all;
}

/** Share of calm pixels within a small distance of the ten commonest colours. */
function flatShare(data: Uint8Array, calm: Uint8Array, drawn: Uint8Array): number {
  const counts = new Map<number, number>();
  let all = 0;
  for (let i = 0, o = 0; i < calm.length; i++, o += 4) {
    if (!calm[i] || !drawn[i] || data[o + 3] < 128) continue;
    all++;
    const key = ((data[o] >> 3) << 10) | ((data[o + 1] >> 3) << 5) | (data[o + 2] >> 3);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  if (all === 0) return 1;
  const ordered = [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
  const lab = (key: number) =>
    oklabOf(((key >> 10) << 3) | 4, (((key >> 5) & 31) << 3) | 4, ((key & 31) << 3) | 4);
  let share = 0;
  const taken = new Set<number>();
  for (let n = 0; n < FLAT_COLOURS; n++) {
    const centre = ordered.find(([key]) => !taken.has(key));
    if (!centre) break;
    const c = lab(centre[0]);
    for (const [key, pixels] of ordered) {
      if (taken.has(key)) continue;
      const k = lab(key);
      if (Math.abs(k.l - c.l) > 3.2 || Math.abs(k.a - c.a) > 2.4 || Math.abs(k.b - c.b) > 2.4) continue;
      taken.add(key);
      share += pixels;
    }
  }
  return share / all;
}

function paperFigures({ data }: Rgba, luma: Float32Array, calm: Uint8Array) {
  const counts = new Float64Array(320);
  for (const v of luma) counts[Math.min(319, Math.round(v * 255))]++;
  let peak = 150;
  for (let bin = 150; bin < 320; bin++) if (counts[bin] > counts[peak]) peak = bin;
  const white = peak / 255;
  let [paper, middle, dark, darkCalm, other, chroma] = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < luma.length; i++) {
    const tone = luma[i] / white;
    if (tone > 0.88) paper++;
    else {
      const { a, b } = oklabOf(data[i * 4], data[i * 4 + 1], data[i * 4 + 2]);
      chroma += Math.sqrt(a * a + b * b);
      other++;
      if (tone < 0.6) {
        dark++;
        darkCalm += calm[i];
      } else if (calm[i]) middle++;
    }
  }
  return {
    paper: paper / luma.length,
    middle: middle / luma.length,
    chroma: other === 0 ? 0 : chroma / other,
    thin: dark === 0 ? 0 : 1 - darkCalm / dark,
  };
}

/** What a picture is, by its figures. */
export function kindOf(f: KindFigures, pureGround: boolean): Kind {
  if (f.clear > 0.02) return "cut out";
  const inked = f.sheet > 0.7 && f.paper > 0.5 && f.middle < 0.05 && (f.chroma < 9 || isLinework(f));
  const flat = isFlat(f);
  if (pureGround && flat) return "flat art";
  if (inked && (!pureGround || f.thin > 0.55)) return "ink on paper";
  if (flat) return "flat art";
  return inked && f.thin > 0.4 ? "ink on paper" : "photograph";
}

/** Few colours, and still where a photograph has shading and grain. A poor JPEG ripples, so not all need be still. */
const isFlat = (f: KindFigures): boolean => f.flat > 0.885 && stillOf(f) > 0.31;

/** In a grey picture the three channels are one, and its grain has one chance in place of three to show. */
const stillOf = (f: KindFigures): number => (f.chroma < GREY ? f.still * f.still * f.still : f.still);
/** Mean chroma, in hundredths of OKLab, under which a picture is grey: a scanner's tint is less. */
const GREY = 0.5;

/** Hairlines on nothing but paper are ink, whatever its colour. */
const isLinework = (f: KindFigures): boolean => f.thin > 0.6 && f.sheet > 0.9;
