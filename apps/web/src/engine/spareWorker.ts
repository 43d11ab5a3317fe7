import { type ArtworkView } from "@hardline/contract";
import { wrap } from "comlink";
import { type EngineApi } from "../worker/worker";

/*
 * A worker takes a quarter of a second and more to start, longer while the page draws itself. So one is started ahead,
 * while nobody waits, and the bench that is opened next takes it.
 */
let spare: Worker | null = null;

const started = (): Worker => new Worker(new URL("../worker/worker.ts", import.meta.url), { type: "module" });

function spareWorker(): Worker {
  if (spare) return spare;
  const own = (spare = started());
  // One that cannot start is started again when it is wanted, and then says so.
  own.onerror = () => {
    if (spare === own) spare = null;
  };
  return own;
}

/** Has one ready for the next bench, its code compiled. */
export function keepSpareWorker(): void {
  if (!spare) void wrap<EngineApi>(spareWorker()).warmUp();
}

/** The one that is ready, or a new one. */
export function takeWorker(): Worker {
  const own = spare ?? started();
  spare = null;
  return own;
}

/** Has the worker that is ready read what the first look at an artwork is made of, while the bench is still drawn. */
export function readAhead({ id, sha256, width, height, vector }: ArtworkView): void {
  void wrap<EngineApi>(spareWorker()).readAhead(id, { sha256, width, height, vector });
}
