import { MOST_PLACES, placeInMm, type Place } from "../../inspect/check";
import { workSlice, type Work } from "../../maths/work";
import { packed, pathSetOf, straightSet, type KnotPath, type PathSet } from "../../path/pathSet";
import { scaledPath } from "../../path/scaled";
import { fewerCorners } from "../../polygon/fewerCorners";
import { ringBox } from "../../polygon/rings";
import { type Gray } from "../../raster/types";
import { type Paths } from "../../result/result";
import { otsuThreshold } from "../../screen/threshold";
import { centreLines } from "../../trace/centre/centre";
import { strokesIn } from "../../trace/centre/strokes";
import { fitCoarse } from "../../trace/coarse";
import { fitDrawn } from "../../fit/refine/refine";
import { laidBridges } from "../../trace/bridges";
import { refuseDust } from "../../trace/dust";
import { finer } from "../../trace/finer";
import { resampleGray } from "../../resample/resample";
import { RouteError } from "../../settings/errors";
import { onWhitePaper } from "../../trace/paper";
import { outlineAt, outlinesOf } from "../../trace/outlines";
import { largeEnough } from "../../trace/shapes";
import { type TraceSettings } from "./settings";

const INK = 0x15181d;
const STAMP = 0x1f45c4;

/** From pixels to millimetres, and how near an outline is followed. */
export interface Scale {
  readonly perMm: number;
  /** In pixels. */
  readonly tolerance: number;
  /** Width in pixels of the softest edge. */
  readonly edge: number;
  /** How many times larger than its source the picture is, 1 or more. */
  readonly enlarged: number;
}

export interface Traced {
  readonly sets: readonly PathSet[];
  readonly dropped: NonNullable<Paths["dropped"]>;
}

/** Outlines of what is dark; strokes up to a width as lines along their middle. */
export function* traceBlack(
  gray: Gray,
  settings: TraceSettings,
  { perMm, tolerance, enlarged }: Scale,
): Work<Traced> {
  const threshold =
    settings.threshold === "auto" ? yield* workSlice(otsuThreshold(gray, null), 0, 0.05) : settings.threshold;
  const fitting = { tolerance, corners: settings.corners };
  const sets: PathSet[] = [];
  let left = gray;
  if (settings.centreMm > 0) {
    const widest = settings.centreMm * perMm;
    const parted = yield* workSlice(strokesIn(gray, threshold, widest), 0.05, 0.15);
    const { fine, times, mask, rest } = parted;
    const along = centreLines(fine, threshold, mask, times, fitting, widest);
    const lines = yield* workSlice(along, 0.15, 0.3);
    const scaled = lines.map((line) => scaledPath(line, 1 / perMm));
    const set = pathSetOf({ name: "lines", use: "score", colour: STAMP }, scaled);
    if (lines.length > 0) sets.push({ ...set, widthsMm: Float64Array.from(lines, (l) => l.wide / perMm) });
    left = rest;
  }
  const looked =
    settings.thin > 0
      ? yield* workSlice(
          thinStrokes(left, threshold, settings.thin, enlarged, settings.threshold === "auto"),
          0.3,
          0.38,
        )
      : left;
  // From here on in the pixels of what is looked at.
  const times = looked.width / left.width;
  const own = perMm * times;
  const outlines = yield* workSlice(outlinesOf(looked, looked === left ? threshold : 128), 0.38, 0.4);
  const [shape, hole] = [settings.smallestMm2, settings.smallestHoleMm2].map((a) => a * own * own);
  const sized = yield* workSlice(largeEnough(outlines, shape, hole), 0.4, 0.41);
  refuseDust(outlines, sized, settings.smallestMm2, own);
  const { kept, gone, specks, pinholes } = sized;
  const coarse = settings.smoothMm * own;
  const fit = { ...fitting, tolerance: tolerance * times };
  const lines = kept.map((k) => outlineAt(outlines, k));
  const work =
    coarse > 1
      ? fitCoarse(lines, coarse, fit)
      : fitDrawn(lines, looked, looked === left ? threshold : 128, fit);
  const fitted = yield* workSlice(work, 0.41, 0.99);
  const paths = fitted.map((knots): KnotPath => ({ knots, closed: true }));
  const look = { name: "trace", use: "fill", colour: INK } as const;
  const filled = yield* workSlice(packed(look, paths, 1 / own), 0.99, 1);
  const places = gone
    .slice(0, MOST_PLACES)
    .map((k): Place => placeInMm(ringBox(outlineAt(outlines, k).map((v) => v / own))));
  const shown = paths.length > 0 || sets.length === 0 ? [filled, ...sets] : sets;
  return { sets: shown, dropped: { specks, pinholes, places } };
}

/** Of more pixels thin strokes are not looked for: it takes some 50 microseconds for each (`npm run thin`). */
const MOST_THIN = 500_000;

/** Of 255: ink of a ridge between two pieces of a thin stroke, more where only plain strokes are looked for. */
const [FAINT, FAINTEST] = [110, 14];
/**
 * On paper that is not white all over a scanner's lens has spread what there is: so large a share of each pixel to either
 * side, as a blur of two thirds of a pixel does. Sharper scans lose nothing by it, softer ones gain most (`npm run thin`).
 */
const LENS = 0.18;

/** Ink on paper at four times the size of its source, where strokes thinner than a pixel have their width. */
function* thinStrokes(
  gray: Gray,
  threshold: number,
  readily: number,
  enlarged: number,
  automatic: boolean,
): Work<Gray> {
  const [width, height] = [gray.width, gray.height].map((side) => Math.max(1, Math.round(side / enlarged)));
  if (width * height > MOST_THIN)
    throw new RouteError(
      "trace",
      "thin",
      readily,
      `0 for pictures of more than ${MOST_THIN / 1e6} megapixels; this one has ${((width * height) / 1e6).toFixed(1)}`,
    );
  // What Size has enlarged says no more than its source, whose pixels each hold so much ink.
  const source =
    enlarged > 1 ? yield* workSlice(resampleGray(gray, width, height, "lanczos3"), 0, 0.1) : gray;
  const paper = yield* workSlice(onWhitePaper(source), 0.1, 0.15);
  // Ink is black: of strokes thinner than a pixel no threshold between the greys there are would say what is half of it.
  const half = automatic ? 128 : threshold;
  const scanned = paper !== source;
  const fine = yield* workSlice(finer(paper, half, readily, scanned ? LENS : 0), 0.15, 0.85);
  yield* workSlice(laidBridges(fine, paper, FAINT * (1 - readily) + FAINTEST, scanned), 0.85, 1);
  return fine;
}

/** A first look's outlines leave out, in pixels of its own, what nobody sees. */
const SEEN = 0.25;

/** The same outlines as they are found, of straight pieces: for a first look, while a hand moves. */
export function* sketchBlack(gray: Gray, settings: TraceSettings, perMm: number): Work<PathSet> {
  const threshold =
    settings.threshold === "auto" ? yield* workSlice(otsuThreshold(gray, null), 0, 0.2) : settings.threshold;
  const { points, starts } = yield* workSlice(outlinesOf(gray, threshold), 0.2, 0.8);
  const [shape, hole] = [settings.smallestMm2, settings.smallestHoleMm2].map((a) => a * perMm * perMm);
  const { kept } = yield* workSlice(largeEnough({ points, starts }, shape, hole), 0.8, 1);
  const rings = kept.map((k) =>
    fewerCorners(outlineAt({ points, starts }, k), SEEN).map((pixels) => pixels / perMm),
  );
  return straightSet({ name: "trace", use: "fill", colour: INK }, rings);
}
