import { type RouteView } from "@hardline/contract";
import { settingsOf } from "@hardline/core/route/route";
import { handwriting, onPaper } from "@hardline/demo";
import sharp from "sharp";
import { type Browser, type Page } from "puppeteer-core";
import { unzipSync } from "fflate";
import { openBrowser, openPage, press, settled } from "./browser";
import { addTicket, ask, newDatabase, startProgram, type Program } from "./harness";
import { nightly } from "./nightly";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close: closeBrowser } = await openBrowser());
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

/** A sheet with a red field at its top left and a black one at its bottom right, lines of text between, askew. */
const sheet = (degrees: number) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400"><rect width="600" height="400" fill="#f4f1e8"/><g transform="rotate(${-degrees} 300 200)" fill="#1a1a22">${Array.from(
        { length: 9 },
        (_, k) => `<rect x="120" y="${70 + k * 28}" width="${300 + ((k * 37) % 60)}" height="9"/>`,
      ).join(
        "",
      )}</g><rect width="60" height="60" fill="#d02020"/><rect x="540" y="340" width="60" height="60" fill="#101010"/></svg>`,
    ),
  )
    .png()
    .toBuffer();

const STAGES = [{ stage: "size", widthMm: 60, dotsPerInch: 254 }, { stage: "tone" }];
const sizeOf = async (id: string) =>
  settingsOf((await ask<RouteView>(`${program.url}/api/routes/${id}`)).route, "size")!;
const named = (page: Page, label: string) => page.locator(`button[aria-label="${label}"]`).click();

test("a scan lying on its side and askew is brought upright, cropped by dragging, and handed over as seen", async () => {
  const { ticket, route } = await addTicket(program.url, await sheet(2), "scan.png", STAGES);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await settled(page);
  await press(page, "Size");
  await named(page, "Quarter turn right");
  await settled(page);
  expect(await sizeOf(route.id)).toMatchObject({ turn: 90, heightMm: 60 });
  await named(page, "Quarter turn left");
  await settled(page);
  expect(await sizeOf(route.id)).toMatchObject({ turn: 0, widthMm: 60 });
  await named(page, "Mirror left to right");
  await named(page, "Mirror top to bottom");
  await settled(page);
  expect(await sizeOf(route.id)).toMatchObject({ turn: 180, mirror: false });

  await press(page, "Crop by dragging");
  await page.waitForSelector("[data-told]");
  const table = (await (await page.$("[role=application]"))!.boundingBox())!;
  const whole = { top: table.y + 52, height: table.height - 128, middle: table.x + table.width / 2 };
  const width = Math.min(table.width - 72, whole.height * 1.5);
  const [left, top] = [whole.middle - width / 2, whole.top + (whole.height - width / 1.5) / 2];
  // beside the handles of the whole: from a quarter in, to three quarters
  const drag = async (from: [number, number], to: [number, number]) => {
    await page.mouse.move(left + from[0] * width, top + (from[1] * width) / 1.5);
    await page.mouse.down();
    await page.mouse.move(left + to[0] * width, top + (to[1] * width) / 1.5, { steps: 5 });
    await page.mouse.up();
  };
  await drag([1, 1], [0.75, 0.8]);
  await drag([0, 0], [0.05, 0.1]);
  await settled(page);
  const { shape } = await sizeOf(route.id);
  expect(shape.kind).toBe("rectangle");
  const box = (shape as { box: number[] }).box;
  [0.05, 0.1, 0.7, 0.7].forEach((v, k) => expect(Math.abs(box[k] - v)).toBeLessThan(0.01));
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await settled(page);
  expect(((await sizeOf(route.id)).shape as { box: number[] }).box[0]).toBeGreaterThan(box[0]);
  expect(await page.$("[data-told]")).toBeNull();

  await press(page, "Hand over files");
  await page.waitForFunction(() => document.querySelector("a[href$='/zip']") !== null, { timeout: 60000 });
  const href = await page.$eval("a[href$='/zip']", (e) => e.getAttribute("href")!);
  const zip = unzipSync(new Uint8Array(await (await fetch(`${program.url}${href}`)).arrayBuffer()));
  const tone = Object.entries(zip).find(([name]) => name.endsWith("tone.png"))![1];
  const { data, info } = await sharp(tone).greyscale().raw().toBuffer({ resolveWithObject: true });
  expect(info.width).toBe(600);
  // Turned upside down the black field is at the top left, and its 10 % by 15 % are cut to 5 % by 5 % of the artwork.
  const at = (u: number, v: number) =>
    data[(Math.floor(v * info.height) * info.width + Math.floor(u * info.width)) * info.channels];
  expect([at(0.02, 0.02) < 60, at(0.95, 0.95) > 200, at(0.02, 0.2) > 200]).toEqual([true, true, true]);
  await page.close();
}, 120000);

nightly(
  "a scan's skew is offered, and taken with one click",
  async () => {
    const scan = await onPaper(handwriting(9), 1100, 850, 9, { turn: 3 });
    const { ticket, route } = await addTicket(program.url, scan, "askew.jpg", STAGES);
    expect(ticket.artwork.reading!.skew).toBeGreaterThan(2.5);
    const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
    await settled(page);
    await press(page, "Size");
    await press(page, "Straighten it");
    await settled(page);
    const { straighten } = await sizeOf(route.id);
    expect(Math.abs(straighten - 3)).toBeLessThan(0.4);
    await page.close();
  },
  60000,
);
