import { IntakeError } from "@hardline/intake";
import { fork, type ChildProcess } from "node:child_process";
import { readFile } from "node:fs/promises";
import { setPriority } from "node:os";
import { log } from "../log/log";
import { ProblemException } from "../http/problems";

export interface LaneLimits {
  readonly name: string;
  /** The program that does it: answers each message with one, and may tell how far it is before. */
  readonly script: string;
  /** What waits, and what is done to it: "pictures", "read". */
  readonly words: readonly [what: string, done: string];
  /** Of computing; on a busy machine it may wait for its turn a few times as long. */
  readonly seconds: number;
  readonly memoryBytes: number;
  /** Who comes when this many wait is told to come later. */
  readonly mostWaiting: number;
  /** Gives its memory back after each piece of work. */
  readonly once?: boolean;
  /** What to do when it is too much. */
  readonly advice: string;
  /** Steps behind the server when both want the machine. */
  readonly behind: number;
}

/** How far a piece of work is, 0..1, and what is being done. */
export interface Progress {
  readonly progress: number;
  readonly doing: string;
}

/** So many times its seconds a piece of work may take by the clock on the wall. */
const MOST_WAITS = 5;
const WATCH_MS = 100;
const PAGE = 4096;
/** Ticks of a second in which Linux counts what a process computes. */
const TICKS = 100;

/** A process for one kind of work, a piece at a time, within time and memory, and the queue before it. */
export class Lane<Asked extends object, Answer extends object> {
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
  ask(asked: Asked, told?: (how: Progress) => void): Promise<Answer> {
    if (this.waiting >= this.limits.mostWaiting) {
      throw new ProblemException(
        503,
        "Too much at once",
        `${this.waiting} ${this.limits.words.join(" wait to be ")}. Nothing was changed; try again in a moment.`,
      );
    }
    this.waiting++;
    const answer = this.last.then(() => this.work(asked, told)).finally(() => this.waiting--);
    this.last = answer.catch(() => undefined);
    return answer;
  }

  close(): void {
    this.closed = true;
    this.child?.kill("SIGKILL");
  }

  private start(): ChildProcess {
    const child = fork(this.limits.script, [], {
      serialization: "advanced",
      stdio: ["ignore", "ignore", "inherit", "ipc"],
      execArgv: [`--max-old-space-size=${Math.round(this.limits.memoryBytes / 1048576)}`],
    });
    child.on("error", (error) => log.error({ err: error, lane: this.limits.name }, "a process beside"));
    child.on("exit", () => {
      if (this.child === child) this.child = null;
    });
    if (child.pid) setPriority(child.pid, this.limits.behind);
    return child;
  }

  private async work(asked: Asked, told?: (how: Progress) => void): Promise<Answer> {
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
        const tooLong = (): void =>
          stop(`It takes more than ${limits.seconds} s to be ${limits.words[1]}. ${limits.advice}`);
        const timer = setTimeout(tooLong, MOST_WAITS * limits.seconds * 1000);
        let before: number | null = null;
        const watch = setInterval(() => {
          void usedBy(child.pid).then(({ bytes, seconds }) => {
            before ??= seconds;
            if (seconds - before > limits.seconds) tooLong();
            if (bytes > limits.memoryBytes)
              stop(
                `It takes more than ${(limits.memoryBytes / 2 ** 30).toFixed(1)} GB of memory to be ${limits.words[1]}. ${limits.advice}`,
              );
          });
        }, WATCH_MS);
        const ended = (): void => failed(new IntakeError(`The process that had it ended. ${limits.advice}`));
        child.once("exit", ended);
        child.on("message", (answer: Answer | Progress) => {
          if ("progress" in answer) return told?.(answer);
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

/** What a process holds in memory, and how long it has computed; zero where the machine does not tell. */
async function usedBy(
  pid: number | undefined,
): Promise<{ readonly bytes: number; readonly seconds: number }> {
  const read = (name: string) => readFile(`/proc/${pid}/${name}`, "utf8").catch(() => "");
  const [memory, stat] = await Promise.all([read("statm"), read("stat")]);
  // After the name, which may hold blanks: state, and eleven numbers on user and system time.
  const times = stat.slice(stat.lastIndexOf(")") + 2).split(" ");
  const ticks = Number(times[11] ?? 0) + Number(times[12] ?? 0);
  return { bytes: Number(memory.split(" ")[1] ?? 0) * PAGE, seconds: ticks / TICKS };
}
