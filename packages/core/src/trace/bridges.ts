import { workSlice, type Work } from "../maths/work";
import { type Gray } from "../raster/types";
import { resampleGray } from "../resample/resample";
import { mendBreaks } from "./breaks";
import { inkPieces } from "./inkPieces";
import { clusters, strongNecks } from "./necks";

// Thresholds: what they come to is measured by `npm run thin`.

/** A place lies on a ridge of ink when it holds this much more, of 255, than those so far to both sides, in fine pixels. */
const [HIGHER, ASIDE] = [6, 3];
/** A bridge is no longer than so many fine pixels. */
const LONGEST = 60;
/** Grey that is put in a bridge: ink, and no more of it than there must be; in scans, whose outlines waver, it has to hold. */
const [BRIDGE, HOLDING] = [112, 40];
/** Grey of a neck between pieces of a scan. */
const NECK = 20;
/** Pieces of a scan of up to so many fine pixels are grains, but dots: darker than half, and than so far to every side. */
const [GRAINS, BESIDE] = [40, 4];
/** Pieces of up to so many fine pixels that a bridge ends at are nothing that it leads to. */
const SPECK = 8;
const ROWS_AT_ONCE = 64;

/**
 * Joins pieces of thin strokes along the ridge of faint ink between them: a stroke of half a pixel is darkest where it lies
 * in one row of pixels, and may be broken where it goes over to the next. Between two strokes beside each other there is no
 * ridge but a valley, and nothing is laid across. In a scan, breaks where strokes meet are mended too, and grains go.
 *
 * @param fine     ink under 128, `times` the size of the picture; bridges are added
 * @param faint    ink, of 255, that a ridge holds at least
 * @param scanned  whether noise, a lens and a JPEG are to be reckoned with
 */
export function* laidBridges(fine: Gray, picture: Gray, faint: number, scanned: boolean): Work<void> {
  const { width, height, data } = fine;
  const given = yield* workSlice(resampleGray(picture, width, height, "bicubic"), 0, 0.3);
  const ridge = new Uint8Array(data.length);
  const ways = [1, width, width + 1, width - 1];
  for (let y = ASIDE; y < height - ASIDE; y++) {
    if (y % ROWS_AT_ONCE === 0) yield 0.3 + (0.3 * y) / height;
    for (let x = ASIDE, i = y * width + x; x < width - ASIDE; x++, i++) {
      const own = given.data[i];
      if (data[i] < 128 || 255 - own < faint) continue;
      for (const way of ways) {
        const higher = (by: number, least: number) =>
          given.data[i - by] >= own + least && given.data[i + by] >= own + least;
        if (!higher(2 * way, 2) || !higher(ASIDE * way, HIGHER)) continue;
        ridge[i] = 1;
        break;
      }
    }
  }
  const around = [-width - 1, -width, -width + 1, -1, 1, width - 1, width, width + 1];
  const pieces = scanned ? yield* workSlice(inkPieces(fine), 0.6, 0.7) : null;
  const ink = scanned ? HOLDING : BRIDGE;
  const bridges: Bridge[] = [];
  const patch: number[] = [];
  for (let i = 0; i < ridge.length; i++) {
    if (i % (ROWS_AT_ONCE * width) === 0) yield 0.7 + (0.1 * i) / ridge.length;
    if (ridge[i] !== 1) continue;
    patch.length = 0;
    patch.push(i);
    ridge[i] = 2;
    const met = new Set<number>();
    for (const p of patch)
      for (const d of around) {
        const q = p + d;
        if (data[q] < 128) met.add(q);
        else if (ridge[q] === 1) {
          ridge[q] = 2;
          patch.push(q);
        }
      }
    if (patch.length > LONGEST * ASIDE) continue;
    if (pieces) bridges.push({ pixels: [...patch], joins: new Set([...met].map((p) => pieces.of[p])) });
    else if (clusters(met, around) > 1) for (const p of patch) data[p] = ink;
  }
  if (pieces)
    for (const { pixels } of leadingOn(bridges, pieces.sizes)) for (const p of pixels) data[p] = ink;
  yield* workSlice(closedCorners(fine, given, faint, ink), 0.8, 0.85);
  if (!scanned) return;
  yield* workSlice(mendBreaks(fine, given, faint, GRAINS, ink), 0.85, 0.9);
  yield* workSlice(withoutGrains(fine, given), 0.9, 0.95);
  yield* workSlice(strongNecks(fine, GRAINS, NECK), 0.95, 1);
}

/** Pixels between pieces of ink, and the numbers of those pieces. */
interface Bridge {
  readonly pixels: readonly number[];
  readonly joins: Set<number>;
}

/**
 * Bridges of a scan that join two pieces at least, and lead on from each: noise has ridges that lead along a stroke's side
 * back to it, and ridges to a grain, where they end.
 */
function leadingOn(bridges: readonly Bridge[], sizes: readonly number[]): readonly Bridge[] {
  const left = new Set(bridges.filter(({ joins }) => joins.size > 1));
  const at = new Map<number, Set<Bridge>>();
  for (const bridge of left)
    for (const n of bridge.joins) at.set(n, (at.get(n) ?? new Set<Bridge>()).add(bridge));
  const isEnd = (n: number): boolean => sizes[n] <= SPECK && at.get(n)!.size === 1;
  // A bridge that goes may leave a speck at the end of another.
  const ends = [...at.keys()].filter(isEnd);
  for (const n of ends)
    for (const bridge of at.get(n)!) {
      bridge.joins.delete(n);
      if (bridge.joins.size > 1 || !left.delete(bridge)) continue;
      for (const other of bridge.joins) {
        at.get(other)!.delete(bridge);
        if (isEnd(other)) ends.push(other);
      }
    }
  return [...left];
}

/** Where ink meets ink at a corner alone, and there is some beside it, an outline must not part them. */
function* closedCorners({ width, height, data }: Gray, given: Gray, faint: number, ink: number): Work<void> {
  for (let y = 0; y + 1 < height; y++) {
    if (y % ROWS_AT_ONCE === 0) yield y / height;
    for (let x = 0, i = y * width; x + 1 < width; x++, i++) {
      const [a, b, c, d] = [
        data[i] < 128,
        data[i + 1] < 128,
        data[i + width] < 128,
        data[i + width + 1] < 128,
      ];
      if (a !== d || b !== c || a === b) continue;
      const [one, other] = a ? [i + 1, i + width] : [i, i + width + 1];
      const darker = given.data[one] < given.data[other] ? one : other;
      if (255 - given.data[darker] >= faint) data[darker] = ink;
    }
  }
}

/** Makes grains white: small pieces that are pale in the scan, or lie on the slope of what is darker beside them. */
function* withoutGrains(fine: Gray, given: Gray): Work<void> {
  const { width, height, data } = fine;
  const { of, sizes } = yield* workSlice(inkPieces(fine), 0, 0.6);
  const darkest = new Int32Array(sizes.length).fill(-1);
  for (let i = 0; i < of.length; i++)
    if (darkest[of[i]] < 0 || given.data[i] < given.data[darkest[of[i]]]) darkest[of[i]] = i;
  yield 0.8;
  const isDot = (at: number): boolean => {
    if (given.data[at] >= 128) return false;
    const [x, y] = [at % width, Math.floor(at / width)];
    for (const v of [-BESIDE, 0, BESIDE])
      for (const u of [-BESIDE, 0, BESIDE]) {
        const isIn = x + u >= 0 && x + u < width && y + v >= 0 && y + v < height;
        if ((u !== 0 || v !== 0) && isIn && given.data[at + v * width + u] <= given.data[at]) return false;
      }
    return true;
  };
  const goes = sizes.map((size, n) => n > 0 && size <= GRAINS && !isDot(darkest[n]));
  for (let i = 0; i < of.length; i++) if (goes[of[i]]) data[i] = 255;
}
