import { fork, type ChildProcess } from "node:child_process";
import { log } from "./log/log";

const SLOWEST_MS = 30000;
/** A worker that ran for so long was not at fault from the start. */
const SETTLED_MS = 10000;

/**
 * The worker beside a server, in a process of its own, so that pages are answered while it computes. One that ends is
 * started again, later each time when it cannot keep up.
 */
export class WorkerProcess {
  private child: ChildProcess | null = null;
  private wait = 0;
  private ending = false;

  start(): void {
    for (const signal of ["SIGTERM", "SIGINT"] as const)
      process.once(signal, () => {
        this.ending = true;
        this.child?.kill("SIGTERM");
      });
    process.once("exit", () => this.child?.kill("SIGKILL"));
    this.run();
  }

  private run(): void {
    if (this.ending) return;
    const began = Date.now();
    const child = fork(process.argv[1], ["--role=worker"], { stdio: ["ignore", "ignore", "inherit", "ipc"] });
    this.child = child;
    child.once("exit", (code, signal) => {
      if (this.ending) return;
      this.wait = Date.now() - began > SETTLED_MS ? 0 : Math.min(SLOWEST_MS, Math.max(500, this.wait * 2));
      log.warn({ code, signal, again: this.wait }, "the worker ended; starting another");
      setTimeout(() => this.run(), this.wait);
    });
  }
}
