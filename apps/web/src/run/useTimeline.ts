import { type RunView } from "@hardline/contract";
import { type Machine, type Timeline } from "@hardline/core";
import { wrap } from "comlink";
import { useEffect, useState } from "react";
import { type Player } from "./playWorker";

/** When the head is where, by the very bytes that are sent; null until they are read. */
export function useTimeline(run: RunView | undefined, machine: Machine | undefined): Timeline | null {
  const [known, setKnown] = useState<{ url: string; timeline: Timeline } | null>(null);
  // Once the eye has read the marks the program is another: its address then says so.
  const url = run?.programUrl ? `${run.programUrl}?${run.eye ? "sent" : "planned"}` : null;
  useEffect(() => {
    if (!url || !machine) return;
    const worker = new Worker(new URL("./playWorker.ts", import.meta.url), { type: "module" });
    let live = true;
    wrap<Player>(worker)
      .load(machine, url)
      .then((timeline) => live && setKnown({ url, timeline }))
      .finally(() => worker.terminate());
    return () => {
      live = false;
      worker.terminate();
    };
  }, [url, machine]);
  return known?.url === url ? known.timeline : null;
}
