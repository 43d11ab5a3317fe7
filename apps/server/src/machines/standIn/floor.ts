import { writeBitsPng, writeRgbaPng } from "@hardline/core/format/png";
import { markEntry } from "@hardline/core/machine/markEntry";
import { runToEnd } from "@hardline/core/maths/work";
import { answered, ANSWERS_OF } from "@hardline/core/simulator/answer";
import { BurnedDots } from "@hardline/core/simulator/burned";
import { draggedEdge } from "@hardline/core/simulator/draggedEdge";
import { photographed } from "@hardline/core/simulator/photograph";
import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import { isIP } from "node:net";
import { z } from "zod";
import { faultsSchema } from "./faults";
import { laidIn } from "./printedSheet";
import { type StandIn } from "./standIn";

/** Pixels across a photograph. */
const PHOTO_WIDTH = 1400;
/** Longer bodies are nothing that it is told. */
const MOST_BODY = 65536;
/** Dots across or down, at most, of what is looked at. */
const MOST_DOTS = 40000;

const sheetSchema = z.strictObject({
  seed: z
    .int()
    .min(0)
    .max(2 ** 31),
  marks: z.array(z.tuple([z.number(), z.number()])).max(12),
  entry: markEntry,
  widthMm: z.number().min(1).max(5000),
  heightMm: z.number().min(1).max(20000),
});

/** Called by its address on this machine, and by no page of elsewhere: its host is loopback, and so is where it is from. */
function isVisitor({ headers: { host = "", origin } }: IncomingMessage): boolean {
  const name = host.replace(/:\d+$/, "").replace(/^\[(.*)\]$/, "$1");
  const isOwn = name === "localhost" || (isIP(name) > 0 && (name === "::1" || name.startsWith("127.")));
  return isOwn && (origin === undefined || origin === `http://${host}`);
}

/**
 * What somebody on the shop floor does at a stand-in, over HTTP: look at what it made, set what goes wrong, switch it off
 * and on, clear a jam, lay a printed sheet in.
 */
export class Floor {
  private readonly server: Server;

  constructor(private readonly machine: StandIn) {
    this.server = createServer((request, response) => {
      this.answer(request, response).catch((error: unknown) => {
        response.statusCode = 400;
        response.end(JSON.stringify({ error: (error as Error).message }));
      });
    });
  }

  async listen(port: number): Promise<number> {
    await new Promise<void>((ready, failed) => {
      this.server.once("error", failed);
      this.server.listen(port, "127.0.0.1", ready);
    });
    return (this.server.address() as { port: number }).port;
  }

  async close(): Promise<void> {
    this.server.closeAllConnections();
    await new Promise((closed) => this.server.close(closed));
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { machine } = this;
    if (!isVisitor(request)) {
      response.statusCode = 403;
      response.end();
      return;
    }
    const { pathname, searchParams } = new URL(request.url ?? "/", "http://floor");
    const json = (value: unknown) => {
      response.setHeader("Content-Type", "application/json");
      response.end(JSON.stringify(value));
    };
    switch (`${request.method} ${pathname}`) {
      case "GET /":
        return json({ ...machine.state, faults: machine.faults, sheet: machine.sheet });
      case "POST /faults": {
        const { off, ...faults } = faultsSchema.partial().parse(await bodyOf(request));
        Object.assign(machine.faults, faults);
        if (off !== undefined) await machine.power(!off);
        return json(machine.faults);
      }
      case "POST /clear":
        machine.clearJam();
        return json(machine.state);
      case "POST /sheet": {
        const { seed, ...sheet } = sheetSchema.parse(await bodyOf(request));
        machine.sheet = laidIn(sheet, seed);
        return json(machine.sheet);
      }
      case "GET /burned": {
        const dots = this.burned(searchParams);
        response.setHeader("Content-Type", "image/png");
        response.setHeader("X-Twice", String(dots.twice));
        response.end(Buffer.from(runToEnd(writeBitsPng(dots.bits, dots.grid.dotsPerInch))));
        return;
      }
      case "GET /photo": {
        // What the material made of it, as a camera held by hand sees it.
        const { bits, grid } = this.burned(searchParams);
        const answer = ANSWERS_OF[searchParams.get("material") ?? "usual"] ?? ANSWERS_OF.usual;
        const colour = (name: string) => parseInt(searchParams.get(name) ?? "0", 16);
        const marks = runToEnd(answered(bits, grid.dotsPerInch, answer));
        const colours = { bare: colour("bare"), marked: colour("marked") };
        const photo = runToEnd(
          photographed(marks, colours, PHOTO_WIDTH, Number(searchParams.get("seed") ?? 1)),
        );
        response.setHeader("Content-Type", "image/png");
        response.end(Buffer.from(runToEnd(writeRgbaPng(photo, 72))));
        return;
      }
      case "GET /lines": {
        // Where beam or blade went, line after line; of a blade, its edge.
        const lines: number[][] = [];
        let now: number[] = [];
        for (const [, x0, y0, x1, y1] of machine.marked) {
          const n = now.length;
          if (n === 0 || Math.abs(now[n - 2] - x0) > 1e-6 || Math.abs(now[n - 1] - y0) > 1e-6) {
            now = [x0, y0];
            lines.push(now);
          }
          now.push(x1, y1);
        }
        const profile = machine.machine;
        if (!("bladeOffsetMm" in profile)) return json(lines);
        let facing = 0;
        return json(
          lines.map((line) => {
            const edge = draggedEdge(Float64Array.from(line), profile.bladeOffsetMm, facing);
            facing = edge.facing;
            return Array.from(edge.points);
          }),
        );
      }
      default:
        response.statusCode = 404;
        response.end();
    }
  }

  /** Dots of a grid that lie burned on the bed. */
  private burned(query: URLSearchParams): BurnedDots {
    const number = (name: string) => Number(query.get(name));
    for (const name of ["width", "height"])
      if (!(number(name) >= 1 && number(name) <= MOST_DOTS))
        throw new RangeError(`${name} is ${query.get(name)}; allowed: 1 to ${MOST_DOTS}`);
    const dots = new BurnedDots({
      ...{ width: number("width"), height: number("height"), dotsPerInch: number("dotsPerInch") },
      ...{ xMm: number("xMm"), topMm: number("topMm") },
    });
    // Lines that are cut may run along a row, and are no dots of it.
    const [from, to] = [number("fromLine"), number("toLine") || Infinity];
    for (const [line, x0, y0, x1, y1] of this.machine.marked)
      if (line >= from && line <= to) dots.add({ x0, y0, x1, y1 });
    return dots;
  }
}

async function bodyOf(request: IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = [];
  let bytes = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    bytes += part.length;
    if (bytes > MOST_BODY) throw new RangeError(`the body is longer than ${MOST_BODY} bytes`);
    parts.push(part);
  }
  return JSON.parse(Buffer.concat(parts).toString("utf8") || "{}");
}
