import { Worker } from "node:worker_threads";

/**
 * Ends this process when the one that started it is gone, whatever this one is busy with: what nobody waits for any more
 * must not keep a machine's memory. A thread of its own looks, as the process itself may be deep in a computation.
 */
export function endWithParent(): void {
  const looks = `
    setInterval(() => { if (process.ppid !== ${process.ppid}) process.kill(process.pid, "SIGKILL"); }, 500);`;
  new Worker(looks, { eval: true, resourceLimits: { maxOldGenerationSizeMb: 16 } }).unref();
}
