import { IntakeError } from "@hardline/intake";
import { fork, type ChildProcess } from "node:child_process";
import { readFile } from "node:fs/promises";
import { setPriority } from "node:os";
import { join } from "node:path";
import { log } from "../http/log";
import { ProblemException } from "../http/problems";
import { type Answer, type Asked } from "./protocol";

export interface LaneLimits {
  readonly name: string;
  readonly seconds: number;
  readonly memoryBytes: number;
  /** Who comes when this many wait is told to come later. */
  readonly mostWaiting: number;
  /** Gives its memory back after each piece of work. */
  readonly once?: boolean;
  /** Steps behind the server when both want the machine. */
  readonly behind: number;
}

const WATCH_MS = 100;
const PAGE = 4096;

/** A process that decodes, one piece of work at a time, within time and memory, and the queue before it. */
export class Lane {
  private child: ChildProcess | null = null;
  private last: Promise<unknown> = Promise.resolve();
  private waiting = 0;
  private closed = false;

  constructor(private readonly limits: LaneLimits) {}

  /** Has the process ready before the first work comes. */
  warm(): void {
    this.child ??= this.start();
  }

  /** @throws IntakeError when the work cannot be done within the limits; ProblemException when too many wait */
  ask(asked: Asked): Promise<Answer> {
    if (this.waiting >= this.limits.mostWaiting) {
      throw new ProblemException(
        503,
        "Too much at once",
        `${this.waiting} pictures wait to be read. Nothing was changed; try again in a moment.`,
      );
    }
    this.waiting++;
    const answer = this.last.then(() => this.work(asked)).finally(() => this.waiting--);
    this.last = answer.catch(() => undefined);
    return answer;
  }

  close(): void {
    this.closed = true;
    this.child?.kill("SIGKILL");
  }

  private start(): ChildProcess {
    const child = fork(join(__dirname, "decoder.js"), [], {
      serialization: "advanced",
      stdio: ["ignore", "ignore", "inherit", "ipc"],
      execArgv: [`--max-old-space-size=${Math.round(this.limits.memoryBytes / 1048576)}`],
    });
    child.on("error", (error) => log.error({ err: error, lane: this.limits.name }, "decoder"));
    child.on("exit", () => {
      if (this.child === child) this.child = null;
    });
    if (child.pid) setPriority(child.pid, this.limits.behind);
    return child;
  }

  private async work(asked: Asked): Promise<Answer> {
    if (this.closed) throw new ProblemException(503, "Closing", "The server is closing.");
    this.child ??= this.start();
    const { child, limits } = this;
    let tidy = (): void => undefined;
    try {
      return await new Promise<Answer>((done, failed) => {
        const stop = (why: string): void => {
          failed(new IntakeError(why));
          child.kill("SIGKILL");
        };
        const timer = setTimeout(
          () => stop(`It takes more than ${limits.seconds} s to read. Make it simpler, or save it as PNG.`),
          limits.seconds * 1000,
        );
        const watch = setInterval(() => {
          void residentBytes(child.pid).then((bytes) => {
            if (bytes > limits.memoryBytes) {
              stop(
                `It takes more than ${(limits.memoryBytes / 2 ** 30).toFixed(1)} GB of memory to read. Save it smaller, or as PNG.`,
              );
            }
          });
        }, WATCH_MS);
        const ended = (): void =>
          failed(new IntakeError("The process that read it ended. Try another file."));
        child.once("exit", ended);
        child.once("message", (answer: Answer) => {
          child.off("exit", ended);
          done(answer);
        });
        child.send(asked, (error) => {
          if (error) ended();
        });
        tidy = () => {
          clearTimeout(timer);
          clearInterval(watch);
          child.removeAllListeners("message");
          child.off("exit", ended);
        };
      });
    } finally {
      tidy();
      if (child.killed || limits.once) {
        this.child = null;
        child.kill("SIGKILL");
      }
      if (!limits.once && !this.closed) this.warm();
    }
  }
}

/** What a process holds in memory; zero where the machine does not tell. */
async function residentBytes(pid: number | undefined): Promise<number> {
  const text = await readFile(`/proc/${pid}/statm`, "utf8").catch(() => "");
  return Number(text.split(" ")[1] ?? 0) * PAGE;
}
