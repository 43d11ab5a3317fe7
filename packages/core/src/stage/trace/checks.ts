import { checkFrame } from "../../inspect/frame";
import { checkDropped } from "../../inspect/paths/dropped";
import { checkEdits } from "../../inspect/paths/edits";
import { type Limits } from "../../inspect/limits";
import { checkStencil } from "../../inspect/paths/stencil";
import { checkTexts } from "../../inspect/paths/texts";
import { checkWhole } from "../../inspect/paths/whole";
import { type PathSet } from "../../path/pathSet";
import { type Paths } from "../../result/result";
import { atOnce, type StageCheck } from "../checks";
import { type TraceSettings } from "./settings";

type About = Paths & Pick<TraceSettings, "edits" | "from"> & { readonly limits: Limits };

/** Everything that is looked at in traced outlines. */
export const TRACE_CHECKS: readonly StageCheck<About>[] = [
  atOnce(({ sets, dropped }) => ({
    readings: {
      paths: countOf(sets, (s) => s.closed.length),
      segments: countOf(sets, (s) => (s.points.length / 2 - s.closed.length) / 3),
      specksDropped: dropped?.specks ?? 0,
      pinholesDropped: dropped?.pinholes ?? 0,
      ...widthsOf(sets),
    },
  })),
  {
    // A drawing's own paths run round it where it was drawn so.
    applies: ({ from }) => from !== "drawing",
    ...atOnce(({ sets: [filled], finish }) => ({ checks: [checkFrame(filled, finish)] })),
  },
  {
    cost: 20,
    *find({ sets }) {
      return { checks: [yield* checkWhole(sets)] };
    },
  },
  atOnce((paths) => ({ checks: [checkDropped(paths)] })),
  {
    // Only what is cut through is a stencil.
    cost: 20,
    applies: ({ sets }) => sets.some(isCutThrough),
    *find({ sets, edits, limits }) {
      return { checks: [yield* checkStencil(sets.find(isCutThrough)!, "filled", limits.neckMm, edits)] };
    },
  },
  atOnce(({ texts, finish }) => ({ checks: checkTexts(texts, finish) })),
  atOnce(({ missed, edits }) => ({ checks: checkEdits(missed, edits) })),
];

const isCutThrough = ({ use }: PathSet): boolean => use === "through";

const countOf = (sets: readonly PathSet[], of: (set: PathSet) => number): number =>
  sets.reduce((sum, set) => sum + of(set), 0);

/** Of lines along strokes, the least and the greatest width. */
function widthsOf(sets: readonly PathSet[]): Record<string, number> {
  let [least, most] = [Infinity, -Infinity];
  for (const { widthsMm } of sets)
    for (const mm of widthsMm ?? []) [least, most] = [Math.min(least, mm), Math.max(most, mm)];
  if (most < least) return {};
  const round = (mm: number): number => Math.round(mm * 1000) / 1000;
  return { thinnestLine: round(least), widestLine: round(most) };
}
