import { inStretches, rowsAtOnce, workSlice, type Work } from "../maths/work";
import { percentile } from "../maths/percentile";
import { TINT, type Rgba } from "../raster/types";
import { componentsOf, type Component } from "../region/components";
import { squaredDistanceTo } from "../region/distance";
import { Sums, Surface } from "./surface";

// Thresholds: what they decide is measured by `npm run losses`.

/** The ground is taken as even over this share of the picture's shorter side; at first, before it is known what is ground, over more. */
export const CELL = 1 / 24;
const WIDE_CELL = 1 / 2;
const LEAST_CELL = 8;
/** What differs from a first idea of the ground by more than so many times its usual grain is not ground. */
const OUTLIER = 3;
/** What was taken is unlike the ground from so many code values on, and so many times the ground's usual grain. */
export const UNLIKE = 9;
const GRAINS = 4;
/** Pixels about one that are looked at together with it, and the share of the limit by which they must be off. */
const [ABOUT, TOGETHER] = [3, 0.7];
/** Of a pixel and its eight neighbours so many must be unlike: grain is no part. */
const MOSTLY = 5;
/** With a larger share of it unlike, the ground has too many colours to tell what is not of it. */
const UNEVEN = 0.2;
/** So has one whose own pixels are usually further from it, in code values. */
const COARSE = 16;
/** Within so many pixels of the art a mixture of both is taken with the ground, and a JPEG's ripples are. */
const BESIDE = 3.5;
/** Pixels further off that make a part: so many, and no less than this share of the picture. */
const [LEAST_PIXELS, LEAST_SHARE] = [14, 1 / 15000];
/** Distances from the ground, in code values, are counted up to here. */
const MOST_APART = 442;

/** A part of the picture that was taken away although it is unlike the ground about it. */
export interface LostPart extends Component {
  /** Its pixels that do not lie right beside the art. */
  readonly clear: number;
  /** It runs out towards the ground, as a shadow, smoke or a wash does, in place of ending at an edge. */
  readonly runsOut: boolean;
}

export interface Lost {
  /** Largest first. */
  readonly parts: readonly LostPart[];
  /** 1 for every pixel that was taken and, with those about it, is unlike the ground: parts and all else. */
  readonly unlike: Uint8Array;
  /** Whether a pixel was taken and is unlike the ground, be it by grain: at a part's edge. */
  readonly isOff: (i: number) => boolean;
  /** What the ground is taken for; null where nothing was taken. */
  readonly ground: Ground | null;
}

/**
 * Parts of the art that went with the ground: what was taken, and is unlike the ground as a smooth surface by more than
 * its own grain. Parts by themselves, ends and bits of edges count from a few pixels on that do not lie right beside what
 * was kept.
 *
 * @param left   RGBA, the picture with what was taken made see-through
 * @param meant  1 where somebody took it away by hand, which is not asked about; null for nowhere
 * @returns null where the ground has too many colours to tell
 */
export function* lostParts(source: Rgba, left: Uint8Array, meant: Uint8Array | null): Work<Lost | null> {
  const { width, height, data } = source;
  const count = width * height;
  const bare = new Uint8Array(count);
  const kept = new Uint8Array(count);
  let taken = 0;
  const look = inStretches(count, (from, to) => {
    for (let i = from; i < to; i++) {
      kept[i] = left[4 * i + 3] >= TINT ? 1 : 0;
      bare[i] = !kept[i] && data[4 * i + 3] >= 128 && !meant?.[i] ? 1 : 0;
      taken += bare[i];
    }
  });
  yield* workSlice(look, 0, 0.05);
  const unlike = new Uint8Array(count);
  if (taken === 0) return { parts: [], unlike, isOff: () => false, ground: null };
  const side = Math.min(width, height);
  const apart = new Uint16Array(count);
  let ground = yield* workSlice(groundOf(source, bare, null, side * WIDE_CELL, apart), 0.05, 0.2);
  for (const at of [0.2, 0.3]) {
    const most = Math.max(UNLIKE, OUTLIER * ground.grain);
    const isGround = (i: number): boolean => apart[i] <= most;
    ground = yield* workSlice(groundOf(source, bare, isGround, side * CELL, apart), at, at + 0.1);
  }
  if (ground.grain > COARSE) return null;
  const limit = Math.max(UNLIKE, GRAINS * ground.grain);
  const single = yield* workSlice(offTogether(source, bare, apart, limit, ground.surface), 0.4, 0.55);
  const many = yield* workSlice(mostly(single, bare, unlike, width, height), 0.55, 0.65);
  if (many > UNEVEN * taken) return null;
  const isOff = (i: number): boolean => bare[i] === 1 && apart[i] > limit;
  if (many === 0) return { parts: [], unlike, isOff, ground };
  const off = yield* workSlice(squaredDistanceTo(kept, width, height), 0.65, 0.85);
  const rows = (y: number, row: Uint8Array): void => {
    for (let x = 0, i = y * width; x < width; x++, i++)
      row[x] = unlike[i] ? (off[i] > BESIDE * BESIDE ? 2 : 1) : 0;
  };
  const least = Math.max(LEAST_PIXELS, LEAST_SHARE * count);
  const all = yield* workSlice(componentsOf(width, height, rows, LEAST_PIXELS), 0.85, 1);
  const parts = all
    .filter((c) => c.strong >= least)
    .sort((a, b) => b.strong - a.strong || a.y - b.y || a.x - b.x);
  const told: LostPart[] = [];
  for (const part of parts) {
    // Of so many nobody asks how each of them ends.
    const ends = told.length < MOST_TOLD ? yield* runsOut(part, unlike, apart, width) : false;
    told.push({ ...part, clear: part.strong, runsOut: ends });
  }
  return { parts: told, unlike, isOff, ground };
}

/** Of a part that runs out, what lies at its edge towards the ground is so much nearer to the ground than its strongest tenth. */
const RUNS_OUT = 0.5;

/** Parts of which it is told, the largest. */
const MOST_TOLD = 50;

/** Whether a part has no edge of its own. What lies in its box is looked at, parts of others there too. */
function* runsOut(
  { x, y, width, height }: Component,
  unlike: Uint8Array,
  apart: Uint16Array,
  across: number,
): Work<boolean> {
  const [all, edge] = [new Float64Array(MOST_APART + 1), new Float64Array(MOST_APART + 1)];
  const atOnce = rowsAtOnce(8 * width);
  for (let v = y; v < y + height; v++) {
    if ((v - y) % atOnce === 0) yield 1;
    for (let u = x, i = v * across + x; u < x + width; u++, i++) {
      if (!unlike[i]) continue;
      all[apart[i]]++;
      const isEdge = [i - 1, i + 1, i - across, i + across].some((j) => !unlike[j] && apart[j] < apart[i]);
      if (isEdge) edge[apart[i]]++;
    }
  }
  return percentile(edge, 0.5) < RUNS_OUT * percentile(all, 0.9);
}

export interface Ground {
  readonly surface: Surface;
  /** How far its own pixels usually are from it, in code values. */
  readonly grain: number;
  /** Whether there was any of it to tell it by. */
  readonly known: boolean;
}

/** The ground as a smooth surface, and how far each bare pixel is from it, in code values. @param cellSide  in pixels */
export function* groundOf(
  { width, height, data }: Rgba,
  bare: Uint8Array,
  isGround: ((i: number) => boolean) | null,
  cellSide: number,
  apart: Uint16Array,
): Work<Ground> {
  const cell = Math.max(LEAST_CELL, Math.round(cellSide));
  const sums = new Sums(width, height, cell);
  const atOnce = rowsAtOnce(4 * width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.4 * y) / height;
    for (let x = 0; x < width; x++, i++)
      if (bare[i] && (!isGround || isGround(i)))
        sums.add(Math.floor(x / cell), Math.floor(y / cell), data, 4 * i);
  }
  const known = !sums.isEmpty;
  if (!known) sums.add(0, 0, data, 0);
  const surface = new Surface(sums, cell);
  const counts = new Float64Array(MOST_APART + 1);
  const of = new Float64Array(3);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.4 + (0.6 * y) / height;
    for (let x = 0; x < width; x++, i++) {
      if (!bare[i]) continue;
      surface.at(x, y, of);
      const [r, g, b] = [data[4 * i] - of[0], data[4 * i + 1] - of[1], data[4 * i + 2] - of[2]];
      apart[i] = Math.round(Math.sqrt(r * r + g * g + b * b));
      counts[apart[i]]++;
    }
  }
  return { surface, grain: percentile(counts, 0.5), known };
}

/**
 * Pixels further from the ground than a limit, and so with those about them taken together: a JPEG's ripples go to one side
 * and to the other, and come to little.
 */
function* offTogether(
  { width, height, data }: Rgba,
  bare: Uint8Array,
  apart: Uint16Array,
  limit: number,
  surface: Surface,
): Work<Uint8Array> {
  const out = new Uint8Array(bare.length);
  const of = new Float64Array(3);
  const atOnce = rowsAtOnce(8 * width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 0; x < width; x++, i++) {
      if (!bare[i] || apart[i] <= limit) continue;
      surface.at(x, y, of);
      let [r, g, b, count] = [0, 0, 0, 0];
      for (let v = Math.max(0, y - ABOUT); v <= Math.min(height - 1, y + ABOUT); v++)
        for (let u = Math.max(0, x - ABOUT); u <= Math.min(width - 1, x + ABOUT); u++) {
          const j = v * width + u;
          if (!bare[j]) continue;
          r += data[4 * j] - of[0];
          g += data[4 * j + 1] - of[1];
          b += data[4 * j + 2] - of[2];
          count++;
        }
      if (r * r + g * g + b * b > (TOGETHER * limit * count) ** 2) out[i] = 1;
    }
  }
  return out;
}

/** Notes the pixels about which most are set, themselves among them; returns how many. */
function* mostly(
  set: Uint8Array,
  within: Uint8Array,
  out: Uint8Array,
  width: number,
  height: number,
): Work<number> {
  let many = 0;
  const atOnce = rowsAtOnce(4 * width);
  for (let y = 1; y + 1 < height; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
      if (!within[i]) continue;
      const [above, below] = [i - width, i + width];
      const sum =
        set[above - 1] +
        set[above] +
        set[above + 1] +
        set[i - 1] +
        set[i] +
        set[i + 1] +
        set[below - 1] +
        set[below] +
        set[below + 1];
      if (sum < MOSTLY) continue;
      out[i] = 1;
      many++;
    }
  }
  return many;
}
