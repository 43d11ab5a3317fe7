import { workSlice, type Work } from "../maths/work";
import { type Gray } from "../raster/types";
import { componentsOf } from "../region/components";
import { resampleGray } from "../resample/resample";

// Thresholds: what they come to is measured by `npm run thin`.

/** A place lies on a ridge of ink when it holds this much more, of 255, than those so far to both sides, in fine pixels. */
const [HIGHER, ASIDE] = [6, 3];
/** A bridge is no longer than so many fine pixels. */
const LONGEST = 60;
/** What is put in a bridge: ink, and no more of it than there must be. */
const BRIDGE = 112;
const ROWS_AT_ONCE = 64;

/**
 * Joins pieces of thin strokes along the ridge of faint ink between them: a stroke of half a pixel is darkest where it lies
 * in one row of pixels, and may be broken where it goes over to the next. Between two strokes beside each other there is no
 * ridge but a valley, and nothing is laid across.
 *
 * @param fine   ink under 128, `times` the size of the picture; bridges are added
 * @param faint   ink, of 255, that a ridge holds at least
 * @param grains  pieces of no more fine pixels that are left by themselves go: grains of a scan, and rings of its JPEG
 */
export function* laidBridges(fine: Gray, picture: Gray, faint: number, grains: number): Work<void> {
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
  const patch: number[] = [];
  for (let i = 0; i < ridge.length; i++) {
    if (i % (ROWS_AT_ONCE * width) === 0) yield 0.6 + (0.2 * i) / ridge.length;
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
    if (patch.length <= LONGEST * ASIDE && parts(met, around) > 1) for (const p of patch) data[p] = BRIDGE;
  }
  yield* workSlice(closedCorners(fine, given, faint), 0.8, 0.9);
  if (grains > 0) yield* workSlice(withoutGrains(fine, grains), 0.9, 1);
}

/** Into how many parts pixels fall that hang together over edges and corners. */
function parts(pixels: Set<number>, around: readonly number[]): number {
  const left = new Set(pixels);
  let count = 0;
  for (const first of pixels) {
    if (!left.delete(first)) continue;
    count++;
    const patch = [first];
    for (const p of patch) for (const d of around) if (left.delete(p + d)) patch.push(p + d);
  }
  return count;
}

/** Where ink meets ink at a corner alone, and there is some beside it, an outline must not part them. */
function* closedCorners({ width, height, data }: Gray, given: Gray, faint: number): Work<void> {
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
      if (255 - given.data[darker] >= faint) data[darker] = BRIDGE;
    }
  }
}

/** Makes pieces of ink of so few pixels white. */
function* withoutGrains({ width, height, data }: Gray, few: number): Work<void> {
  const small = yield* componentsOf(width, height, (y, row) => {
    for (let x = 0, i = y * width; x < width; x++, i++) row[x] = +(data[i] < 128);
  });
  for (const { pixels, x, y, width: w, height: h, seed } of small) {
    if (pixels > few) continue;
    const stack = [seed[1] * width + seed[0]];
    data[stack[0]] = 255;
    for (const p of stack)
      for (
        let v = Math.max(y, Math.floor(p / width) - 1);
        v <= Math.min(y + h - 1, Math.floor(p / width) + 1);
        v++
      )
        for (let u = Math.max(x, (p % width) - 1); u <= Math.min(x + w - 1, (p % width) + 1); u++)
          if (data[v * width + u] < 128) {
            data[v * width + u] = 255;
            stack.push(v * width + u);
          }
  }
}
