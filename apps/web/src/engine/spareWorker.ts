import { type ArtworkView } from "@hardline/contract";
import { wrap, type Remote } from "comlink";
import { type EngineApi } from "../worker/worker";

/**
 * A worker and the way to it. There is one way to a worker, held as long as the worker: one that is let go tells the worker
 * that nobody will ask it any more.
 */
export interface Started {
  readonly worker: Worker;
  readonly remote: Remote<EngineApi>;
}

/*
 * A worker takes a quarter of a second and more to start, longer while the page draws itself. So one is started ahead,
 * while nobody waits, and the bench that is opened next takes it.
 */
let spare: Started | null = null;

function started(): Started {
  const worker = new Worker(new URL("../worker/worker.ts", import.meta.url), { type: "module" });
  return { worker, remote: wrap<EngineApi>(worker) };
}

function spareWorker(): Started {
  if (spare) return spare;
  const own = (spare = started());
  // One that cannot start is started again when it is wanted, and then says so.
  own.worker.onerror = () => {
    if (spare === own) spare = null;
  };
  return own;
}

/** Has one ready for the next bench, its code compiled. */
export function keepSpareWorker(): void {
  if (!spare) void spareWorker().remote.warmUp();
}

/** The one that is ready, or a new one. */
export function takeWorker(): Started {
  const own = spare ?? started();
  spare = null;
  return own;
}

/** Has the worker that is ready read what the first look at an artwork is made of, while the bench is still drawn. */
export function readAhead({ id, sha256, width, height, vector }: ArtworkView): void {
  void spareWorker().remote.readAhead(id, { sha256, width, height, vector });
}
