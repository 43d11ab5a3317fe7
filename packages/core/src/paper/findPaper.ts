import { workSlice, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { foursOf, orientation, type Four } from "./fourLines";
import { type Point } from "./lens";
import { linesIn, steepnessOf } from "./lines";
import { planesOf, smallerThan, softened } from "./planes";
import { refined } from "./refine";

/** A paper that was found on a photograph: places in fractions of the picture's sides. */
export interface FoundPaper {
  /** Upper left, upper right, lower right, lower left, as it is seen. */
  readonly corners: readonly [Point, Point, Point, Point];
  /** How the lens bends, as `Lens` has it. */
  readonly lens: number;
}

// Thresholds: what they decide is measured by `npm run papers`.

/** Sides are looked for on a picture about so long at most, in pixels. */
const LOOKED_AT = 520;
/** Of what is found, less is no paper. */
const LEAST_SCORE = 0.5;

/**
 * Finds the sheet, card, sign or screen on a photograph: four straight lines that are edges all along, with one ground
 * within them and another beyond, and then, on the picture itself, where exactly those edges lie and how the lens bends.
 * @returns null where nothing of four sides stands out
 */
export function* findPaper(picture: Rgba): Work<FoundPaper | null> {
  const { small, times } = smallerThan(picture, LOOKED_AT);
  yield 0.1;
  const planes = softened(planesOf(small));
  const steepness = yield* workSlice(steepnessOf(planes), 0.1, 0.2);
  const lines = yield* workSlice(linesIn(steepness), 0.2, 0.4);
  const fours = yield* workSlice(foursOf(lines, steepness, planes), 0.4, 0.8);
  const best = fours[0];
  if (!best || best.score < LEAST_SCORE) return null;
  const scale = 2 ** times;
  const coarse = inOrder(best.corners).map(([x, y]): Point => [x * scale, y * scale]);
  const { corners, lens } = yield* workSlice(
    refined(picture, coarse as unknown as Four["corners"], scale),
    0.8,
    1,
  );
  const { width, height } = picture;
  return {
    corners: corners.map(([x, y]): Point => [x / width, y / height]) as unknown as FoundPaper["corners"],
    lens,
  };
}

/** Clockwise from the upper left, as it is seen. */
export function inOrder(corners: readonly Point[]): [Point, Point, Point, Point] {
  const round = orientation(corners) > 0 ? [...corners] : [...corners].reverse();
  const first = round.reduce((best, [x, y], k) => (x + y < round[best][0] + round[best][1] ? k : best), 0);
  return [0, 1, 2, 3].map((k) => round[(first + k) % 4]) as [Point, Point, Point, Point];
}
