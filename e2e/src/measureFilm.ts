import { type RenderView } from "@hardline/contract";
import { readFileSync } from "node:fs";
import sharp from "sharp";
import { addTicket, ask, newDatabase, photographOf, startProgram } from "./harness";

/*
 * A film of 13 x 19 inches at 720 dots an inch, 128 million dots, and films of three inks of that size at 1440, half a
 * milliard dots each, rendered on the server by a worker of its own. Printed: how long it took, how often the worker said
 * how far it is, the most memory that it held, and what another program reads of the file.
 */
const WIDTH_MM = 19 * 25.4;
const MOST_WORKER_MB = 1500;
const SCREEN = { linesPerInch: 45, angle: 22.5, dot: "ellipse" };
const JOBS = [
  {
    name: "one black, 720 dots/in",
    file: "bitmap.png",
    stages: [
      { stage: "size", widthMm: WIDTH_MM, dotsPerInch: 720 },
      { stage: "tone", black: 0.03, white: 0.97, sharpen: { radiusMm: 0.15, amount: 0.5 } },
      { stage: "blackWhite", method: "screen", ...SCREEN, holdHighlight: 3 },
    ],
  },
  {
    name: "three inks, 1440 dots/in",
    file: "film-sea.png",
    stages: [
      { stage: "size", widthMm: WIDTH_MM, dotsPerInch: 360 },
      {
        stage: "films",
        separate: "tonal",
        garment: "#101012",
        printerDotsPerInch: 1440,
        inks: [
          { name: "white", colour: "#ffffff", screen: SCREEN },
          { name: "sand", colour: "#d9a066", screen: { ...SCREEN, angle: 52.5 } },
          { name: "sea", colour: "#24506e", screen: { ...SCREEN, angle: 82.5 } },
        ],
      },
    ],
  },
];

const peak = (pid: number): number =>
  Number(/^VmHWM:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0) / 1024;
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

async function measure({ name, file, stages }: (typeof JOBS)[number]): Promise<void> {
  const jpeg = photographOf(4000, 2737);
  const database = await newDatabase();
  const server = await startProgram(database, ["--role=server"]);
  const worker = await startProgram(database, ["--role=worker"]);
  const { route } = await addTicket(server.url, jpeg, "fair.jpg", stages);
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
  const film = render.files.find((f) => f.name.endsWith(file))!;
  const bytes = Buffer.from(await (await fetch(`${server.url}${film.url}`)).arrayBuffer());
  const { width, height, density } = await sharp(bytes, { limitInputPixels: false }).metadata();
  const mb = peak(worker.process.pid!);
  console.log(
    `| ${name} | ${width} x ${height} at ${density} | ${seconds.toFixed(0)} | ${told.size} | ${mb.toFixed(0)} |`,
  );
  if (mb > MOST_WORKER_MB) process.exitCode = 1;
  await worker.stop();
  await server.stop();
}

async function main(): Promise<void> {
  const chosen = process.argv[2];
  console.log(
    `| 13 x 19 in | dots, as another program reads the file | seconds | shares of progress told | most memory of the worker, MB (asked ${MOST_WORKER_MB}) |`,
  );
  console.log("| --- | --- | ---: | ---: | ---: |");
  for (const job of JOBS) if (!chosen || job.name.includes(chosen)) await measure(job);
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
