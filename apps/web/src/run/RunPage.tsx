import { type RouteView, type RunView } from "@hardline/contract";
import { moveAt, secondOfLine, secondsIn, type Timeline } from "@hardline/core/machine/timeline";
import { useDocumentTitle } from "@mantine/hooks";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { ask } from "../api/client";
import { useMaterials } from "../api/house";
import { newRun, passAgain, runAct, useMachines } from "../api/machines";
import { useEvents } from "../api/useEvents";
import { Bay } from "../shell/bay/Bay";
import { tellFault } from "../shared/tell";
import { NotHere } from "../shell/NotHere";
import { PlayBar, type Pace } from "./PlayBar";
import { RunDocket } from "./RunDocket";
import { RunReadings } from "./RunReadings";
import { RunTable } from "./RunTable";
import { isEnded, isLive } from "./states";
import { usePlayed } from "./usePlayed";
import { useKeys } from "../shared/keys";

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
  useEvents<RunView>(run && !isEnded(run) ? `/api/runs/${runId}/events` : null, put, (r) => isEnded(r));
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
  const { plan } = run;
  const live = isLive(run);
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
        <RunDocket
          {...{ run, machine, followed, setFollowed, act, again, replan }}
          asked={[asked, askedMachines]}
        />
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
