import { inStretches, rowsAtOnce, workSlice, type Work } from "../maths/work";
import { NOWHERE, squaredDistanceTo } from "../region/distance";

/** Areas that lines bound. */
export interface Areas {
  readonly width: number;
  readonly height: number;
  /** For each pixel the number of its area; lines belong to the area that is nearest, so that two meet in their middle. */
  readonly of: Int32Array;
  /** Pixels of each area that are no line. */
  readonly sizes: Float64Array;
  /** 1 where a pixel is of a line. */
  readonly line: Uint8Array;
}

/** Ways off a line are told in steps of a half pixel, up to so many. */
const STEPS = 2;
const MOST_STEPS = 65535;
/** A passage is as wide as what lies behind it where it is this share of it, or more: a strip of even width, no gap. */
const AS_WIDE = 0.6;
/**
 * What is shut off and nowhere wider than this, in half pixels to the nearest line, and of fewer pixels, is no area but the
 * tip of one, pinched off by the soft edges of the lines about it: it goes with the area that is nearest.
 */
const [TIP_STEPS, TIP_PIXELS] = [5, 120];

/**
 * Parts a drawing into the areas that its lines bound. Gaps in lines, up to a width, are closed: a ball of that width which
 * rolls between the lines does not pass them. Areas are flooded from where they are widest towards the lines, so that two of
 * them meet where a gap is narrowest, and corners that the ball does not reach belong to the area that they open to. What is
 * everywhere narrower than the gaps is an area of its own where it is shut off by a passage much narrower than itself.
 *
 * @param ink        0..255 a pixel
 * @param darkFrom   a pixel with as much ink is of a line, 1..255
 * @param gapPixels  width of the gaps that are closed, 0 or more
 * @see Zhang, Chen, Zhang, Zhao & Xu, "Vectorizing cartoon animations", IEEE TVCG 15 (4), 2009: trapped-ball filling
 * @see Vincent & Soille, "Watersheds in digital spaces", IEEE PAMI 13 (6), 1991: flooding
 */
export function* boundedAreas(
  ink: Uint8Array,
  width: number,
  height: number,
  darkFrom: number,
  gapPixels: number,
): Work<Areas> {
  const line = new Uint8Array(ink.length);
  yield* inStretches(ink.length, (from, to) => {
    for (let i = from; i < to; i++) line[i] = ink[i] >= darkFrom ? 1 : 0;
  });
  const steps = yield* workSlice(stepsOff(line, width, height), 0.02, 0.3);
  const order = yield* workSlice(widestFirst(steps, line), 0.3, 0.38);
  // Between two lines that are so many pixels apart the middle is half a pixel further off than half of it.
  const narrow = Math.floor(((gapPixels + 1) / 2) * STEPS);
  const found = yield* workSlice(flooded(order, steps, line, width, narrow), 0.38, 0.66);
  const of = yield* workSlice(underLines(found.of, line, width, height), 0.66, 1);
  return { width, height, of, sizes: found.sizes, line };
}

/** How far off the nearest line each pixel is, in half pixels. */
function* stepsOff(line: Uint8Array, width: number, height: number): Work<Uint16Array> {
  const squared = yield* squaredDistanceTo(line, width, height);
  const steps = new Uint16Array(line.length);
  yield* inStretches(line.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const square = squared[i];
      const way = square === NOWHERE ? MOST_STEPS : Math.sqrt(square) * STEPS + 0.5;
      steps[i] = way > MOST_STEPS ? MOST_STEPS : way;
    }
  });
  return steps;
}

/** Pixels that are no line, by how far off one they are, the furthest first: a sort by counting. */
function* widestFirst(steps: Uint16Array, line: Uint8Array): Work<Int32Array> {
  const counts = new Int32Array(MOST_STEPS + 2);
  let free = 0;
  yield* inStretches(steps.length, (from, to) => {
    for (let i = from; i < to; i++)
      if (!line[i]) {
        counts[MOST_STEPS - steps[i] + 1]++;
        free++;
      }
  });
  for (let k = 1; k < counts.length; k++) counts[k] += counts[k - 1];
  const order = new Int32Array(free);
  yield* inStretches(steps.length, (from, to) => {
    for (let i = from; i < to; i++) if (!line[i]) order[counts[MOST_STEPS - steps[i]]++] = i;
  });
  return order;
}

/** Floods from the widest places down; every pixel of `of` that is no line gets the number of its area, the others -1. */
function* flooded(
  order: Int32Array,
  steps: Uint16Array,
  line: Uint8Array,
  width: number,
  narrow: number,
): Work<{ of: Int32Array; sizes: Float64Array }> {
  const of = new Int32Array(steps.length).fill(-1);
  // Of each basin: which it was joined to, and how wide it is at its widest.
  let [parent, peak, count] = [new Int32Array(1024), new Uint16Array(1024), 0];
  const rootOf = (basin: number): number => {
    let root = basin;
    while (parent[root] !== root) root = parent[root];
    while (parent[basin] !== root) [basin, parent[basin]] = [parent[basin], root];
    return root;
  };
  const atOnce = rowsAtOnce(1);
  for (let k = 0; k < order.length; k++) {
    if (k % atOnce === 0) yield k / order.length;
    const i = order[k];
    const x = i % width;
    const level = steps[i];
    let own = -1;
    for (let side = 0; side < 4; side++) {
      const j =
        side === 0
          ? x > 0
            ? i - 1
            : -1
          : side === 1
            ? x + 1 < width
              ? i + 1
              : -1
            : side === 2
              ? i - width
              : i + width;
      if (j < 0 || j >= steps.length || of[j] < 0) continue;
      const root = rootOf(of[j]);
      if (own < 0) {
        own = root;
        continue;
      }
      if (root === own) continue;
      const [wide, less] = peak[own] >= peak[root] ? [own, root] : [root, own];
      const joins = level > narrow || level >= AS_WIDE * peak[less];
      if (joins) parent[less] = wide;
      own = wide;
    }
    if (own < 0) {
      if (count === parent.length) {
        const more = new Int32Array(2 * count);
        more.set(parent);
        const higher = new Uint16Array(2 * count);
        higher.set(peak);
        [parent, peak] = [more, higher];
      }
      own = count++;
      parent[own] = own;
      peak[own] = level;
    }
    of[i] = own;
  }
  return yield* numbered(of, line, rootOf, peak.subarray(0, count));
}

/** Areas numbered from 0, without pinched tips, which are taken for line. */
function* numbered(of: Int32Array, line: Uint8Array, rootOf: (basin: number) => number, peak: Uint16Array) {
  const count = peak.length;
  const pixels = new Float64Array(count);
  yield* inStretches(of.length, (from, to) => {
    for (let i = from; i < to; i++) if (of[i] >= 0) pixels[(of[i] = rootOf(of[i]))]++;
  });
  const number = new Int32Array(count).fill(-1);
  const sizes: number[] = [];
  for (let basin = 0; basin < count; basin++)
    if (pixels[basin] > 0 && (peak[basin] > TIP_STEPS || pixels[basin] > TIP_PIXELS)) {
      number[basin] = sizes.length;
      sizes.push(pixels[basin]);
    }
  yield* inStretches(of.length, (from, to) => {
    for (let i = from; i < to; i++) {
      if (of[i] >= 0) of[i] = number[of[i]];
      if (of[i] < 0) line[i] = 1;
    }
  });
  return { of, sizes: Float64Array.from(sizes) };
}

/** Lines given to the areas nearest to them. */
function* underLines(of: Int32Array, line: Uint8Array, width: number, height: number): Work<Int32Array> {
  const free = new Uint8Array(line.length);
  yield* inStretches(line.length, (from, to) => {
    for (let i = from; i < to; i++) free[i] = 1 - line[i];
  });
  const nearest = new Int32Array(line.length);
  yield* workSlice(squaredDistanceTo(free, width, height, nearest), 0, 0.95);
  yield* inStretches(line.length, (from, to) => {
    for (let i = from; i < to; i++) if (line[i]) of[i] = nearest[i] < 0 ? -1 : of[nearest[i]];
  });
  return of;
}

/** The areas in few pixels, each that of the place in its middle: no side has more than so many. */
export function areaMap({ of, width, height }: Areas, most: number) {
  const by = Math.max(1, Math.ceil(Math.max(width, height) / most));
  const [w, h] = [Math.ceil(width / by), Math.ceil(height / by)];
  const map = new Int32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [px, py] = [Math.min(width - 1, x * by + (by >> 1)), Math.min(height - 1, y * by + (by >> 1))];
      map[y * w + x] = of[py * width + px];
    }
  return { width: w, height: h, of: map };
}

/**
 * The area at a place, given in pixels; on a line, the nearest to it within a reach. -1 where there is none.
 */
export function areaAt({ of, line, width, height }: Areas, x: number, y: number, reach: number): number {
  const [cx, cy] = [Math.floor(x), Math.floor(y)];
  if (cx < 0 || cy < 0 || cx >= width || cy >= height) return -1;
  if (!line[cy * width + cx]) return of[cy * width + cx];
  let [best, least] = [-1, reach * reach];
  const far = Math.ceil(reach);
  for (let dy = -far; dy <= far; dy++)
    for (let dx = -far; dx <= far; dx++) {
      const [px, py] = [cx + dx, cy + dy];
      if (px < 0 || py < 0 || px >= width || py >= height || line[py * width + px]) continue;
      if (dx * dx + dy * dy > least) continue;
      [best, least] = [of[py * width + px], dx * dx + dy * dy - 1e-9];
    }
  return best;
}
