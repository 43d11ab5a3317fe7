import { MOST_PLACES, placeInMm, type Place } from "../../inspect/check";
import { workSlice, type Work } from "../../maths/work";
import { pathSetOf, type KnotPath, type PathSet } from "../../path/pathSet";
import { scaledPath } from "../../path/scaled";
import { ringBox } from "../../polygon/rings";
import { type Gray } from "../../raster/types";
import { type Paths } from "../../result/result";
import { otsuThreshold } from "../../screen/threshold";
import { centreLines } from "../../trace/centre/centre";
import { strokesIn } from "../../trace/centre/strokes";
import { fitCoarse } from "../../trace/coarse";
import { fitClosed } from "../../fit/fit";
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
}

export interface Traced {
  readonly sets: readonly PathSet[];
  readonly dropped: NonNullable<Paths["dropped"]>;
}

/** Outlines of what is dark; strokes up to a width as lines along their middle. */
export function* traceBlack(gray: Gray, settings: TraceSettings, { perMm, tolerance }: Scale): Work<Traced> {
  const threshold =
    settings.threshold === "auto" ? yield* workSlice(otsuThreshold(gray, null), 0, 0.05) : settings.threshold;
  const fitting = { tolerance, corners: settings.corners };
  const sets: PathSet[] = [];
  let left = gray;
  if (settings.centreMm > 0) {
    const widest = settings.centreMm * perMm;
    const { mask, rest } = yield* workSlice(strokesIn(gray, threshold, widest), 0.05, 0.15);
    const lines = yield* workSlice(centreLines(gray, threshold, mask, fitting, widest), 0.15, 0.3);
    const scaled = lines.map((line) => scaledPath(line, 1 / perMm));
    const set = pathSetOf({ name: "lines", use: "score", colour: STAMP }, scaled);
    if (lines.length > 0) sets.push({ ...set, widthsMm: Float64Array.from(lines, (l) => l.wide / perMm) });
    left = rest;
  }
  const outlines = yield* workSlice(outlinesOf(left, threshold), 0.3, 0.4);
  const [shape, hole] = [settings.smallestMm2, settings.smallestHoleMm2].map((a) => a * perMm * perMm);
  const { kept, gone, specks, pinholes } = largeEnough(outlines, shape, hole);
  const coarse = settings.smoothMm * perMm;
  const paths: KnotPath[] = [];
  for (const [done, k] of kept.entries()) {
    const points = outlineAt(outlines, k);
    const work = coarse > 1 ? fitCoarse(points, coarse, fitting) : fitClosed(points, fitting);
    const at = (n: number) => 0.4 + (0.6 * n) / kept.length;
    yield at(done);
    const knots = yield* workSlice(work, at(done), at(done + 1));
    paths.push(scaledPath({ knots, closed: true }, 1 / perMm));
  }
  const filled = pathSetOf({ name: "trace", use: "fill", colour: INK }, paths);
  const places = gone
    .slice(0, MOST_PLACES)
    .map((k): Place => placeInMm(ringBox(outlineAt(outlines, k).map((v) => v / perMm))));
  const shown = paths.length > 0 || sets.length === 0 ? [filled, ...sets] : sets;
  return { sets: shown, dropped: { specks, pinholes, places } };
}

/** The same outlines as they are found, of straight pieces: for a first look, while a hand moves. */
export function* sketchBlack(gray: Gray, settings: TraceSettings, perMm: number): Work<PathSet> {
  const threshold =
    settings.threshold === "auto" ? yield* workSlice(otsuThreshold(gray, null), 0, 0.2) : settings.threshold;
  const { points, starts } = yield* workSlice(outlinesOf(gray, threshold), 0.2, 0.8);
  const [shape, hole] = [settings.smallestMm2, settings.smallestHoleMm2].map((a) => a * perMm * perMm);
  const { kept } = largeEnough({ points, starts }, shape, hole);
  // Every second place is as fine as a screen shows.
  const paths = kept.map((k): KnotPath => {
    const knots = [];
    for (let i = starts[k]; i < starts[k + 1]; i += 2)
      knots.push({ at: [points[2 * i] / perMm, points[2 * i + 1] / perMm] as const });
    return { knots, closed: true };
  });
  return pathSetOf({ name: "trace", use: "fill", colour: INK }, paths);
}
