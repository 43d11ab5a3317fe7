import { percentile } from "../maths/percentile";
import { inStretches, rowsAtOnce, workSlice, type Work } from "../maths/work";
import { TINT, type Rgba } from "../raster/types";
import { componentsOf, type Component } from "../region/components";
import { squaredDistanceTo } from "../region/distance";
import { bareOf, groundTold, MOST_APART, UNLIKE } from "./ground";
import { type Surface } from "./surface";

// Thresholds: what they decide is measured by `npm run losses`.

/** What was taken is unlike the ground from so many times its usual grain on. */
const GRAINS = 4;
/** Pixels about one that are looked at together with it, and the share of the limit by which they must be off. */
const [ABOUT, TOGETHER] = [3, 0.7];
/** Of a pixel and its eight neighbours so many must be unlike: grain is no part. */
const MOSTLY = 5;
/** With a larger share of it unlike, the ground has too many colours to tell what is not of it. */
const UNEVEN = 0.2;
/** Within so many pixels of the art a mixture of both is taken with the ground, and a JPEG's ripples are. */
const BESIDE = 3.5;
/** Pixels further off that make a part: so many, and no less than this share of the picture. */
const [LEAST_PIXELS, LEAST_SHARE] = [14, 1 / 15000];

/**
 * A part of the picture that was taken away although it is unlike the ground about it; `strong` are its pixels that do not
 * lie right beside the art.
 */
export interface LostPart extends Component {
  /** It runs out towards the ground, as a shadow, smoke or a wash does, in place of ending at an edge. */
  readonly runsOut: boolean;
}

/** What was taken and is unlike the ground. */
export interface Unlike {
  /** 1 for every pixel that is so together with those about it. */
  readonly unlike: Uint8Array;
  /** How many. */
  readonly many: number;
  /** Whether a pixel is so by itself, be it by grain: at a part's edge. */
  readonly isOff: (i: number) => boolean;
  /** How far each pixel that was taken is from the ground, in code values. */
  readonly apart: Uint16Array;
}

/**
 * What was taken, and is unlike the ground as a smooth surface by more than its own grain.
 *
 * @param left   RGBA, the picture with what was taken made see-through
 * @param meant  1 where somebody decided by hand, which is not asked about; null for nowhere
 * @returns null where nothing was taken, or the ground has too many colours to tell
 */
export function* unlikeGround(source: Rgba, left: Uint8Array, meant: Uint8Array | null): Work<Unlike | null> {
  const { width, height } = source;
  const bare = yield* workSlice(bareOf(source, left, meant), 0, 0.1);
  const apart = new Uint16Array(bare.length);
  const ground = yield* workSlice(groundTold(source, bare, apart), 0.1, 0.7);
  if (!ground) return null;
  const limit = Math.max(UNLIKE, GRAINS * ground.grain);
  const single = yield* workSlice(offTogether(source, bare, apart, limit, ground.surface), 0.7, 0.9);
  const unlike = new Uint8Array(bare.length);
  const many = yield* workSlice(mostly(single, bare, unlike, width, height), 0.9, 1);
  let taken = 0;
  yield* inStretches(bare.length, (from, to) => {
    for (let i = from; i < to; i++) taken += bare[i];
  });
  const isOff = (i: number): boolean => bare[i] === 1 && apart[i] > limit;
  return many > UNEVEN * taken ? null : { unlike, many, isOff, apart };
}

/**
 * Parts of the art that went with the ground, largest first: by themselves, ends and bits of edges, from a few pixels on
 * that do not lie right beside what was kept.
 *
 * @returns null as `unlikeGround`
 */
export function* lostParts(
  source: Rgba,
  left: Uint8Array,
  meant: Uint8Array | null,
): Work<readonly LostPart[] | null> {
  const { width, height } = source;
  const found = yield* workSlice(unlikeGround(source, left, meant), 0, 0.6);
  if (!found || found.many === 0) return found && [];
  const { unlike, apart } = found;
  const kept = new Uint8Array(unlike.length);
  yield* inStretches(kept.length, (from, to) => {
    for (let i = from; i < to; i++) kept[i] = left[4 * i + 3] >= TINT ? 1 : 0;
  });
  const off = yield* workSlice(squaredDistanceTo(kept, width, height), 0.6, 0.85);
  const rows = (y: number, row: Uint8Array): void => {
    for (let x = 0, i = y * width; x < width; x++, i++)
      row[x] = unlike[i] ? (off[i] > BESIDE * BESIDE ? 2 : 1) : 0;
  };
  const least = Math.max(LEAST_PIXELS, LEAST_SHARE * unlike.length);
  const all = yield* workSlice(componentsOf(width, height, rows, LEAST_PIXELS), 0.85, 1);
  const parts = all
    .filter((c) => c.strong >= least)
    .sort((a, b) => b.strong - a.strong || a.y - b.y || a.x - b.x);
  const told: LostPart[] = [];
  for (const part of parts) {
    // Of so many nobody asks how each of them ends.
    const ends = told.length < MOST_TOLD ? yield* runsOut(part, unlike, apart, width) : false;
    told.push({ ...part, runsOut: ends });
  }
  return told;
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
