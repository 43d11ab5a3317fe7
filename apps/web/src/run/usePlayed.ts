import { type RunView } from "@hardline/contract";
import { type Machine } from "@hardline/core/machine/machine";
import { wrap } from "comlink";
import { useEffect, useState } from "react";
import { type Played, type Player } from "./playWorker";

/** What is known of a run's program: nothing yet, how it is played, or why it cannot be. */
export interface Playing {
  readonly played: Played | null;
  readonly fault: string | null;
}
const READING: Playing = { played: null, fault: null };

/** A run as it is played, by the very bytes that are sent. */
export function usePlayed(run: RunView | undefined, machine: Machine | undefined): Playing {
  const [known, setKnown] = useState<{ url: string; playing: Playing } | null>(null);
  // Once the camera has read the marks the program is another: its address then says so.
  const url = run?.programUrl ? `${run.programUrl}?${run.camera ? "sent" : "planned"}` : null;
  useEffect(() => {
    if (!url || !machine) return;
    const worker = new Worker(new URL("./playWorker.ts", import.meta.url), { type: "module" });
    let live = true;
    const end = (playing: Playing): void => {
      if (live) setKnown({ url, playing });
      worker.terminate();
    };
    wrap<Player>(worker)
      .load(machine, url)
      .then(
        (played) => end({ played, fault: null }),
        (error: Error) => end({ played: null, fault: error.message }),
      );
    worker.addEventListener("error", (e) => end({ played: null, fault: e.message }));
    return () => {
      live = false;
      worker.terminate();
    };
  }, [url, machine]);
  return known?.url === url && known ? known.playing : READING;
}
