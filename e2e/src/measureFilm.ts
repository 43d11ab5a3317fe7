import { type RenderView } from "@hardline/contract";
import { readFileSync } from "node:fs";
import sharp from "sharp";
import { addTicket, ask, newDatabase, photographOf, startProgram } from "./harness";

/*
 * A film of 13 x 19 inches at 720 dots an inch, 128 million dots, rendered on the server by a worker of its own. Printed:
 * how long it took, how often the worker said how far it is, the most memory that it held, and what another program
 * reads of the file.
 */
const WIDTH_MM = 19 * 25.4;
const MOST_WORKER_MB = 1500;
const SCREEN = { method: "screen", linesPerInch: 45, angle: 22.5, dot: "ellipse", holdHighlight: 3 };

const peak = (pid: number): number =>
  Number(/^VmHWM:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0) / 1024;
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

async function main(): Promise<void> {
  const jpeg = photographOf(4000, 2737);
  const database = await newDatabase();
  const server = await startProgram(database, ["--role=server"]);
  const worker = await startProgram(database, ["--role=worker"]);
  const { route } = await addTicket(server.url, jpeg, "fair.jpg", [
    { stage: "size", widthMm: WIDTH_MM, dotsPerInch: 720 },
    { stage: "tone", black: 0.03, white: 0.97, sharpen: { radiusMm: 0.15, amount: 0.5 } },
    { stage: "blackWhite", ...SCREEN },
  ]);
  const began = performance.now();
  let render = await ask<RenderView>(`${server.url}/api/routes/${route.id}/renders`, "POST");
  const told = new Set<number>();
  while (render.state === "waiting" || render.state === "running") {
    await sleep(250);
    [render] = await ask<RenderView[]>(`${server.url}/api/routes/${route.id}/renders`);
    told.add(render.progress);
  }
  if (render.state !== "done") throw new Error(`the render failed: ${render.error}`);
  const seconds = (performance.now() - began) / 1000;
  const film = render.files.find((f) => f.name.endsWith("bitmap.png"))!;
  const bytes = Buffer.from(await (await fetch(`${server.url}${film.url}`)).arrayBuffer());
  const { width, height, density } = await sharp(bytes, { limitInputPixels: false }).metadata();
  const mb = peak(worker.process.pid!);
  console.log("| film of 13 x 19 in at 720 dots/in | |\n| --- | ---: |");
  console.log(`| dots, as another program reads the file | ${width} x ${height} at ${density} |`);
  console.log(`| seconds | ${seconds.toFixed(1)} |`);
  console.log(`| different shares of progress told | ${told.size} |`);
  console.log(`| most memory the worker held, MB (asked ${MOST_WORKER_MB}) | ${mb.toFixed(0)} |`);
  if (mb > MOST_WORKER_MB) process.exitCode = 1;
  await worker.stop();
  await server.stop();
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
