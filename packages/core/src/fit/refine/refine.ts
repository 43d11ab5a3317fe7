import { workSlice, type Work } from "../../maths/work";
import { type Gray } from "../../raster/types";
import { circleThrough } from "../circle";
import { fitClosed, type Fitting } from "../fit";
import { Cover, type Outline } from "./cover";
import { levelsBeside } from "./levels";
import { passagesOf, STRAY } from "./passages";
import { settled } from "./settle";
import { grown, sharpened, shrunk } from "./steps";
import { lookAt, type State } from "./trial";

/** A curve is first put this much further off than allowed: what the picture then asks for, it gets. */
const LOOSE = 1.5;
/** Outlines get a knot more where they lie off by more than this share of the tolerance, and lose one where by no more. */
const LIMIT = 0.5;
/** Turns in which all outlines settle at first, and turns of adding, sharpening and leaving out. */
const [SETTLING, TURNS] = [4, 3];
/**
 * Half of the pixels that an outline passes lack no more than this share, or its edge is not drawn as cover: in letters it
 * is .03 at most as drawn and .05 with noise of 25 greys or as a JPEG of quality 70; .10 and more in dots, and in what is
 * blurred by a standard deviation of .8 pixels (measured on twenty of the letters of `npm run traces`).
 */
const DRAWN = 0.06;
/** So many pieces tell whether a picture is drawn at all. */
const SAMPLE = 300;
/**
 * Outlines of more points, and in pictures of more pixels, stay as the points have them: a point takes some quarter of a
 * millisecond, a pixel nine bytes.
 */
const [MOST_POINTS, MOST_PIXELS] = [20_000, 16e6];

/**
 * Outlines through points where the grey of a picture passes a threshold, each as `fitClosed` has it; where the edges are
 * drawn so that a pixel is as dark as the share of it that is covered, they follow what is drawn and not the points:
 * straight interpolation of grey is a tenth of a pixel off where an edge slants, and more where it has a corner. A circle
 * stays one. Of more than 20,000 points in all, or 16 megapixels, they stay as `fitClosed` has them.
 *
 * @param lines      of each outline x, y of its points after each other, in pixels
 * @param threshold  1..255
 */
export function* fitDrawn(
  lines: readonly Float64Array[],
  gray: Gray,
  threshold: number,
  fitting: Fitting,
): Work<Outline[]> {
  const fitted = yield* workSlice(fitEach(lines, fitting), 0, 0.3);
  const count = lines.reduce((sum, points) => sum + points.length / 2, 0);
  if (gray.data.length > MOST_PIXELS || count > MOST_POINTS) return fitted;
  const levels = levelsBeside(lines, gray, threshold);
  if (!levels) return fitted;
  const cover = new Cover(gray, levels);
  if (!(yield* workSlice(isDrawn(fitted, cover), 0.3, 0.4))) return fitted;
  const isRound = lines.map((points) => circleThrough(points, fitting.tolerance) !== null);
  const loose = { ...fitting, tolerance: LOOSE * fitting.tolerance };
  const rough = yield* workSlice(fitEach(lines, loose), 0.4, 0.5);
  const limit = LIMIT * fitting.tolerance;
  const first = yield* workSlice(
    refine(rough, cover, limit, (o) => !isRound[o]),
    0.5,
    0.8,
  );
  // What came out wrong from few knots may come out right from more.
  const again = (o: number): boolean => first[o] !== null && first[o].off > limit;
  const second = first.some((_, o) => again(o))
    ? yield* workSlice(refine(fitted, cover, limit, again), 0.8, 1)
    : first;
  return fitted.map((own, o) => {
    const [a, b] = [first[o], again(o) ? second[o] : null];
    return (b && (!a || b.off < a.off) ? b : a)?.knots ?? own;
  });
}

function* fitEach(lines: readonly Float64Array[], fitting: Fitting): Work<Outline[]> {
  const fitted: Outline[] = [];
  for (const [k, points] of lines.entries()) {
    yield k / lines.length;
    fitted.push(yield* workSlice(fitClosed(points, fitting), k / lines.length, (k + 1) / lines.length));
  }
  return fitted;
}

/** Looked at on some of the outlines, the longest first. */
function* isDrawn(fitted: readonly Outline[], cover: Cover): Work<boolean> {
  const order = [...fitted.keys()].sort((a, b) => fitted[b].length - fitted[a].length || a - b);
  const some = new Set<number>();
  for (let pieces = 0; pieces < SAMPLE && some.size < order.length;) {
    const o = order[some.size];
    some.add(o);
    pieces += fitted[o].length;
  }
  yield* workSlice(cover.draw(fitted), 0, 0.2);
  const isSome = (o: number): boolean => some.has(o);
  const near = yield* workSlice(settled(fitted, cover, isSome, SETTLING), 0.2, 0.9);
  const lacking = yield* workSlice(lackingOf(near, cover, isSome), 0.9, 1);
  return median([...some].flatMap((o) => lacking[o])) <= DRAWN;
}

/** Shares that pixels passed by each outline lack, or have too much. */
function* lackingOf(
  outlines: readonly Outline[],
  cover: Cover,
  isWanted: (o: number) => boolean,
): Work<number[][]> {
  const { starts, cell } = yield* passagesOf(outlines, cover, isWanted);
  return outlines.map((_, o) => {
    const passed = new Set(cell.subarray(starts[o], starts[o + 1]));
    return [...passed].map((c) => Math.abs(cover.missing(c)));
  });
}

function median(values: number[]): number {
  return values.sort((a, b) => a - b)[values.length >> 1] ?? 0;
}

/** An outline, and how far it lies off at its worst place. */
interface Refined {
  readonly knots: Outline;
  readonly off: number;
}

/** @returns  null for an outline that is not wanted, that the picture says nothing about, or that went astray */
function* refine(
  rough: readonly Outline[],
  cover: Cover,
  limit: number,
  isWanted: (o: number) => boolean,
): Work<(Refined | null)[]> {
  yield* workSlice(cover.draw(rough), 0, 0.05);
  const outlines = yield* workSlice(settled(rough, cover, isWanted, SETTLING), 0.05, 0.3);
  const lacking = yield* workSlice(lackingOf(outlines, cover, isWanted), 0.3, 0.35);
  const isDrawn = lacking.map((shares, o) => isWanted(o) && median(shares) <= DRAWN);
  let state: State = { outlines, isOn: isDrawn, refused: new Set() };
  const steps = [grown, grown, sharpened, shrunk];
  for (let turn = 0; turn < TURNS && state.isOn.includes(true); turn++) {
    const isChanged = isDrawn.map(() => false);
    for (const [k, step] of steps.entries()) {
      const at = (n: number): number => 0.35 + (0.6 * (turn + n / steps.length)) / TURNS;
      const next = yield* workSlice(step(state, cover, limit), at(k), at(k + 1));
      state = next.state;
      next.isChanged.forEach((is, o) => (isChanged[o] ||= is));
    }
    // What has not changed would be tried again in vain.
    state = { ...state, isOn: isChanged };
  }
  const { worst } = yield* workSlice(
    lookAt(state.outlines, (o) => isDrawn[o], cover),
    0.95,
    1,
  );
  return state.outlines.map((knots, o) => {
    const off = Math.max(0, ...worst[o]);
    return isDrawn[o] && off < STRAY ? { knots, off } : null;
  });
}
