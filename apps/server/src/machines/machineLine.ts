import { connect, type Socket } from "node:net";

/** The line to a machine broke, or the machine said no. */
export class LineError extends Error {}

/** The line to one machine: lines of text, both ways. */
export class MachineLine {
  private rest = "";
  private heard: string[] = [];
  private wake: (() => void) | null = null;
  private ended: Error | null = null;

  private constructor(private readonly socket: Socket) {
    socket.setNoDelay(true);
    socket.on("data", (data) => {
      const lines = (this.rest + data.toString("utf8")).split("\n");
      this.rest = lines.pop()!;
      this.heard.push(...lines);
      this.wake?.();
    });
    socket.on("error", () => this.end());
    socket.on("close", () => this.end());
  }

  static open(host: string, port: number): Promise<MachineLine> {
    return new Promise((ready, failed) => {
      const socket = connect({ host, port });
      const refused = (error: NodeJS.ErrnoException): void =>
        failed(new LineError(`It does not answer (${error.code ?? error.message}). Is it switched on?`));
      socket.once("error", refused);
      socket.once("connect", () => {
        socket.off("error", refused);
        ready(new MachineLine(socket));
      });
    });
  }

  private end(): void {
    this.ended ??= new LineError("The line to the machine was lost.");
    this.wake?.();
  }

  /** The next line it says; null when `untilMs` passes before. @throws LineError when the line is lost */
  async next(untilMs: number): Promise<string | null> {
    if (this.heard.length === 0 && !this.ended)
      await new Promise<void>((go) => {
        const timer = setTimeout(go, untilMs);
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

  /** Waits for a line that begins with a word. @throws LineError also when it refuses, or says nothing */
  async expect(word: string, withinMs = 20000): Promise<string[]> {
    const until = Date.now() + withinMs;
    while (Date.now() < until) {
      const line = await this.next(Math.max(1, until - Date.now()));
      if (line === null) break;
      const [first, ...more] = line.split(" ");
      if (first === "refused") throw new LineError(`The machine refuses: ${more.join(" ")}.`);
      if (first === word) return more;
    }
    throw new LineError(`The machine says nothing (${word} was waited for).`);
  }

  say(text: string | Uint8Array): void {
    if (!this.ended) this.socket.write(text);
  }

  close(): void {
    this.socket.destroy();
  }
}
