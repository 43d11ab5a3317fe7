import { type RunView } from "@hardline/contract";

/** What a run's state is called. */
export const WORDS: Record<RunView["state"], string> = {
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

/** A run that nothing more becomes of. */
export const isEnded = ({ state }: Pick<RunView, "state">): boolean =>
  ["done", "stopped", "failed"].includes(state);

/** A run that a machine has begun and not ended. */
export const isLive = ({ state }: Pick<RunView, "state">): boolean =>
  ["running", "pausing", "paused", "stopping", "held"].includes(state);
