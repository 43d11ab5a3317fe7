import { type Work } from "../../maths/work";
import { artBase, FLAT_MM } from "../../cutLine/base";
import { placeIn } from "../../cutLine/gaps";
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
import { checkStencil } from "../../inspect/paths/stencil";
import { checkTexts } from "../../inspect/paths/texts";
import { checkWhole } from "../../inspect/paths/whole";
import { flattenedInSlices, lengthOf, ringsInSlices } from "../../path/flatten";
import { onArtwork } from "../../path/frame";
import { boxOf } from "../../path/pathSet";
import { areaOf, reversedRing, ringArea, type Rings } from "../../polygon/rings";
import { type Placement } from "../../result/finish";
import { type Paths } from "../../result/result";
import { atOnce, type StageCheck } from "../checks";
import { type CutLineSettings } from "./settings";

interface About {
  readonly result: Paths;
  readonly settings: CutLineSettings;
  readonly limits: Limits;
  /** The line as straight pieces: the piece's edge clockwise, its holes the other way. */
  readonly clockwise: Rings;
}

export function* aboutCut(result: Paths, settings: CutLineSettings, limits: Limits): Work<About> {
  const rings = yield* ringsInSlices(result.sets[0], FLAT_MM);
  return {
    result,
    settings,
    limits,
    clockwise: settings.way === "clockwise" ? rings : rings.map(reversedRing),
  };
}

/** Everything that is looked at in a cut line. */
export const CUT_CHECKS: readonly StageCheck<About>[] = [
  {
    cost: 10,
    *find({ result: { sets, cut }, clockwise }) {
      const [set] = sets;
      const lines = yield* flattenedInSlices(set, FLAT_MM);
      const lengthMm = lines.reduce((sum, line) => sum + lengthOf(line), 0);
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
        },
      };
    },
  },
  {
    cost: 30,
    *find({ result: { sets } }) {
      return { checks: [yield* checkWhole(sets.filter((s) => s.use !== "print"))] };
    },
  },
  {
    cost: 20,
    *find({ result: { sets }, settings, limits }) {
      const { check, readings } = yield* checkCorners(sets[0], settings.way === "clockwise", limits);
      return { readings, checks: [smoothable(check, settings, limits)] };
    },
  },
  {
    cost: 30,
    *find({ clockwise, settings, limits }) {
      const { check, readings } = yield* checkNecks(clockwise, limits);
      return { readings, checks: [widenable(check, settings, limits)] };
    },
  },
  atOnce(({ clockwise, limits, settings, result }) => ({
    checks: [fillable(checkHoles(clockwise, limits), clockwise, limits.holeMm2, settings, result)],
  })),
  atOnce(({ clockwise, settings }) => ({ checks: [checkLoose(clockwise, settings.kind === "through")] })),
  {
    cost: 20,
    applies: ({ settings, result }) => settings.from === "art" && result.cut !== undefined,
    *find({ clockwise, settings, result }) {
      const { rings } = yield* artBase(result.cut!.art, settings.alpha, result);
      return { checks: [yield* checkOutside(clockwise, keptArt(rings, settings), settings.offsetMm)] };
    },
  },
  {
    // Letters that are cut through are a stencil; of other gaps it is told as loose parts.
    cost: 20,
    applies: ({ result, settings }) => settings.kind === "through" && (result.texts?.length ?? 0) > 0,
    *find({ result: { sets }, settings: { edits }, limits }) {
      return { checks: [yield* checkStencil(sets[0], "gaps", limits.neckMm, edits)] };
    },
  },
  atOnce(({ result }) => ({ checks: checkTexts(result.texts, result.finish) })),
  atOnce(({ result, settings }) => ({ checks: checkEdits(result.missed, settings.edits) })),
  {
    applies: ({ limits, result }) => limits.sheetMm !== null && boxOf(result.sets[0]) !== null,
    ...atOnce(({ limits, result }) => ({ checks: [checkLength(boxOf(result.sets[0])!, limits.sheetMm!)] })),
  },
];

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
