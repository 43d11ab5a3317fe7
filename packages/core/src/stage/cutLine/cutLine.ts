import { numberOf } from "../../colour/oklab";
import { artBase, pieceBase, tracedBase, type Base } from "../../cutLine/base";
import {
  cutAround,
  straight,
  type CutWish,
  type Inner,
  type KeptInner,
  type Sketch,
} from "../../cutLine/cutLine";
import { editsTurned, fontsOf } from "../../edit/operations";
import { withEdits } from "../../edit/withEdits";
import { figure } from "../../inspect/check";
import { dotsPerMm } from "../../maths/units";
import { workSlice, type Work } from "../../maths/work";
import { onPiece } from "../../path/frame";
import { rectangleKnots } from "../../path/outline";
import { boxOf, pathSetOf, type PathSet } from "../../path/pathSet";
import { fitRings } from "../../fit/fitRings";
import { offset } from "../../polygon/inSlices";
import { type Rect } from "../../raster/types";
import { outlineOf, type Placement } from "../../result/finish";
import { type Paths, type Picture } from "../../result/result";
import { inspectBy } from "../checks";
import { type FurtherTurn } from "../../turn/further";
import { defineStage, type Context } from "../stage";
import { RouteError } from "../../settings/errors";
import { drawingTurned, drawnOn } from "../../drawing/overArtwork";
import { aboutCut, CUT_CHECKS } from "./checks";
import { cutLineSettings, type CutLineSettings } from "./settings";

const STAMP = 0x1f45c4;
const WEED = 0x6b7480;

/** Out for a border, in to hide a rim: the line that a blade or beam follows round the piece. */
export const cutLine = defineStage({
  id: "cutLine",
  title: "Cut line",
  settings: cutLineSettings,
  called: { offsetMm: "border", "print.byMm": "print moved by" },
  takes: ({ from }: CutLineSettings) => ({
    picture: ["picture"] as const,
    outline: from === "trace" ? (["paths"] as const) : (["picture"] as const),
  }),
  gives: "paths",
  fonts: ({ edits }) => fontsOf(edits),
  // What is printed to the line is the picture, whatever else becomes of it.
  shownOver: ({ print }) => (print ? "picture" : null),
  turnedOn: (settings, by) => ({
    ...settings,
    gaps: { ...settings.gaps, keep: settings.gaps.keep.map(by.at), fill: settings.gaps.fill.map(by.at) },
    ...(settings.tab && settings.tab.at !== "top"
      ? { tab: { ...settings.tab, at: by.at(settings.tab.at) } }
      : {}),
    ...(settings.drawing && { drawing: turnedDrawing(settings.drawing, by) }),
    edits: editsTurned(settings.edits, by),
  }),
  admit({ from, drawing }) {
    if (from === "drawing" && !drawing)
      throw new RouteError("cutLine", "drawing", drawing, "paths of a drawing, where from is drawing");
  },
  run: (taken: Taken, settings, context) => lineRound(taken, settings, context, null),
  /** Lines of straight pieces, as fine as what is shown; those that are edited by their knots are made whole. */
  draft: (taken: Taken, settings, context) =>
    lineRound(
      taken,
      settings,
      context,
      settings.edits.length > 0 ? null : { detailMm: SEEN / dotsPerMm(taken.picture.finish) },
    ),
  *inspect(result, _taken, settings, limits) {
    const about = yield* workSlice(aboutCut(result, settings, limits), 0, 0.05);
    return yield* workSlice(inspectBy(CUT_CHECKS, about), 0.05, 1);
  },
  readings: {
    pathLength: { label: "Path length", unit: "mm", decimals: 1 },
    points: { label: "Points" },
    pointsPerCm: { label: "Points per cm", decimals: 1 },
    pieceArea: { label: "Piece area", unit: "mm²", decimals: 1 },
    gapsFilled: { label: "Gaps filled" },
    gapAreas: { label: "Gap areas", unit: "mm²", display: "none" },
    innerRadius: { label: "Tightest inner bend", unit: "mm", decimals: 2 },
    outerRadius: { label: "Tightest outer bend", unit: "mm", decimals: 2 },
    neck: { label: "Thinnest neck", unit: "mm", decimals: 2 },
  },
  limits: ["neckMm", "cornerMm", "holeMm2", "sheetMm"],
  async *files(paths, settings, doing, _job, ways) {
    const { cutFiles } = await import("./files");
    yield* cutFiles(paths, settings, doing, ways);
  },
  inColourways: true,
  delivers: "cut line",
  summary: ({ offsetMm, smoothMm, gaps, tab, kind, print }) =>
    [
      offsetMm > 0
        ? `${figure(offsetMm, 2)} mm border`
        : offsetMm < 0
          ? `${figure(-offsetMm, 2)} mm in`
          : "on the outline",
      ...(smoothMm > 0 ? [`smoothed ${figure(smoothMm, 2)} mm`] : []),
      ...(gaps.fillSmallerThanMm2 > 0 || gaps.fill.length > 0 ? ["gaps filled"] : []),
      ...(tab ? ["tab"] : []),
      ...(print ? ["printed to the line"] : []),
      kind,
    ].join(", "),
});

function turnedDrawing(drawing: NonNullable<CutLineSettings["drawing"]>, by: FurtherTurn) {
  const { size, turned } = drawingTurned(drawing, by);
  return { d: turned(drawing.d), ...size };
}

/** Share of a pixel that is seen of a line. */
const SEEN = 0.3;

function* lineRound(
  { picture, outline }: Taken,
  settings: CutLineSettings,
  { place, keep }: Context,
  sketch: Sketch | null,
): Work<Paths> {
  const { finish, frame } = picture;
  const base = yield* workSlice(keptBase(outline, settings, place, keep), 0, 0.5);
  const cut = yield* workSlice(
    cutAround(base, wishOf(settings, picture), sketch, innerIn(keep, base)),
    0.5,
    0.9,
  );
  const { kind, pass, weedBoxMm, print } = settings;
  const sets = [pathSetOf({ name: pass?.name ?? "cut", use: kind, colour: STAMP, pass }, cut.paths)];
  const box = boxOf(sets[0]);
  if (weedBoxMm !== undefined && box) sets.push(weedBox(box, weedBoxMm, kind));
  if (print && cut.rings.length > 0) {
    const edge = yield* workSlice(offset(cut.rings, print.byMm), 0.9, 0.95);
    const paths = sketch ? edge.map(straight) : yield* workSlice(fitRings(edge), 0.95, 1);
    const ground = print.under === "colour" ? numberOf(print.colour) : undefined;
    sets.push({ ...pathSetOf({ name: "print", use: "print", colour: WEED }, paths), ground });
  }
  const { gaps, tabAt } = cut;
  const { sets: edited, missed, texts } = yield* withEdits(sets, settings.edits, picture);
  const { overcutMm } = settings;
  const run = edited.map((set) => (overcutMm > 0 && set.use !== "print" ? { ...set, overcutMm } : set));
  return {
    kind: "paths",
    finish,
    frame,
    sets: run,
    missed,
    texts,
    cut: { gaps, tabAt, art: picture.colour },
  };
}

/** What the line goes round stays the same while its border is dragged. */
function* keptBase(
  outline: Taken["outline"],
  settings: CutLineSettings,
  place: Placement,
  keep: Context["keep"],
): Work<Base> {
  const { from, alpha } = settings;
  const own = from === "shape" ? outlineOf(place) : from === "drawing" && [settings.drawing, place];
  const of = JSON.stringify([from, alpha, own]);
  const known = keep.get<{ readonly of: string; readonly base: Base }>("base");
  if (known?.of === of) return known.base;
  const base = yield* baseOf(outline, settings, place);
  const corners = base.rings.reduce((sum, ring) => sum + ring.length, 0);
  keep.set("base", { of, base }, BYTES_A_NUMBER * corners);
  return base;
}

/** What lies within the border stays as well. */
const innerIn = (keep: Context["keep"], base: Base): KeptInner => ({
  get: (name) => {
    const known = keep.get<{ readonly name: string; readonly base: Base; readonly inner: Inner }>("inner");
    return known?.name === name && known.base === base ? known.inner : undefined;
  },
  set: (name, inner) => {
    const corners = inner.rings.reduce((sum, ring) => sum + ring.length, 0);
    keep.set("inner", { name, base, inner }, BYTES_A_NUMBER * corners);
  },
});

/** A corner's place, and its part of the curves that it stands for. */
const BYTES_A_NUMBER = 64;

interface Taken {
  readonly picture: Picture;
  readonly outline: Picture | Paths;
}

function* baseOf(
  of: Picture | Paths,
  { from, alpha, drawing }: CutLineSettings,
  place: Placement,
): Work<Base> {
  if (of.kind === "paths") return yield* tracedBase(of);
  if (from === "drawing") return yield* pieceBase(drawing ? drawnOn(drawing.d, drawing, place) : []);
  return yield* from === "shape" ? pieceBase(outlineOf(place)) : artBase(of.colour, alpha, of);
}

/** The settings with places of the artwork in millimetres of the piece. */
function wishOf({ gaps, tab, ...settings }: CutLineSettings, on: Placement): CutWish {
  const mm = (at: readonly [number, number]) => onPiece(at, on);
  return {
    ...settings,
    gaps: { ...gaps, keep: gaps.keep.map(mm), fill: gaps.fill.map(mm) },
    tab: tab ? { ...tab, at: tab.at === "top" ? "top" : mm(tab.at) } : null,
  };
}

/** A frame around vinyl, so that the waste lifts off in one. */
function weedBox({ x, y, width, height }: Rect, byMm: number, use: PathSet["use"]): PathSet {
  const knots = rectangleKnots(x - byMm, y - byMm, width + 2 * byMm, height + 2 * byMm);
  return pathSetOf({ name: "weed box", use, colour: WEED }, [{ knots, closed: true }]);
}
