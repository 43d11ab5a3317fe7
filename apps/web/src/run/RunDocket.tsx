import { type RunView } from "@hardline/contract";
import { type Machine } from "@hardline/core/machine/machine";
import { Progress } from "@mantine/core";
import { type ComponentProps } from "react";
import { Link } from "react-router";
import { timeText } from "../shared/time";
import { Trouble } from "../shared/Trouble";
import bay from "../shell/bay/Bay.module.css";
import { RunButtons } from "./RunButtons";
import { RunSettings } from "./RunSettings";
import { isEnded, isLive, WORDS } from "./states";

interface Props {
  readonly run: RunView;
  readonly machine: Machine | undefined;
  readonly asked: ComponentProps<typeof Trouble>["of"];
  /** Whether what is shown goes with the machine. */
  readonly followed: boolean;
  readonly setFollowed: (on: boolean) => void;
  readonly act: ComponentProps<typeof RunButtons>["act"];
  readonly again: (pass: string) => Promise<void>;
  readonly replan: (wish: object) => Promise<void>;
}

/** What a run is, how far it is, and what can be done with it. */
export function RunDocket({ run, machine, asked, followed, setFollowed, act, again, replan }: Props) {
  const { plan, state } = run;
  const live = isLive(run);
  return (
    <>
      <div className={bay.head}>
        <div className={bay.line}>
          <span className="mono">Run {run.id}</span>
          <span className={`${bay.stamp} ${state === "held" || state === "failed" ? bay.stop : ""}`}>
            {WORDS[state]}
          </span>
        </div>
        <h1>{run.name}</h1>
        <p>
          {machine?.name ?? run.machine}
          {run.ticketId && (
            <>
              {", "}
              <Link to={`/tickets/${run.ticketId}`}>to the ticket</Link>
            </>
          )}
          {run.sheetId && (
            <>
              {", "}
              <Link to={`/sheets/${run.sheetId}`}>to the sheet</Link>
            </>
          )}
        </p>
      </div>
      <Trouble title="What is known of this run and its machine is not new" of={asked} />
      <div className={bay.block} role="status">
        {run.error && <p className={bay.fault}>{run.error}</p>}
        {state === "preparing" && (
          <>
            <p className={bay.note}>Making the program, {Math.round(run.progress * 100)} %</p>
            <Progress value={run.progress * 100} size="sm" radius={0} />
          </>
        )}
        {live && plan && (
          <>
            <p className={bay.note}>
              Line {run.executed} of {plan.lines}, {timeText((1 - run.executed / plan.lines) * plan.seconds)}{" "}
              left
            </p>
            <Progress value={(100 * run.executed) / plan.lines} size="sm" radius={0} />
          </>
        )}
        {state === "queued" && (
          <p className={bay.note}>Waits for the machine. Its queue is under Machines.</p>
        )}
        <RunButtons run={run} act={act} />
        {live && (
          <label className={bay.note}>
            <input type="checkbox" checked={followed} onChange={(e) => setFollowed(e.target.checked)} />{" "}
            Follow the machine
          </label>
        )}
      </div>
      {plan && (
        <div className={bay.block}>
          <h2>Passes, in their order</h2>
          <ul className={bay.rows}>
            {plan.passes.map((p) => (
              <li key={p.name}>
                <span className={bay.grow}>
                  {p.name}
                  <small>{p.use === "bitmap" ? `${p.rows} rows` : `${p.use}, ${p.paths} lines`}</small>
                </span>
                <span className="mono">{timeText(p.seconds)}</span>
                {isEnded(run) && (
                  <button type="button" className={bay.plain} onClick={() => void again(p.name)}>
                    Again
                  </button>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
      {(state === "ready" || state === "failed") && machine && (
        <RunSettings run={run} machine={machine} replan={replan} />
      )}
    </>
  );
}
