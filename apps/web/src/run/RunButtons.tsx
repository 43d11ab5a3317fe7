import { type RunView } from "@hardline/contract";
import { Button } from "@mantine/core";
import { type RunAct } from "../api/machines";
import bay from "../shell/bay/Bay.module.css";
import css from "./RunButtons.module.css";

/** What a run may be told as it stands. Stop is there as long as anything may move, and is never out of reach. */
export function RunButtons({ run, act }: { run: RunView; act: (what: RunAct) => () => void }) {
  const { state } = run;
  const is = (...states: RunView["state"][]) => states.includes(state);
  return (
    <div className={bay.buttons}>
      {is("ready") && <Button onClick={act("queue")}>Send to the machine</Button>}
      {is("running") && (
        <Button variant="default" onClick={act("pause")} title="Beam off at once; it goes on where it was">
          Pause
        </Button>
      )}
      {is("paused", "pausing", "held") && <Button onClick={act("resume")}>Go on</Button>}
      {is("running", "pausing", "paused", "stopping") && (
        <Button className={css.stop} onClick={act("stop")} title="Beam off at once, and the run is over">
          {state === "stopping" ? "Stop again" : "Stop"}
        </Button>
      )}
      {is("preparing", "ready", "queued", "held") && (
        <Button variant="default" onClick={act("stop")}>
          Put away
        </Button>
      )}
      {is("stopping") && run.error !== null && (
        <Button
          variant="default"
          onClick={act("put-away")}
          title="Only after somebody has seen that the machine stands still"
        >
          I saw it stand still
        </Button>
      )}
    </div>
  );
}
