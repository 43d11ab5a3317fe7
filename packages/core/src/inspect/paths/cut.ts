import { bendsOf } from "../../fit/bends";
import { thinnestNeck } from "../../polygon/necks";
import { common, offset, simplified, without } from "../../polygon/inSlices";
import { partsOf } from "../../polygon/around";
import { areaOf, ringArea, ringBox, type Part, type Ring, type Rings } from "../../polygon/rings";
import { workSlice, type Work } from "../../maths/work";
import { type PathSet } from "../../path/pathSet";
import { type Rect } from "../../raster/types";
import { figure, MOST_PLACES, placeInMm, type Check, type Readings } from "../check";
import { type Limits } from "../limits";

/** A corner this blunt, or blunter, is followed by every machine: a square one with a little to spare. */
const BLUNT_DEGREES = 100;
/** Round such a place, in mm, it is pointed out. */
const AROUND_MM = 1;

/** Corners sharper than the blade or beam follows without tearing or burning, and how round the line is at its least. */
export function* checkCorners(
  set: PathSet,
  clockwise: boolean,
  { cornerMm }: Limits,
): Work<{ check: Check; readings: Readings }> {
  const bends = yield* bendsOf(set);
  const counts = bends.filter((b) => b.turnDegrees === 0 || b.turnDegrees > BLUNT_DEGREES);
  const sharp = counts.filter((b) => b.radiusMm < cornerMm);
  const least = (of: typeof bends) => of.reduce((r, b) => Math.min(r, b.radiusMm), Infinity);
  const told = (radius: number) => (radius === Infinity ? "none" : Math.round(radius * 100) / 100);
  const sharpest = least(counts);
  const places = [...sharp]
    .sort((a, b) => a.radiusMm - b.radiusMm || b.turnDegrees - a.turnDegrees)
    .slice(0, MOST_PLACES)
    .map(({ at: [x, y] }) => ({
      xMm: x - AROUND_MM,
      yMm: y - AROUND_MM,
      widthMm: 2 * AROUND_MM,
      heightMm: 2 * AROUND_MM,
    }));
  const check: Check = {
    id: "cutCorners",
    level: sharp.length > 0 ? "look" : "fine",
    value: sharpest === Infinity ? 0 : Math.round(sharpest * 1000) / 1000,
    unit: "mm",
    text:
      sharp.length > 0
        ? `${sharp.length} sharp ${sharp.length === 1 ? "corner" : "corners"}`
        : sharpest === Infinity
          ? "No sharp corner"
          : `Tightest bend ${figure(sharpest, 2)} mm`,
    detail:
      sharp.length > 0
        ? `Under ${figure(cornerMm, 2)} mm a blade tears or a beam burns.`
        : `The tool holds ${figure(cornerMm, 2)} mm.`,
    places,
  };
  const inner = told(least(bends.filter((b) => b.outer !== clockwise)));
  const outer = told(least(bends.filter((b) => b.outer === clockwise)));
  return { check, readings: { innerRadius: inner, outerRadius: outer } };
}

/** Necks are looked for up to so many times what the material bears, and in mm at least. */
const [NECK_TIMES, NECK_MM] = [2, 4];
/** Numbers in an outline from which on it has many corners. */
const MANY = 8000;
const NECK_TIMES_MANY = 4;
/** Detail of an outline that matters to the width of a neck, in mm. */
const NECK_DETAIL_MM = 0.01;

/** The thinnest place between two larger ones, or between a hole and the outside. */
export function* checkNecks(rings: Rings, { neckMm }: Limits): Work<{ check: Check; readings: Readings }> {
  const fine = yield* simplified(rings, NECK_DETAIL_MM);
  // Of an outline with many corners only what is too thin is looked for, and less closely.
  const many = fine.reduce((sum, r) => sum + r.length, 0) > MANY;
  const plain = many ? yield* simplified(rings, NECK_TIMES_MANY * NECK_DETAIL_MM) : fine;
  const upTo = many ? neckMm : Math.max(NECK_MM, NECK_TIMES * neckMm);
  const neck = upTo > 0 ? yield* thinnestNeck(plain, upTo) : null;
  const thin = neck !== null && neck.widthMm < neckMm;
  const width = neck ? Math.round(neck.widthMm * 100) / 100 : upTo;
  const check: Check = {
    id: "cutNecks",
    level: thin ? "look" : "fine",
    value: width,
    unit: "mm",
    text: neck ? `Thinnest neck ${figure(width, 2)} mm` : `No neck under ${figure(upTo)} mm`,
    detail: `The material wants ${figure(neckMm, 2)} mm or more.`,
    places: neck ? [placeInMm(neck.box)] : [],
  };
  return { check, readings: { neck: neck ? width : "none" } };
}

/** Holes too small to cut cleanly. */
export function checkHoles(rings: Rings, { holeMm2 }: Limits): Check {
  const holes = rings.filter((r) => ringArea(r) < 0);
  const small = holes.filter((r) => -ringArea(r) < holeMm2).sort((a, b) => ringArea(b) - ringArea(a));
  const least = holes.reduce((a, r) => Math.min(a, -ringArea(r)), Infinity);
  return {
    id: "cutHoles",
    level: small.length > 0 ? "look" : "fine",
    value: small.length,
    unit: "holes",
    text:
      small.length > 0
        ? `${small.length} ${small.length === 1 ? "hole" : "holes"} too small to cut`
        : holes.length > 0
          ? `Smallest hole ${figure(least, 1)} mm²`
          : "No holes",
    detail: `Under ${figure(holeMm2, 2)} mm² a hole tears or burns out.`,
    places: small.slice(0, MOST_PLACES).map((r) => placeInMm(ringBox(r))),
  };
}

/** Parts that hang on nothing once they are cut through. */
export function checkLoose(rings: Rings, through: boolean): Check {
  const parts = partsOf(rings);
  const holes = parts.reduce((sum, p) => sum + p.holes.length, 0);
  const bySize = [...parts].sort((a, b) => ringArea(b.outer) - ringArea(a.outer));
  const loose = through && parts.length > 1;
  return {
    id: "looseParts",
    level: loose ? "look" : "fine",
    value: parts.length,
    unit: "parts",
    text: loose
      ? `${parts.length} parts, loose from each other`
      : parts.length === 1
        ? "One piece"
        : `${parts.length} parts`,
    detail: loose
      ? "Cut through, each falls out by itself."
      : `${holes === 0 ? "Nothing" : holes === 1 ? "One gap" : `${holes} gaps`} drops out.`.replace(
          /(\d gaps) drops/,
          "$1 drop",
        ),
    places: loose ? bySize.slice(1, 1 + MOST_PLACES).map((p) => placeInMm(ringBox(p.outer))) : [],
  };
}

/** Art nearer to its own edge than this, in mm, is only how two lines were drawn. */
const RIM_MM = 0.3;
/** Art outside the line from this area on is pointed out, in mm2. */
const OUTSIDE_MM2 = 0.05;

/** Art that the line cuts off, where it is meant to go round all of it. */
export function* checkOutside(rings: Rings, art: readonly Ring[], offsetMm: number): Work<Check> {
  const off = offsetMm < 0 ? [] : yield* workSlice(cutOff(rings, art), 0, 0.5);
  let area = 0;
  for (const [k, part] of off.entries()) {
    yield 0.5 + (0.5 * k) / off.length;
    area += areaOf(yield* common(yield* offset([part.outer], RIM_MM), art));
  }
  return {
    id: "artOutside",
    level: off.length > 0 ? "look" : "fine",
    value: Math.round(area * 100) / 100,
    unit: "mm²",
    text: off.length > 0 ? `${figure(area)} mm² of the art is cut off` : "All of the art is inside",
    detail: off.length > 0 ? "Parts left out, or smoothed away." : "The line goes round everything.",
    places: off
      .sort((a, b) => ringArea(b.outer) - ringArea(a.outer))
      .slice(0, MOST_PLACES)
      .map((p) => placeInMm(ringBox(p.outer))),
  };
}

/** Parts of art, without a rim of it, that lie outside of a line. */
function* cutOff(rings: Rings, art: readonly Ring[]): Work<Part[]> {
  const core = yield* workSlice(offset(art, -RIM_MM), 0, 0.6);
  const outside = yield* workSlice(without(core, rings), 0.6, 1);
  return partsOf(outside).filter((p) => ringArea(p.outer) > OUTSIDE_MM2);
}

/** Whether the cut, as it lies, fits what the machine takes. */
export function checkLength(box: Rect, sheetMm: number): Check {
  const longest = Math.max(box.width, box.height);
  const over = longest > sheetMm;
  return {
    id: "cutLength",
    level: over ? "stop" : "fine",
    value: Math.round(longest * 10) / 10,
    unit: "mm",
    text: `The cut is ${figure(longest)} mm long`,
    detail: `The machine takes ${figure(sheetMm)} mm.`,
    places: over ? [placeInMm(box)] : [],
  };
}
