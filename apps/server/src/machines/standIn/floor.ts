import { BurnedDots, draggedEdge, finish, writeBitsPng, type DotGrid } from "@hardline/core";
import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import { type Faults } from "./faults";
import { laidIn } from "./printedSheet";
import { type StandIn } from "./standIn";

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
    const { pathname, searchParams } = new URL(request.url ?? "/", "http://floor");
    const json = (value: unknown) => {
      response.setHeader("Content-Type", "application/json");
      response.end(JSON.stringify(value));
    };
    switch (`${request.method} ${pathname}`) {
      case "GET /":
        return json({ ...machine.state, faults: machine.faults, sheet: machine.sheet });
      case "POST /faults": {
        const { off, ...faults } = (await bodyOf(request)) as Partial<Faults>;
        Object.assign(machine.faults, faults);
        if (off !== undefined) await machine.power(!off);
        return json(machine.faults);
      }
      case "POST /clear":
        machine.clearJam();
        return json(machine.state);
      case "POST /sheet": {
        const { seed, ...sheet } = (await bodyOf(request)) as Parameters<typeof laidIn>[0] & { seed: number };
        machine.sheet = laidIn(sheet, seed);
        return json(machine.sheet);
      }
      case "GET /burned": {
        const number = (name: string) => Number(searchParams.get(name));
        const grid: DotGrid = {
          ...{ width: number("width"), height: number("height"), dotsPerInch: number("dotsPerInch") },
          ...{ xMm: number("xMm"), topMm: number("topMm") },
        };
        const dots = new BurnedDots(grid);
        // Lines that are cut may run along a row, and are no dots of it.
        const [from, to] = [number("fromLine"), number("toLine") || Infinity];
        for (const [line, x0, y0, x1, y1] of machine.marked)
          if (line >= from && line <= to) dots.add({ x0, y0, x1, y1 });
        response.setHeader("Content-Type", "image/png");
        response.setHeader("X-Twice", String(dots.twice));
        response.end(Buffer.from(finish(writeBitsPng(dots.bits, grid.dotsPerInch))));
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
        if (profile.kind !== "knife-cutter") return json(lines);
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
}

async function bodyOf(request: IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = [];
  for await (const part of request) parts.push(part as Buffer);
  return JSON.parse(Buffer.concat(parts).toString("utf8") || "{}");
}
