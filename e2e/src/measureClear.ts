import { type Page } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, settled } from "./browser";
import { addTicket, newDatabase, photographOf, startProgram } from "./harness";

/*
 * How fast Clear answers on 12 megapixels: from the pointer's move to what a click would take drawn, and from the end of
 * a scribble to the cut-out drawn at view resolution, and whole.
 */
const [WIDTH, HEIGHT] = [4000, 3000];

const at = (values: number[], share: number): string => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))].toFixed(0);
};

/** A rendered scene, enlarged to size with fresh grain, so that it has as many colours as a photograph. */
async function scene(): Promise<Buffer> {
  const grain = {
    create: {
      width: WIDTH,
      height: HEIGHT,
      channels: 3 as const,
      background: "#808080",
      noise: { type: "gaussian" as const, mean: 128, sigma: 6 },
    },
  };
  const noise = await sharp(grain).png().toBuffer();
  return sharp(photographOf(900, 675))
    .resize(WIDTH, HEIGHT, { kernel: "lanczos3" })
    .composite([{ input: noise, blend: "soft-light" }])
    .jpeg({ quality: 90 })
    .toBuffer();
}

interface Watched {
  hovers: number[];
  movedAt: number;
  drawn: { key: string; at: number }[];
}

async function watch(page: Page): Promise<void> {
  await page.evaluate(() => {
    const seen: Watched = { hovers: [], movedAt: 0, drawn: [] };
    Object.assign(window, { seen });
    // What a click would take is drawn onto the overlay as a picture.
    // The overlay says for which dot it shows what a click would take, in the very commit that draws it.
    const overlay = document.querySelector<HTMLElement>("[data-hand]")!;
    new MutationObserver(() => {
      if (seen.movedAt) seen.hovers.push(performance.now() - seen.movedAt);
      seen.movedAt = 0;
    }).observe(overlay, { attributeFilter: ["data-told"] });
    window.addEventListener("pointermove", () => (seen.movedAt = performance.now()), true);
    const canvas = document.querySelector<HTMLElement>("canvas[data-shown]")!;
    new MutationObserver(() =>
      seen.drawn.push({ key: canvas.dataset.shown!, at: performance.now() }),
    ).observe(canvas, {
      attributeFilter: ["data-shown"],
    });
  });
}

const seen = (page: Page): Promise<Watched> =>
  page.evaluate(() => (window as unknown as { seen: Watched }).seen);
const rest = (ms: number) => new Promise((r) => setTimeout(r, ms));

async function hover(
  page: Page,
  box: { x: number; y: number; width: number; height: number },
): Promise<number[]> {
  for (let i = 0; i < 60; i++) {
    // A new place each time, all over the picture.
    const [u, v] = [0.15 + 0.7 * ((i * 0.618) % 1), 0.2 + 0.5 * ((i * 0.414) % 1)];
    await page.mouse.move(box.x + u * box.width, box.y + v * box.height);
    await rest(180);
  }
  return (await seen(page)).hovers.slice(5);
}

async function main(): Promise<void> {
  const program = await startProgram(await newDatabase());
  const { browser, close } = await openBrowser();
  const size = { stage: "size", resample: "none", dotsPerInch: 254 };
  const { ticket } = await addTicket(program.url, await scene(), "scene.jpg", [size, { stage: "clear" }]);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 120000 });
  await page.locator("button::-p-text(Clear)").click();
  await page.waitForSelector("[data-hand]");
  await settled(page);
  await watch(page);
  const box = (await (await page.$("canvas[data-shown]"))!.boundingBox())!;
  await hover(page, box); // the first round warms up
  await page.evaluate(() => void ((window as unknown as { seen: Watched }).seen.hovers.length = 0));
  const whole = await hover(page, box);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press("d");
  await rest(1500);
  await page.evaluate(() => void ((window as unknown as { seen: Watched }).seen.hovers.length = 0));
  const dots = await hover(page, box);
  console.log("| pick under the pointer, 12 MP | median ms | 90 % within ms |\n| --- | ---: | ---: |");
  console.log(`| whole picture in view | ${at(whole, 0.5)} | ${at(whole, 0.9)} |`);
  console.log(`| dot for dot | ${at(dots, 0.5)} | ${at(dots, 0.9)} |`);

  await page.keyboard.press("f");
  await page.locator("button::-p-text(Cut out)").click();
  await rest(1500);
  const draw = async (from: [number, number], to: [number, number]) => {
    await page.mouse.move(box.x + from[0] * box.width, box.y + from[1] * box.height);
    await page.mouse.down();
    await page.mouse.move(box.x + to[0] * box.width, box.y + to[1] * box.height, { steps: 8 });
    await page.mouse.up();
  };
  await draw([0.45, 0.55], [0.6, 0.55]);
  await page.keyboard.press("x");
  await settled(page);
  await rest(1500);
  const [first, full]: number[][] = [[], []];
  for (let k = 0; k < 6; k++) {
    const before = (await seen(page)).drawn.length;
    const start = await page.evaluate(() => performance.now());
    await draw([0.2, 0.25 + 0.02 * k], [0.5, 0.24 + 0.02 * k]);
    const end = await page.evaluate(() => performance.now());
    await page.waitForFunction(
      (n) => (window as unknown as { seen: Watched }).seen.drawn.slice(n).some((d) => !d.key.endsWith("-")),
      { timeout: 60000 },
      before,
    );
    const after = (await seen(page)).drawn.slice(before);
    if (start > end) continue;
    first.push(after[0].at - end);
    full.push(after[after.length - 1].at - end);
    await settled(page);
    await rest(1500);
  }
  console.log("\n| cut-out after a scribble, 12 MP | median ms | longest ms |\n| --- | ---: | ---: |");
  console.log(`| at view resolution | ${at(first, 0.5)} | ${at(first, 1)} |`);
  console.log(`| whole | ${at(full, 0.5)} | ${at(full, 1)} |`);
  await close();
  await program.stop();
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
