import { figure } from "../inspect/check";
import { RouteError } from "../settings/errors";
import { type Outlines } from "./outlines";
import { type Kept } from "./shapes";

/**
 * More outlines are no drawing. They, and so many points where outlines turn at every other one, take some ten seconds to
 * follow and as long again to look at; a drawing as fine, whose lines run on, is followed up to five times as many.
 */
const [MOST_OUTLINES, MOST_POINTS, MOST_SMOOTH] = [120_000, 1_200_000, 6_000_000];
/** Cosine of the turn from which on an outline turns at a point: 30 degrees. */
const TURN = 0.87;
/** A point of every so many is looked at for that. */
const EVERY = 17;
/** Few outlines of many points each are not left out by their size. */
const LEAST_SHAPES = 100;

/** Says what to set where there is so much to follow that it would take minutes. @param perMm  pixels in a millimetre */
export function refuseDust(
  outlines: Outlines,
  { kept, area }: Kept,
  smallestMm2: number,
  perMm: number,
): void {
  const { starts } = outlines;
  const pointsOf = (k: number): number => starts[k + 1] - starts[k];
  const points = kept.reduce((sum, k) => sum + pointsOf(k), 0);
  const most = points > MOST_POINTS && isRough(outlines, kept) ? MOST_POINTS : MOST_SMOOTH;
  if (kept.length <= MOST_OUTLINES && points <= most) return;
  const bySize = kept.toSorted((a, b) => Math.abs(area[b]) - Math.abs(area[a]));
  let [few, sum] = [0, 0];
  while (few < bySize.length && few < MOST_OUTLINES && sum + pointsOf(bySize[few]) <= most)
    sum += pointsOf(bySize[few++]);
  // From this area on few enough stay, if that parts them at all.
  const enough = Math.abs(area[bySize[Math.min(few, bySize.length - 1)]]);
  const parts = few >= LEAST_SHAPES && enough < Math.abs(area[bySize[0]]);
  const set = parts
    ? `set the smallest shape and hole to ${figure(Math.ceil((1e4 * enough) / (perMm * perMm) + 1) / 1e4, 4)} mm² or more`
    : "set fewer dots per inch at Size";
  throw new RouteError(
    "trace",
    "smallestMm2",
    smallestMm2,
    `at most ${MOST_OUTLINES} outlines of ${most} points, and here are ${kept.length} of ${points}: ${set}`,
  );
}

/** Whether outlines turn at most of their points, as those of noise do and those of a drawing do not. */
function isRough({ points, starts }: Outlines, kept: readonly number[]): boolean {
  let [turns, looked] = [0, 0];
  for (const k of kept)
    for (let i = starts[k] + 1; i < starts[k + 1] - 1; i += EVERY) {
      const [ax, ay] = [points[2 * i] - points[2 * i - 2], points[2 * i + 1] - points[2 * i - 1]];
      const [bx, by] = [points[2 * i + 2] - points[2 * i], points[2 * i + 3] - points[2 * i + 1]];
      const along = ax * bx + ay * by;
      turns += +(along < 0 || along * along < TURN * TURN * (ax * ax + ay * ay) * (bx * bx + by * by));
      looked++;
    }
  return 2 * turns > looked;
}
