import { rowsAtOnce, workSlice, type Work } from "../maths/work";
import { sorted } from "../maths/sorted";
import { type Gray } from "../raster/types";
import { inkPieces } from "./inkPieces";

// Thresholds: what they come to is measured by `npm run thin`.

/** A break between two pieces is no wider than so many fine pixels. */
const WIDEST = 6;
/** Between two pieces there is this share of the ink that there is where they end. */
const PALER = 0.8;

/** A pixel of either of two pieces, which lie so far apart. */
interface Break {
  readonly from: number;
  readonly to: number;
  readonly apart: number;
}

/**
 * Joins pieces of ink across narrow breaks where the scan holds ink too: strokes come apart where they meet or cross. What
 * two strokes beside each other keep free is paler than they are, and stays.
 *
 * @param fine   ink under 128; joined in place
 * @param given  the greys as they were scanned, of the same size
 * @param faint  ink, of 255, that a break holds at least
 * @param least  smaller pieces, in pixels, are left: grains
 * @param ink    grey to join with
 */
export function* mendBreaks(fine: Gray, given: Gray, faint: number, least: number, ink: number): Work<void> {
  const { width, height, data } = fine;
  const pieces = yield* workSlice(inkPieces(fine), 0, 0.5);
  const isLarge = (n: number): boolean => n > 0 && pieces.sizes[n] >= least;
  const near = placesNear(width);
  const breaks: Break[] = [];
  const atOnce = rowsAtOnce(width);
  for (let y = WIDEST; y < height - WIDEST; y++) {
    if (y % atOnce === 0) yield 0.5 + (0.4 * y) / height;
    for (let x = WIDEST, from = y * width + x; x < width - WIDEST; x++, from++) {
      const own = pieces.of[from];
      if (!isLarge(own)) continue;
      const isWithin =
        pieces.of[from - 1] && pieces.of[from + 1] && pieces.of[from - width] && pieces.of[from + width];
      if (isWithin) continue;
      for (const { by, apart } of near) {
        const other = pieces.of[from + by];
        if (other > own && isLarge(other)) breaks.push({ from, to: from + by, apart });
      }
    }
  }
  const byWidth = sorted(breaks, (a, b) => a.apart - b.apart);
  yield* workSlice(byWidth, 0.9, 1);
  const joined = Int32Array.from(pieces.sizes, (_, n) => n);
  const rootOf = (n: number): number => {
    while (joined[n] !== n) n = joined[n] = joined[joined[n]];
    return n;
  };
  for (const { from, to } of breaks) {
    const [a, b] = [rootOf(pieces.of[from]), rootOf(pieces.of[to])];
    if (a === b) continue;
    const between = pixelsBetween(from, to, width);
    const ends = Math.min(255 - given.data[from], 255 - given.data[to]);
    const enough = Math.max(faint, PALER * ends);
    if (between.some((i) => 255 - given.data[i] < enough)) continue;
    joined[a] = b;
    for (const i of between) data[i] = Math.min(data[i], ink);
  }
}

/** Places about one that are near enough, by what leads to them in a picture so wide. */
function placesNear(width: number): { by: number; apart: number }[] {
  const list = [];
  for (let v = -WIDEST; v <= WIDEST; v++)
    for (let u = -WIDEST; u <= WIDEST; u++) {
      const apart = Math.hypot(u, v);
      if (apart > 1 && apart <= WIDEST) list.push({ by: v * width + u, apart });
    }
  return list;
}

/** The pixels from one to another, joined over edges. */
function pixelsBetween(from: number, to: number, width: number): number[] {
  const [x, y] = [from % width, Math.floor(from / width)];
  const [across, down] = [(to % width) - x, Math.floor(to / width) - y];
  const steps = 2 * Math.max(Math.abs(across), Math.abs(down));
  const found = new Set<number>();
  for (let n = 1; n < steps; n++) {
    const [u, v] = [Math.round(x + (across * n) / steps), y + (down * n) / steps];
    found.add(Math.round(v) * width + u);
    found.add(Math.floor(v) * width + u);
  }
  return [...found];
}
