import { stageById } from "@hardline/core/stage/stages";
import { defineFace } from "../face";
import { HandOverPanel } from "./HandOverPanel";

/** Handing over is a row of the docket and no stage: it makes the files of all of them. */
export const handOverFace = defineFace({
  id: "handOver",
  title: "Hand over",
  words: ({ route }) =>
    [...route.stages.flatMap(({ stage }) => stageById(stage).delivers ?? []), "readings, job sheet"].join(
      ", ",
    ),
  Panel: HandOverPanel,
});
