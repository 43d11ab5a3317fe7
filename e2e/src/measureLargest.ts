import { readFileSync } from "node:fs";
import sharp from "sharp";
import { type Browser } from "puppeteer-core";
import { type RenderView } from "@hardline/contract";
import { openBrowser, openPage, press, settled } from "./browser";
import { addTicket, ask, newDatabase, startProgram } from "./harness";

/*
 * The largest job there is, end to end: an artwork of 200 megapixels, a finish of 128 (13 x 19 inches at 720 dots an
 * inch), looked at on the bench and handed over. Server and worker are two processes, as on a busy day. Printed: how long
 * each part took, and the most memory that browser, server and worker held.
 */
const ARTWORK = { width: 16400, height: 12192 };
const FINISH = { widthMm: 19 * 25.4, dotsPerInch: 720 };
/** What the worker may hold, in MB. */
const MOST_WORKER_MB = 1500;

/** Soft shading with grain in it, drawn in strips so that this script itself stays small. */
async function artwork(): Promise<Buffer> {
  const { width, height } = ARTWORK;
  const tile = Buffer.alloc(2050 * 1524 * 3);
  for (let y = 0, i = 0, state = 1; y < 1524; y++)
    for (let x = 0; x < 2050; x++) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      const shade = 128 + 80 * Math.sin(x / 170) * Math.cos(y / 130) + (state >>> 28);
      tile[i++] = shade;
      tile[i++] = shade * 0.9 + 20;
      tile[i++] = 230 - shade * 0.6;
    }
  return sharp(tile, { raw: { width: 2050, height: 1524, channels: 3 } })
    .resize(width, height, { kernel: "cubic" })
    .jpeg({ quality: 88 })
    .toBuffer();
}

const peak = (pid: number): number =>
  Number(/^VmHWM:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0) / 1024;

async function rendererPeak(browser: Browser): Promise<number> {
  const session = await browser.target().createCDPSession();
  const { processInfo } = await session.send("SystemInfo.getProcessInfo");
  await session.detach();
  return Math.max(...processInfo.filter((p) => p.type === "renderer").map((p) => peak(p.id)));
}

async function main(): Promise<void> {
  const jpeg = await artwork();
  const database = await newDatabase();
  const server = await startProgram(database, ["--role=server"]);
  const worker = await startProgram(database, ["--role=worker"]);
  const { browser, close } = await openBrowser();
  console.log("| 200 MP artwork to a 128 MP finish | seconds |\n| --- | ---: |");
  const timed = async <T>(what: string, act: () => Promise<T>): Promise<T> => {
    const start = performance.now();
    const done = await act();
    console.log(`| ${what} | ${((performance.now() - start) / 1000).toFixed(1)} |`);
    return done;
  };
  const stages = [
    { stage: "size", ...FINISH },
    {
      stage: "tone",
      curve: [
        [0, 0],
        [0.5, 0.58],
        [1, 0.98],
      ],
      sharpen: { radiusMm: 0.1, amount: 0.5 },
    },
    { stage: "blackWhite", kernel: "jarvis-judice-ninke" },
  ];
  const { ticket, route } = await timed(`taken in (${(jpeg.length / 1e6).toFixed(0)} MB JPEG)`, () =>
    addTicket(server.url, jpeg, "wall.jpg", stages),
  );
  const page = await timed("first picture on the bench", async () => {
    const opened = await openPage(browser, `${server.url}/tickets/${ticket.id}`);
    await opened.waitForSelector("canvas[data-shown]", { timeout: 600000 });
    return opened;
  });
  await timed("checks", () => settled(page, 900000));
  await timed("handed over", async () => {
    await press(page, "Hand over files");
    await page.waitForSelector("a::-p-text(All as zip)", { timeout: 900000 });
  });
  await page.waitForSelector("text/Same dots as on the light table", { timeout: 60000 });
  const [render] = await ask<RenderView[]>(`${server.url}/api/routes/${route.id}/renders`);
  const memory = {
    browser: await rendererPeak(browser),
    server: peak(server.process.pid!),
    worker: peak(worker.process.pid!),
  };
  console.log("\n| most memory held | MB |\n| --- | ---: |");
  for (const [who, mb] of Object.entries(memory)) console.log(`| ${who} | ${mb.toFixed(0)} |`);
  console.log(`\n${render.files.length} files; the bench's dots and the worker's are the same.`);
  if (memory.worker > MOST_WORKER_MB) {
    console.error(`the worker held more than ${MOST_WORKER_MB} MB`);
    process.exitCode = 1;
  }
  await close();
  await worker.stop();
  await server.stop();
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
