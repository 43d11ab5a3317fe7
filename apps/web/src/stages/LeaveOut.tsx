import { withoutStage } from "@hardline/core/route/route";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import field from "../shared/fields/Field.module.css";
import { type BenchScene } from "./face";

/** Takes the stage off the route; its settings come back by undoing. */
export const LeaveOut = ({ scene, stage }: { scene: BenchScene; stage: StageId }) => (
  <button
    type="button"
    className={field.link}
    onClick={() => scene.keeper.change(withoutStage(scene.route, stage))}
  >
    Take {stageById(stage).title} off this route
  </button>
);
