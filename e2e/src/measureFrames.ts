import { type SheetView } from "@hardline/contract";
import { type Page } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, settled } from "./browser";
import { addTicket, ask, newDatabase, startProgram } from "./harness";

/*
 * How evenly the light table is drawn while one of ten thousand points is dragged, and while all of them are moved with
 * the table: times between two drawings of the screen, in milliseconds. 16.7 is sixty a second.
 */
const SIDE = 50;

async function tenThousandPoints(): Promise<Buffer> {
  const shapes = Array.from({ length: SIDE * SIDE }, (_, k) => {
    const [x, y] = [12 + 24 * (k % SIDE), 12 + 24 * Math.floor(k / SIDE)];
    return k % 2
      ? `<circle cx="${x}" cy="${y}" r="8"/>`
      : `<rect x="${x - 7}" y="${y - 7}" width="14" height="14"/>`;
  });
  const side = 24 * SIDE;
  return sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}"><rect width="100%" height="100%" fill="#fff"/>${shapes.join("")}</svg>`,
    ),
  )
    .png()
    .toBuffer();
}

async function main(): Promise<void> {
  const program = await startProgram(await newDatabase());
  const { browser, close } = await openBrowser();
  try {
    const { ticket } = await addTicket(program.url, await tenThousandPoints(), "points.png", [
      { stage: "size", widthMm: 120, dotsPerInch: 254 },
      { stage: "trace" },
    ]);
    const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
    await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
    await settled(page);
    await page.keyboard.press("p");
    await page.waitForSelector("[data-told]");
    const told = await page.$eval("[data-told]", (e) => (e as HTMLElement).dataset.told!);
    const frames = (act: () => Promise<void>) => between(page, act);
    const box = await page.$eval("canvas[data-shown]", (c) => {
      const { x, y, width, height } = c.getBoundingClientRect();
      return [x + width / 2, y + height / 2] as const;
    });
    const dragged = await frames(async () => {
      // The square nearest to the middle has a corner there.
      await page.mouse.move(box[0] - 2, box[1] - 12);
      await page.mouse.down();
      for (let k = 0; k < 90; k++) await page.mouse.move(box[0] + 30 * Math.sin(k / 9), box[1] - 12 + k / 3);
      await page.mouse.up();
    });
    await settled(page);
    await page.keyboard.down("Space");
    const moved = await frames(async () => {
      await page.mouse.move(box[0], box[1]);
      await page.mouse.down();
      for (let k = 0; k < 90; k++) await page.mouse.move(box[0] + k, box[1] + 20 * Math.sin(k / 9));
      await page.mouse.up();
    });
    await page.keyboard.up("Space");
    await page.close();
    const laid = await onSheet(
      await openPage(browser, `${program.url}/sheets/${await sheetOf(program.url)}`),
    );
    console.log(`${told}\n`);
    console.log("| | median, ms | 90 % | longest | drawings a second |");
    console.log("| --- | ---: | ---: | ---: | ---: |");
    for (const [what, times] of [
      ["a point dragged", dragged],
      ["the table moved", moved],
      ["a copy among 120 on a sheet, the rest giving way", laid],
    ] as const) {
      const sorted = [...times].sort((a, b) => a - b);
      const at = (share: number) => (sorted[Math.floor(share * (sorted.length - 1))] ?? 0).toFixed(1);
      const mean = times.reduce((a, b) => a + b, 0) / times.length;
      console.log(`| ${what} | ${at(0.5)} | ${at(0.9)} | ${at(1)} | ${(1000 / mean).toFixed(0)} |`);
    }
  } finally {
    await close();
    await program.stop();
  }
}

/** A sheet of 120 tags with a round head. */
async function sheetOf(url: string): Promise<string> {
  const tag = `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="300"><circle cx="120" cy="180" r="110"/><path d="M40 110L120 5L200 110z"/></svg>`;
  const { route } = await addTicket(url, await sharp(Buffer.from(tag)).png().toBuffer(), "tag.png", [
    { stage: "size", widthMm: 24, dotsPerInch: 254 },
    { stage: "cutLine", offsetMm: 1, smoothMm: 0.5 },
  ]);
  const body = { stock: { widthMm: 400, heightMm: 500 }, pieces: [{ routeId: route.id, count: 120 }] };
  return (await ask<SheetView>(`${url}/api/sheets`, "POST", { name: "Tags", body })).id;
}

/** Times between two places that a dragged copy is drawn at. */
async function onSheet(page: Page): Promise<number[]> {
  await page.waitForSelector("button:not([disabled])::-p-text(Arrange)", { timeout: 60000 });
  await page.locator("button::-p-text(Arrange)").click();
  await page.waitForFunction(() => document.body.textContent!.includes("120 placed"), { timeout: 120000 });
  // What is still being arranged would be moved under the hand.
  await page.waitForSelector("button::-p-text(Arrange)", { timeout: 120000 });
  const copies = await page.$$("svg[role=img] g g");
  const copy = copies[Math.floor(copies.length / 2)];
  const { x, y, width, height } = (await copy.boundingBox())!;
  const [cx, cy] = [x + width / 2, y + height / 2];
  await copy.evaluate((g) => {
    const seen = window as unknown as { drawn: number[] };
    seen.drawn = [];
    new MutationObserver(() => seen.drawn.push(performance.now())).observe(g, {
      attributeFilter: ["transform"],
    });
  });
  await page.mouse.move(cx, cy);
  await page.mouse.down();
  for (let k = 1; k <= 150; k++) await page.mouse.move(cx + 60 * Math.sin(k / 14), cy + 50 * Math.sin(k / 9));
  const drawn = await page.evaluate(() => (window as unknown as { drawn: number[] }).drawn.slice());
  await page.mouse.up();
  return drawn.slice(1).map((t, k) => t - drawn[k]);
}

/** Times between two drawings of the screen while something is done. */
async function between(page: Page, act: () => Promise<void>): Promise<number[]> {
  await page.evaluate(() => {
    const seen = window as unknown as { frames: number[]; watching: boolean };
    Object.assign(seen, { frames: [], watching: true });
    let last = performance.now();
    const tick = (now: number) => {
      seen.frames.push(now - last);
      last = now;
      if (seen.watching) requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  });
  await act();
  return page.evaluate(() => {
    const seen = window as unknown as { frames: number[]; watching: boolean };
    seen.watching = false;
    return seen.frames.slice(1);
  });
}

void main();
