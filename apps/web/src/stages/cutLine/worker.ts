import { type CutGap } from "@hardline/core/cutLine/gaps";
import { underlayOf } from "@hardline/core/cutLine/underlay";
import { as, type Result } from "@hardline/core/result/result";
import { type SettingsOf } from "@hardline/core/stage/stages";
import { rangeAt } from "../rangeAt";
import { type ColourWish } from "../colourAt";
import { type StageWorker } from "../stageWorker";

/** What the panel and the hands are told of a cut line. Places in mm of the piece. */
export interface CutNote {
  readonly gaps: readonly CutGap[];
  readonly tabAt: readonly [number, number] | null;
}

/** Pixels of what goes on under the art as its edge: it has no detail of its own. */
const MOST_UNDER = 1 << 20;

export const cutLineWorker: StageWorker = {
  underlay: (result, settings) => {
    const { print } = settings as SettingsOf<"cutLine">;
    return print?.under === "edge" ? underlayOf(as(result, "paths"), MOST_UNDER) : null;
  },
  answers: {
    range: (taken, { x, y }: ColourWish) => rangeAt(as(taken.picture, "picture").colour, x, y),
  },
  note: (result: Result): CutNote => {
    const { cut } = as(result, "paths");
    return { gaps: cut?.gaps ?? [], tabAt: cut?.tabAt ?? null };
  },
};
