import { connect, type Socket } from "node:net";

/** The line to a machine broke, or the machine said no. */
export class LineError extends Error {}

const OPEN_MS = 5000;
/** A picture of the machine's registration camera is the longest that one says. */
const LONGEST_LINE = 1 << 20;
/** Lines that wait to be looked at, at most: a machine that says more in a moment says nonsense. */
const MOST_HEARD = 20000;

/** The line to one machine: lines of text, both ways, in whatever pieces they arrive. */
export class MachineLine {
  private parts: Buffer[] = [];
  private length = 0;
  private readonly heard: string[] = [];
  private wake: (() => void) | null = null;
  private ended: LineError | null = null;

  private constructor(private readonly socket: Socket) {
    socket.setNoDelay(true);
    socket.setKeepAlive(true, 5000);
    socket.on("data", (data) => this.came(data));
    socket.on("error", () => this.end("The line to the machine was lost."));
    socket.on("close", () => this.end("The line to the machine was lost."));
    socket.on("drain", () => this.wakeUp());
  }

  static open(host: string, port: number): Promise<MachineLine> {
    return new Promise((ready, failed) => {
      const socket = connect({ host, port });
      const timer = setTimeout(
        () => socket.destroy(Object.assign(new Error(), { code: "no answer" })),
        OPEN_MS,
      );
      const refused = (error: NodeJS.ErrnoException): void => {
        clearTimeout(timer);
        failed(new LineError(`It does not answer (${error.code ?? error.message}). Is it switched on?`));
      };
      socket.once("error", refused);
      socket.once("connect", () => {
        clearTimeout(timer);
        socket.off("error", refused);
        ready(new MachineLine(socket));
      });
    });
  }

  private came(data: Buffer): void {
    let from = 0;
    for (let at = data.indexOf(10); at >= 0 && !this.ended; at = data.indexOf(10, from)) {
      this.parts.push(data.subarray(from, at));
      this.heard.push(Buffer.concat(this.parts).toString("utf8").trim());
      [this.parts, this.length, from] = [[], 0, at + 1];
      if (this.heard.length > MOST_HEARD) this.fail("The machine says more than a machine does.");
    }
    this.length += data.length - from;
    if (this.length > LONGEST_LINE) this.fail("The machine says something without an end.");
    else if (from < data.length) this.parts.push(data.subarray(from));
    this.wakeUp();
  }

  private fail(why: string): void {
    this.end(why);
    this.socket.destroy();
  }

  private end(why: string): void {
    this.ended ??= new LineError(why);
    this.wakeUp();
  }

  /** Whoever waits for the next line looks again. */
  wakeUp(): void {
    this.wake?.();
  }

  /**
   * The next line it says; null when so long passes before, or somebody says that it is time to look again.
   * @throws LineError when the line is lost
   */
  async next(withinMs: number): Promise<string | null> {
    if (this.heard.length === 0 && !this.ended)
      await new Promise<void>((go) => {
        const timer = setTimeout(go, withinMs);
        this.wake = () => {
          clearTimeout(timer);
          go();
        };
      });
    this.wake = null;
    const line = this.heard.shift();
    if (line !== undefined) return line;
    if (this.ended) throw this.ended;
    return null;
  }

  /** Whether everything that was said has gone out: what is said now waits behind nothing on this side. */
  get isFree(): boolean {
    return this.socket.writableLength === 0;
  }

  say(text: string | Uint8Array): void {
    if (!this.ended) this.socket.write(text);
  }

  close(): void {
    this.ended ??= new LineError("The line to the machine was closed.");
    this.socket.end();
    this.socket.destroySoon();
  }

  /** Breaks it off: what is under way is thrown away on either side, and the machine hears at once that nobody is there. */
  breakOff(): void {
    this.end("The line to the machine was broken off.");
    this.socket.resetAndDestroy();
  }
}
