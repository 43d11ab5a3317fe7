import { numberOf } from "../../colour/oklab";
import { artBase, FLAT_MM, pieceBase, tracedBase, type Base } from "../../cutLine/base";
import { cutAround, type CutWish } from "../../cutLine/cutLine";
import { placeIn } from "../../cutLine/gaps";
import { editsTurned } from "../../edit/operations";
import { withEdits } from "../../edit/withEdits";
import { figure, type Check } from "../../inspect/check";
import { type Limits } from "../../inspect/limits";
import {
  checkCorners,
  checkHoles,
  checkLength,
  checkLoose,
  checkNecks,
  checkOutside,
} from "../../inspect/paths/cut";
import { checkEdits } from "../../inspect/paths/edits";
import { checkWhole } from "../../inspect/paths/whole";
import { workSlice, type Work } from "../../maths/work";
import { flattened, lengthOf, ringsOf } from "../../path/flatten";
import { onArtwork, onPiece } from "../../path/frame";
import { rectangleKnots } from "../../path/outline";
import { boxOf, pathSetOf, type PathSet } from "../../path/pathSet";
import { fitRings } from "../../fit/fitRings";
import { offset } from "../../polygon/offset";
import { areaOf, reversedRing, ringArea, type Rings } from "../../polygon/rings";
import { type Rect } from "../../raster/types";
import { outlineOf, type Placement } from "../../result/finish";
import { type Paths, type Picture } from "../../result/result";
import { defineStage } from "../stage";
import { cutFiles } from "./files";
import { cutLineSettings, type CutLineSettings } from "./settings";

const STAMP = 0x1f45c4;
const WEED = 0x6b7480;

/** Out for a border, in to hide a rim: the line that a blade or beam follows round the piece. */
export const cutLine = defineStage({
  id: "cutLine",
  title: "Cut line",
  settings: cutLineSettings,
  takes: ({ from }: CutLineSettings) => ({
    picture: ["picture"] as const,
    outline: from === "trace" ? (["paths"] as const) : (["picture"] as const),
  }),
  gives: "paths",
  // What is printed to the line is the picture, whatever else becomes of it.
  shownOver: ({ print }) => (print ? "picture" : null),
  turnedOn: (settings, by) => ({
    ...settings,
    gaps: { ...settings.gaps, keep: settings.gaps.keep.map(by.at), fill: settings.gaps.fill.map(by.at) },
    ...(settings.tab && settings.tab.at !== "top"
      ? { tab: { ...settings.tab, at: by.at(settings.tab.at) } }
      : {}),
    edits: editsTurned(settings.edits, by),
  }),
  *run({ picture, outline }: Taken, settings, { place }): Work<Paths> {
    const { finish, frame } = picture;
    const base = yield* workSlice(baseOf(outline, settings, place), 0, 0.5);
    const cut = yield* workSlice(cutAround(base, wishOf(settings, picture)), 0.5, 0.9);
    const { kind, pass, weedBoxMm, print } = settings;
    const sets = [pathSetOf({ name: pass?.name ?? "cut", use: kind, colour: STAMP, pass }, cut.paths)];
    const box = boxOf(sets[0]);
    if (weedBoxMm !== undefined && box) sets.push(weedBox(box, weedBoxMm, kind));
    if (print && cut.rings.length > 0) {
      const edge = offset(cut.rings, print.byMm);
      const paths = yield* workSlice(fitRings(edge), 0.9, 1);
      const ground = print.under === "colour" ? numberOf(print.colour) : undefined;
      sets.push({ ...pathSetOf({ name: "print", use: "print", colour: WEED }, paths), ground });
    }
    const { gaps, tabAt } = cut;
    const { sets: edited, missed } = yield* withEdits(sets, settings.edits, picture);
    const { overcutMm } = settings;
    const run = edited.map((set) => (overcutMm > 0 && set.use !== "print" ? { ...set, overcutMm } : set));
    return { kind: "paths", finish, frame, sets: run, missed, cut: { gaps, tabAt, art: picture.colour } };
  },
  *inspect({ sets, finish, frame, cut, missed }, _taken, settings, limits) {
    const [set] = sets;
    const on = { finish, frame };
    const rings = ringsOf(set, FLAT_MM);
    const clockwise = settings.way === "clockwise" ? rings : rings.map(reversedRing);
    const whole = yield* workSlice(checkWhole(sets.filter((s) => s.use !== "print")), 0, 0.3);
    const corners = checkCorners(set, settings.way === "clockwise", limits);
    yield 0.5;
    const necks = yield* workSlice(checkNecks(clockwise, limits), 0.5, 0.8);
    yield 0.8;
    const art = settings.from === "art" && cut ? yield* artBase(cut.art, settings.alpha, on) : null;
    const box = boxOf(set);
    const lengthMm = flattened(set, FLAT_MM).reduce((sum, line) => sum + lengthOf(line), 0);
    const points = (set.points.length / 2 - set.closed.length) / 3;
    const gaps = cut?.gaps ?? [];
    return {
      readings: {
        pathLength: Math.round(lengthMm * 10) / 10,
        points,
        pointsPerCm: lengthMm > 0 ? Math.round((points / lengthMm) * 100) / 10 : 0,
        pieceArea: Math.round(areaOf(clockwise) * 100) / 100,
        gapsFilled: gaps.filter((g) => g.filled).length,
        gapAreas: gaps.map((g) => Math.round(g.areaMm2 * 100) / 100),
        ...corners.readings,
        ...necks.readings,
      },
      checks: [
        whole,
        smoothable(corners.check, settings, limits),
        widenable(necks.check, settings, limits),
        fillable(checkHoles(clockwise, limits), clockwise, limits.holeMm2, settings, on),
        checkLoose(clockwise, settings.kind === "through"),
        ...(art ? [checkOutside(clockwise, keptArt(art.rings, settings), settings.offsetMm)] : []),
        ...checkEdits(missed, settings.edits),
        ...(limits.sheetMm !== null && box ? [checkLength(box, limits.sheetMm)] : []),
      ],
    };
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
  files: cutFiles,
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

interface Taken {
  readonly picture: Picture;
  readonly outline: Picture | Paths;
}

function* baseOf(of: Picture | Paths, { from, alpha }: CutLineSettings, place: Placement): Work<Base> {
  if (of.kind === "paths") return tracedBase(of);
  return from === "shape" ? pieceBase(outlineOf(place)) : yield* artBase(of.colour, alpha, of);
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

/** Corners that a blade cannot follow are smoothed by as much as it holds; where that was not enough, a person decides. */
function smoothable(check: Check, { smoothMm, join }: CutLineSettings, { cornerMm }: Limits): Check {
  if (check.level === "fine" || smoothMm >= cornerMm || join !== "round") return check;
  return {
    ...check,
    repair: { label: `Smooth by ${figure(cornerMm, 2)} mm`, change: { smoothMm: cornerMm } },
  };
}

/** Of a ring that is too thin, such as round a tab's hole, the ring is made wider. */
function widenable(check: Check, { tab }: CutLineSettings, { neckMm }: Limits): Check {
  if (check.level === "fine" || !tab) return check;
  const ringMm = Math.ceil((tab.holeMm + 2 * neckMm) * 10 + 0.5) / 10;
  if (ringMm <= tab.ringMm || ringMm > 200) return check;
  return {
    ...check,
    repair: { label: `Widen the ring to ${figure(ringMm)} mm`, change: { tab: { ...tab, ringMm } } },
  };
}

/** Holes too small to cut are filled by naming a place in each. */
function fillable(
  check: Check,
  rings: Rings,
  holeMm2: number,
  { gaps, tab }: CutLineSettings,
  on: Placement,
): Check {
  const small = rings.filter((r) => ringArea(r) < 0 && -ringArea(r) < holeMm2);
  if (small.length === 0 || tab || small.length + gaps.fill.length > 500) return check;
  const fill = [...gaps.fill, ...small.map((ring) => onArtwork(placeIn(ring), on))];
  return { ...check, repair: { label: "Fill them", change: { gaps: { ...gaps, fill } } } };
}

/** Art that the line is meant to go round: without the parts left out on purpose. */
const keptArt = (rings: Rings, { parts }: CutLineSettings): Rings =>
  parts.keep === "largest"
    ? rings.filter((r) => ringArea(r) === Math.max(...rings.map(ringArea)))
    : rings.filter((r) => ringArea(r) >= parts.smallestMm2 || ringArea(r) < 0);
