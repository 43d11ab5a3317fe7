import { as, type Coloured } from "@hardline/core/result/result";
import { type StageWorker } from "../stageWorker";

/** What the hand is told: of each colour its area, and the areas in few pixels. */
export type ColourNote = Coloured;

export const colourWorker: StageWorker = {
  note: (result): ColourNote | undefined => as(result, "picture").coloured,
};
