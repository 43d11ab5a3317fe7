import { rowsAtOnce, workSlice, type Work } from "../maths/work";
import { type Gray } from "../raster/types";

const [PAPER, INK, NECK] = [0, 1, 2];

/**
 * Makes ink that hangs together by single pixels hold: an outline drawn within a tolerance would part it there. Small pieces
 * that hang on something by one neck alone are grains beside a stroke, and go.
 *
 * @param fine   ink under 128; changed in place
 * @param small  of so many pixels at most a piece is small
 * @param ink    grey of a neck, and of the pixel that is put beside it
 */
export function* strongNecks(fine: Gray, small: number, ink: number): Work<void> {
  const { width, data } = fine;
  const kinds = new Uint8Array(data.length);
  yield* workSlice(findNecks(fine, kinds), 0, 0.3);
  yield* workSlice(dropHanging(fine, kinds, small), 0.3, 0.6);
  yield* workSlice(findNecks(fine, kinds), 0.6, 0.9);
  for (let i = width; i < data.length - width; i++) {
    if (kinds[i] !== NECK) continue;
    data[i] = Math.min(data[i], ink);
    for (const by of [1, width])
      if (data[i + by] >= 128 && data[i - by] >= 128)
        data[data[i + by] < data[i - by] ? i + by : i - by] = ink;
  }
}

/** The eight pixels about one, from above its left on round. */
const ringAbout = (width: number): number[] => [
  -width - 1,
  -width,
  -width + 1,
  1,
  width + 1,
  width,
  width - 1,
  -1,
];

/**
 * A neck is a pixel of ink about which ink begins more than once on a walk round it: without it there would be two pieces.
 *
 * @see Hilditch, "Linear skeletons from square cupboards", Machine Intelligence 4, 1969, for the crossing number
 */
function* findNecks({ width, height, data }: Gray, kinds: Uint8Array): Work<void> {
  const ring = ringAbout(width);
  const atOnce = rowsAtOnce(width);
  kinds.fill(PAPER);
  for (let y = 1; y < height - 1; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 1, i = y * width + x; x < width - 1; x++, i++) {
      if (data[i] >= 128) continue;
      let begins = 0;
      for (let k = 1; k < 8; k += 2)
        if (
          data[i + ring[k]] >= 128 &&
          (data[i + ring[(k + 1) % 8]] < 128 || data[i + ring[(k + 2) % 8]] < 128)
        )
          begins++;
      kinds[i] = begins > 1 ? NECK : INK;
    }
  }
}

/** Takes away small pieces of ink that necks part from the rest, where only one leads on. */
function* dropHanging({ width, data }: Gray, kinds: Uint8Array, small: number): Work<void> {
  const ring = ringAbout(width);
  const seen = new Uint8Array(data.length);
  for (let first = width; first < data.length - width; first++) {
    if (first % (1 << 18) === 0) yield first / data.length;
    if (kinds[first] !== INK || seen[first]) continue;
    const piece = [first];
    seen[first] = 1;
    const necks = new Set<number>();
    for (const p of piece)
      for (const by of ring) {
        if (kinds[p + by] === NECK) necks.add(p + by);
        else if (kinds[p + by] === INK && !seen[p + by]) {
          seen[p + by] = 1;
          piece.push(p + by);
        }
      }
    if (piece.length > small || clusters(necks, ring) !== 1) continue;
    for (const p of [...piece, ...necks]) [data[p], kinds[p]] = [255, PAPER];
  }
}

/** Into how many clusters pixels fall that hang together over edges and corners. */
export function clusters(pixels: ReadonlySet<number>, around: readonly number[]): number {
  const left = new Set(pixels);
  let count = 0;
  for (const first of pixels) {
    if (!left.delete(first)) continue;
    count++;
    const cluster = [first];
    for (const p of cluster) for (const by of around) if (left.delete(p + by)) cluster.push(p + by);
  }
  return count;
}
