import { onMaterial } from "@hardline/core/appearance/onMaterial";
import { type Work } from "@hardline/core/maths/work";
import { partIn } from "@hardline/core/path/frame";
import { type Plates, type Result, type Tone } from "@hardline/core/result/result";
import { viewOf } from "@hardline/core/result/view";
import { canvasOf, type Plan } from "@hardline/core/route/plan";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import { stageWorker } from "../stages/workers";
import { type Pane } from "./protocol";

const SMALL = { width: 92, height: 68 };

/** A result's common look, and what its stage adds to it. */
export function* painting(plan: Plan, result: Result, pane: Pane): Work<Uint8Array> {
  const { width, height, base, hidden } = pane;
  // What shows a canvas of its own is no part of the artwork.
  const part = result.kind === "mockUp" ? pane.part : partIn(pane.part, plan.place, result);
  const way = stageById(pane.stage).inColourways ? pane.way : undefined;
  const { appearance } = pane;
  const view = { part, width, height, base, hidden, way };
  const own = stageWorker(pane.stage).draw?.(result, view, pane);
  const { data } = yield* (
    own ?? (appearance && isMarks(result) ? onMaterial(result, view, appearance) : viewOf(result, view))
  );
  stageWorker(pane.stage).paint?.(data, result, part, pane);
  return data;
}

/** Marks that a material's look can be laid under; inks have a garment of their own. */
const isMarks = (result: Result): result is Plates | Tone =>
  (result.kind === "plates" && !result.print) || (result.kind === "tone" && result.ink !== undefined);

/** A small picture of all of a stage's result. */
export function wholeOf(plan: Plan, stage: StageId, base: number): Pane {
  const { widthPx, heightPx } = canvasOf(plan, stage).finish;
  const scale = Math.min(SMALL.width / widthPx, SMALL.height / heightPx);
  const side = (dots: number) => Math.max(1, Math.round(dots * scale));
  const part = { x: 0, y: 0, width: widthPx, height: heightPx };
  return { stage, part, width: side(widthPx), height: side(heightPx), base };
}
