import { type RouteView, type RunView } from "@hardline/contract";
import { figure } from "@hardline/core/inspect/check";
import { programExtension } from "@hardline/core/machine/machine";
import { moveAt, secondOfLine, secondsIn, type Timeline } from "@hardline/core/machine/timeline";
import { Progress } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { ask } from "../api/client";
import { useMaterials } from "../api/house";
import { newRun, passAgain, runAct, useMachines } from "../api/machines";
import { useEvents } from "../api/useEvents";
import { Bay, Figures } from "../shell/bay/Bay";
import bay from "../shell/bay/Bay.module.css";
import { tellFault } from "../shared/tell";
import { timeText } from "../shared/time";
import { NotHere } from "../shell/NotHere";
import { PlayBar, type Pace } from "./PlayBar";
import { RunButtons } from "./RunButtons";
import { RunSettings } from "./RunSettings";
import { RunTable } from "./RunTable";
import { usePlayed } from "./usePlayed";
import { useKeys } from "../shared/keys";
import { Trouble } from "../shared/Trouble";

const WORDS: Record<RunView["state"], string> = {
  preparing: "being planned",
  ready: "ready to send",
  queued: "in the queue",
  running: "running",
  pausing: "being paused",
  stopping: "being stopped",
  paused: "paused",
  held: "held",
  done: "done",
  stopped: "stopped",
  failed: "cannot be run",
};
const ENDED: readonly RunView["state"][] = ["done", "stopped", "failed"];
const PLAIN = { bare: "#efe7d6", marked: "#3a2a1c" };

/** One run of a machine: its time and its play before it is sent, and then how it goes. */
export function RunPage() {
  const { runId = "" } = useParams();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const asked = useQuery({
    queryKey: ["run", runId],
    queryFn: () => ask<RunView>(`/api/runs/${runId}`),
  });
  const { data: run, error } = asked;
  const askedMachines = useMachines();
  const { data: machines = [] } = askedMachines;
  const machine = machines.find((m) => m.machine.key === run?.machine)?.machine;
  const put = (next: RunView) => queries.setQueryData(["run", next.id], next);
  useEvents<RunView>(run && !ENDED.includes(run.state) ? `/api/runs/${runId}/events` : null, put, (r) =>
    ENDED.includes(r.state),
  );
  useDocumentTitle(`${run?.name ?? "Run"}, Hard Line`);
  const { played, fault: unplayed } = usePlayed(run, machine);
  const timeline = played?.timeline ?? null;
  const [second, setSecond] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [pace, setPace] = useState<Pace>(100);
  const [followed, setFollowed] = useState(true);
  useKeys([["space", () => setPlaying((on) => !on)]]);
  const colours = useColours(run);

  if (error && !run) return <NotHere what="This run cannot be shown" why={error.message} />;
  if (!run)
    return (
      <Bay docket={null} readings={null}>
        {null}
      </Bay>
    );
  const act = (what: Parameters<typeof runAct>[1]) => () =>
    void runAct(run.id, what).then(put, (e) => tellFault("That was not done", e));
  const { plan, state } = run;
  const live = ["running", "pausing", "paused", "stopping", "held"].includes(state);
  const shown = live && followed && timeline && !playing ? secondOfLine(timeline, run.executed) : second;
  const seconds = timeline ? secondsIn(timeline) : (plan?.seconds ?? 0);
  const again = async (pass: string): Promise<void> => {
    try {
      void navigate(`/runs/${(await passAgain(run.id, pass)).id}`);
    } catch (e) {
      tellFault("The pass was not planned", e);
    }
  };
  const replan = async (wish: object): Promise<void> => {
    const { machine: key, routeId, revision, sheetId, sheet } = run;
    const of = routeId ? { routeId, revision: revision ?? undefined } : { sheetId: sheetId!, sheet: sheet! };
    try {
      void navigate(`/runs/${(await newRun({ machine: key, ...of, wish })).id}`, { replace: true });
    } catch (e) {
      tellFault("It was not planned", e);
    }
  };
  return (
    <Bay
      docket={
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
          <Trouble title="What is known of this run is not new" of={[asked]} />
          <Trouble title="The machine cannot be shown" of={[askedMachines]} />
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
                  Line {run.executed} of {plan.lines},{" "}
                  {timeText((1 - run.executed / plan.lines) * plan.seconds)} left
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
                    {ENDED.includes(state) && (
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
      }
      readings={plan && <RunReadings run={run} />}
    >
      {plan && machine ? (
        <>
          {unplayed && <p role="alert">It cannot be played: {unplayed}</p>}
          <RunTable {...{ run, machine, played, colours }} second={shown} />
          <PlayBar
            {...{ seconds, playing, setPlaying, pace, setPace, setSecond }}
            second={shown}
            doing={timeline ? passAt(timeline, shown) : "reading"}
          />
        </>
      ) : null}
    </Bay>
  );
}

/** What is measured of a run, before it and after. */
function RunReadings({ run }: { run: RunView }) {
  const plan = run.plan!;
  const mm = (v: number) => `${figure(v, 1)} mm`;
  return (
    <>
      <h2>Time</h2>
      <Figures
        of={[
          ["Estimated", timeText(plan.seconds), true],
          ...plan.passes.map((p) => [p.name, timeText(p.seconds)] as const),
          ...(run.seconds !== null ? ([["Machine's own clock", timeText(run.seconds)]] as const) : []),
          ...(run.seconds !== null && run.state === "done"
            ? ([
                ["Estimate off by", `${figure(100 * Math.abs(plan.seconds / run.seconds - 1), 2)} %`],
              ] as const)
            : []),
        ]}
      />
      <h2>Way of the head</h2>
      <Figures
        of={[
          ["Travels", `${figure(plan.travels.width, 1)} × ${mm(plan.travels.height)}`],
          ["Piece", `${figure(plan.widthMm, 1)} × ${mm(plan.heightMm)}`],
          ...(plan.cornersSeconds > 0.05
            ? ([["Corners left out", timeText(plan.cornersSeconds)]] as const)
            : []),
          ["Travel saved", mm(plan.savedMm)],
        ]}
      />
      {run.camera && (
        <>
          <h2>As the camera found it</h2>
          <Figures
            of={[
              ["Turned", `${figure(run.camera.turnDegrees, 2)}°`],
              ["Shifted", mm(run.camera.shiftMm)],
              ["Marks used", `${run.camera.used} of ${run.camera.of}`],
              ["Marks off by", `${figure(run.camera.offMm, 3)} mm`],
            ]}
          />
        </>
      )}
      {run.made && (
        <>
          <h2>What was burned</h2>
          <Figures
            of={[
              ["Equal to the bitmap", run.made.equal ? "dot for dot" : "no"],
              ["Dots burned twice", String(run.made.twice)],
            ]}
          />
          <a href={run.burnedUrl!} target="_blank" rel="noreferrer">
            The burned picture
          </a>
          <br />
          <a
            href={`/api/runs/${run.id}/photo`}
            download
            title="As a camera held by hand sees the simulated piece"
          >
            A photograph of the piece
          </a>
        </>
      )}
      <h2>Program</h2>
      <Figures
        of={[
          ["Lines", String(plan.lines)],
          ["Bytes", `${figure(plan.bytes / 1000, 1)} kB`],
          ["SHA-256", plan.sha256.slice(0, 12)],
        ]}
      />
      <a href={run.programUrl!} download={`run-${run.id}.${programExtension(plan.mediaType)}`}>
        The very bytes that are sent
      </a>
    </>
  );
}

const passAt = (timeline: Timeline, second: number): string =>
  timeline.moves.passes[timeline.moves.pass[moveAt(timeline, second)]] ?? "";

/** Colours of the material that the run's route is for. */
function useColours(run: RunView | undefined) {
  const { data: materials = [] } = useMaterials();
  const { data: route } = useQuery({
    queryKey: ["run-route", run?.routeId],
    queryFn: () => ask<RouteView>(`/api/routes/${run!.routeId}`),
    enabled: Boolean(run?.routeId),
  });
  const material = materials.find((m) => m.key === route?.route.material);
  return material ? { bare: material.bareColour, marked: material.markColour } : PLAIN;
}
