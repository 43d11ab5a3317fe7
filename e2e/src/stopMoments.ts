import { type RunView } from "@hardline/contract";
import { ask, type Program } from "./harness";
import { type MachineBeside } from "./machinesBeside";

const sleep = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));

/** What a stand-in's floor says of it. */
interface FloorState {
  readonly mode: string;
  readonly job: string | null;
  readonly received: number;
  readonly markedMm: number;
}

export interface Moment {
  readonly what: "stop" | "pause";
  /** From when the run was sent until it was said. */
  readonly afterMs: number;
  /** The run's state when it was said, and as it was answered. */
  readonly before: string;
  readonly answered: string;
  readonly answerMs: number;
  /** The answer said that the machine does not hear, and that it is told again. */
  readonly unheard: boolean;
  /** What went wrong; null when nothing did. */
  readonly fault: string | null;
}

/**
 * Sends a run of a route to a machine, says stop or pause after a while, and looks at the machine 200 ms after the answer
 * and again a while later: nothing may be marked and nothing received in between. A paused run is gone on with and stopped.
 *
 * @param servers  on one database: the run is sent by the first, and stopped through any
 */
export async function stopMoment(
  machine: MachineBeside,
  key: string,
  routeId: string,
  servers: readonly Program[],
  what: "stop" | "pause",
  afterMs: number,
  through: number,
): Promise<Moment> {
  const [first] = servers;
  const at = (path: string, k = through) => `${servers[k % servers.length].url}/api/runs/${path}`;
  const runAt = (id: string, k = 0) => ask<RunView>(at(id, k));
  const floor = async (): Promise<FloorState> =>
    (await fetch(`${machine.floor}/`)).json() as Promise<FloorState>;
  const { id } = await ask<RunView>(`${first.url}/api/runs`, "POST", { machine: key, wish: {}, routeId });
  const until = async (is: (run: RunView) => boolean): Promise<RunView> => {
    for (let k = 0; k < 1200; k++) {
      const run = await runAt(id);
      if (is(run)) return run;
      await sleep(20);
    }
    throw new Error(`run ${id} stays ${JSON.stringify(await runAt(id))}`);
  };
  await until((r) => r.state === "ready");
  await ask(at(`${id}/queue`, 0), "POST");
  await sleep(afterMs);
  const before = (await runAt(id)).state;
  const began = performance.now();
  const answer = await ask<RunView>(at(`${id}/${what}`), "POST").catch((error: Error) => error);
  const answerMs = performance.now() - began;
  await sleep(200);
  const then = await floor();
  await sleep(300);
  const later = await floor();
  const answered = answer instanceof Error ? answer.message : answer.state;
  const moved =
    then.markedMm !== later.markedMm || then.received !== later.received || later.mode === "going";
  let fault: string | null = null;
  if (answer instanceof Error) {
    // What has ended cannot be paused; what only waits neither.
    if (!/cannot be (paused|stopped)/.test(answered)) fault = answered;
    else if (what === "stop") fault = `refused: ${answered}`;
  } else if (moved && then.job === id)
    fault = `answered ${answered}, and the machine goes on: ${JSON.stringify([then, later])}`;
  else if (
    !["stopped", "done", "paused", "held"].includes(answered) &&
    !(answer.error ?? "").includes("does not hear")
  )
    fault = `answered ${answered}, without saying why`;
  if (what === "pause" && answered === "paused") {
    await ask(at(`${id}/resume`), "POST");
    await sleep(30);
  }
  await ask(at(`${id}/stop`), "POST").catch(() => undefined);
  const { state } = await until((r) => ["stopped", "done", "failed"].includes(r.state));
  if (state === "failed") fault ??= "the run failed";
  const unheard = !(answer instanceof Error) && (answered === "stopping" || answered === "pausing");
  return { what, afterMs, before, answered, answerMs, unheard, fault };
}
