import { percentile } from "../maths/percentile";
import { inStretches, workSlice, type Work } from "../maths/work";
import { pixelAt, type At } from "../path/frame";
import { type Rgba } from "../raster/types";
import { Cells } from "./cells";
import { takeAway, type Clearing } from "./clearing";
import { bareOf, CELL, groundOf, groundTold, MOST_APART, UNLIKE, type Ground } from "./ground";

// Thresholds: what they decide is measured by `npm run translucent`.

/** What the ground is seen through changes from pixel to pixel by no more than so many code values, and so many times the ground's grain. */
const [STEP, STEP_GRAINS] = [12, 5];
/** It is followed while it differs from the ground by more than so many times its grain, and a code value. */
const GRAINS = 2;
/** The ground is told from cells so wide, in pixels, in and about which nothing of the part lies. */
const BESIDE = 16;
/** Pixels followed between two slices. */
const AT_ONCE = 1 << 15;

/** What becomes of a part through which the ground is seen. */
export type Through = "seeThrough" | "solid" | "gone";

/**
 * Parts through which an even ground is seen, such as a shadow, smoke, a pane or thin paint: freed of the ground, or taken as
 * they look, or let go. A part is what lies about a place as far as its colour changes slowly, whether it was taken or kept.
 *
 * Freed, a pixel gets the least cover, and the colour, that over the ground look as it did.
 *
 * @returns 1 for the pixels of the parts; null where there are none
 * @see Smith & Blinn, "Blue Screen Matting", SIGGRAPH 1996: on a known ground the cover is open; the least is taken
 */
export function* seenThrough(
  clearing: Clearing,
  places: readonly At[],
  as: Through,
): Work<Uint8Array | null> {
  const { source, data, taken } = clearing;
  const bare = yield* workSlice(bareOf(source, data, null), 0, 0.1);
  const first = yield* workSlice(groundTold(source, bare, new Uint16Array(bare.length)), 0.1, 0.5);
  if (!first) return null;
  const found = yield* workSlice(partAbout(clearing, places, first), 0.5, 0.6);
  if (found.length === 0) return null;
  const ground = yield* workSlice(groundBeside(clearing, found, first), 0.6, 0.7);
  const part = yield* workSlice(partAbout(clearing, places, ground), 0.7, 0.8);
  const strongest = yield* workSlice(strongestOf(source, part, ground), 0.8, 0.9);
  const plane = new Uint8Array(taken.length);
  const whole = (i: number): void => {
    for (let k = 0; k < 4; k++) data[4 * i + k] = source.data[4 * i + k];
    taken[i] = 0;
  };
  const act = {
    solid: whole,
    gone: (i: number): void => takeAway(clearing, i),
    seeThrough: (i: number): void => freed(clearing, i, ground, strongest),
  }[as];
  yield* workSlice(
    inStretches(
      part.length,
      (from, to) => {
        for (let k = from; k < to; k++) {
          act(part[k]);
          plane[part[k]] = 1;
        }
      },
      AT_ONCE,
    ),
    0.9,
    1,
  );
  return plane;
}

/** The ground as it is further from a part: what thins out was taken with it, and would darken it. */
function* groundBeside({ source, taken }: Clearing, part: readonly number[], first: Ground): Work<Ground> {
  const { width, height } = source;
  const cells = new Cells(width, height, BESIDE);
  const parts = new Uint8Array(cells.count);
  const placeOf = (i: number): readonly [number, number] => [i % width, Math.floor(i / width)];
  yield* inStretches(
    part.length,
    (from, to) => {
      for (let k = from; k < to; k++) parts[cells.at(...placeOf(part[k]))] = 1;
    },
    AT_ONCE,
  );
  const isGround = (i: number): boolean =>
    cells.sumAbout(parts, ...placeOf(i)) === 0 && apartFrom(source, i, first) <= UNLIKE;
  const side = CELL * Math.min(width, height);
  const ground = yield* groundOf(source, taken, isGround, side, new Uint16Array(taken.length));
  return ground.known ? { ...ground, grain: first.grain } : first;
}

/** Pixels about some places, as far as their colour changes slowly and they were kept, or are not the ground's. */
function* partAbout(clearing: Clearing, places: readonly At[], ground: Ground): Work<number[]> {
  const { source, data: left, held } = clearing;
  const { width, height, data } = source;
  const most = Math.max(STEP, STEP_GRAINS * ground.grain);
  const least = GRAINS * ground.grain + 1;
  const seen = new Uint8Array(width * height);
  const part: number[] = [];
  const reach = (i: number): void => {
    seen[i] = 1;
    if (data[4 * i + 3] < 128 || (held && held[i] >= 128)) return;
    // Ground that was kept about it, as the end of its edge, is as good as nothing once it is freed.
    if (left[4 * i + 3] > 0 || apartFrom(source, i, ground) > least) part.push(i);
  };
  for (const at of places) {
    const p = pixelAt(clearing, at);
    if (p && !seen[p[1] * width + p[0]]) reach(p[1] * width + p[0]);
  }
  const isNear = (i: number, j: number): boolean => {
    for (let k = 0; k < 3; k++) if (Math.abs(data[4 * i + k] - data[4 * j + k]) > most) return false;
    return true;
  };
  for (let n = 0; n < part.length; n++) {
    if (n % AT_ONCE === 0) yield n / (part.length + AT_ONCE);
    const i = part[n];
    const x = i % width;
    if (x > 0 && !seen[i - 1] && isNear(i, i - 1)) reach(i - 1);
    if (x + 1 < width && !seen[i + 1] && isNear(i, i + 1)) reach(i + 1);
    if (i >= width && !seen[i - width] && isNear(i, i - width)) reach(i - width);
    if (i + width < seen.length && !seen[i + width] && isNear(i, i + width)) reach(i + width);
  }
  return part;
}

const under = new Float64Array(3);

/** How far a pixel is from the ground under it, in code values. */
function apartFrom({ width, data }: Rgba, i: number, { surface }: Ground): number {
  surface.at(i % width, Math.floor(i / width), under);
  return Math.hypot(data[4 * i] - under[0], data[4 * i + 1] - under[1], data[4 * i + 2] - under[2]);
}

/** The share of a part that may be stronger than its strongest colour, and the least cover that makes that colour whole. */
const [STRONGER, WHOLE] = [0.005, 0.72];

/**
 * The strongest colour of a part, as it differs from the ground, where it is likely whole: of paint that thins out. Null where
 * the ground is likely seen through everything.
 */
function* strongestOf(source: Rgba, part: readonly number[], ground: Ground): Work<Float64Array | null> {
  const counts = new Float64Array(MOST_APART + 1);
  const each = (act: (i: number) => void): Work<void> =>
    inStretches(
      part.length,
      (from, to) => {
        for (let k = from; k < to; k++) act(part[k]);
      },
      AT_ONCE,
    );
  yield* each((i) => void counts[Math.round(apartFrom(source, i, ground))]++);
  const most = percentile(counts, 1 - STRONGER);
  const sum = new Float64Array(3);
  let [count, cover] = [0, 0];
  yield* each((i) => {
    if (apartFrom(source, i, ground) < most) return;
    for (let k = 0; k < 3; k++) sum[k] += source.data[4 * i + k] - under[k];
    cover += leastCover(source.data, i);
    count++;
  });
  return count > 0 && cover >= WHOLE * count ? sum.map((v) => v / count) : null;
}

/** A ground that is as good as white, or black, is no sixth of a colour's range away from it: what differs there is its grain. */
const LEAST_ROOM = 40;

/** The least cover with which a pixel can look as it does over the ground under it, which is at hand. */
function leastCover(data: Uint8Array, i: number): number {
  let cover = 0;
  for (let k = 0; k < 3; k++) {
    const by = data[4 * i + k] - under[k];
    cover = Math.max(cover, Math.abs(by) / Math.max(LEAST_ROOM, by > 0 ? 255 - under[k] : under[k]));
  }
  return Math.min(1, cover);
}

function freed(
  { source, data, taken }: Clearing,
  i: number,
  ground: Ground,
  strongest: Float64Array | null,
): void {
  const { data: from } = source;
  apartFrom(source, i, ground); // has the ground at hand
  let cover = leastCover(from, i);
  if (strongest) {
    let [along, whole] = [0, 0];
    for (let k = 0; k < 3; k++) {
      along += (from[4 * i + k] - under[k]) * strongest[k];
      whole += strongest[k] * strongest[k];
    }
    cover = Math.min(1, Math.max(cover, along / whole));
  }
  for (let k = 0; k < 3 && cover > 0; k++)
    data[4 * i + k] = Math.max(0, Math.min(255, Math.round(under[k] + (from[4 * i + k] - under[k]) / cover)));
  data[4 * i + 3] = Math.round(cover * from[4 * i + 3]);
  taken[i] = 0;
}
