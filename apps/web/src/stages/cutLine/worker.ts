import { as, type CutGap, type Result } from "@hardline/core";
import { type StageWorker } from "../stageWorker";

/** What the panel and the hands are told of a cut line. Places in mm of the piece. */
export interface CutNote {
  readonly gaps: readonly CutGap[];
  readonly tabAt: readonly [number, number] | null;
}

export const cutLineWorker: StageWorker = {
  note: (result: Result): CutNote => {
    const { cut } = as(result, "paths");
    return { gaps: cut?.gaps ?? [], tabAt: cut?.tabAt ?? null };
  },
};
