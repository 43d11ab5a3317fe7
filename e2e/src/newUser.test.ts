import { type RenderView, type RouteView, type TicketsView, type TicketView } from "@hardline/contract";
import { bitAt } from "@hardline/core/raster/types";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { takeIn } from "@hardline/intake";
import { unzipSync } from "fflate";
import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, press, settled, type } from "./browser";
import { drop } from "./drop";
import { ask, newDatabase, photographOf, startProgram, type Program } from "./harness";
import { nightly } from "./nightly";

let program: Program;
let databaseUrl: string;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let photo: Buffer;

beforeAll(async () => {
  databaseUrl = await newDatabase();
  program = await startProgram(databaseUrl);
  ({ browser, close: closeBrowser } = await openBrowser());
  photo = photographOf(900, 600);
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

const text = (page: Page, selector: string) => page.$eval(selector, (e) => e.textContent ?? "");
const routeIdOf = async (page: Page): Promise<string> => {
  const ticket = await ask<TicketView>(`${program.url}/api/tickets/${/tickets\/(\d+)/.exec(page.url())![1]}`);
  return ticket.routes[0].id;
};
const routeOf = async (page: Page) =>
  (await ask<RouteView>(`${program.url}/api/routes/${await routeIdOf(page)}`)).route;

async function newTicket(name: string): Promise<Page> {
  const page = await openPage(browser, program.url);
  await page.waitForSelector("h1");
  await drop(page, photo, name, "image/jpeg");
  await page.waitForFunction(() => location.pathname.startsWith("/tickets/"), { timeout: 30000 });
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  return page;
}

test("from a dropped photograph to a zip whose bitmap is, dot for dot, what core makes", async () => {
  const page = await newTicket("harbour_photo.jpg");
  expect(await text(page, '[aria-label="Docket"]')).toContain("Harbour photo");

  await press(page, "Size");
  await type(page, "Width", "60");
  await press(page, "Tone");
  await page.locator("button::-p-text(Lift)").click();
  await type(page, "Sharpen, typed", "80");
  await press(page, "Black & white");
  await press(page, "burns pale");
  await settled(page);

  // the test strip: three keys away from another way to dots
  await page.keyboard.press("s");
  await page.waitForFunction(() => document.querySelectorAll('canvas[data-ready="true"]').length === 7, {
    timeout: 30000,
  });
  await page.keyboard.press("4");
  await page.keyboard.press("Escape");
  await settled(page);

  const route = await routeOf(page);
  expect(route.stages).toMatchObject([
    { stage: "size", widthMm: 60, dotsPerInch: 254 },
    { stage: "tone", sharpen: { amount: 0.8 } },
    { stage: "blackWhite", kernel: "atkinson", material: "burns-pale" },
  ]);

  await press(page, "Hand over files");
  await page.waitForSelector("a::-p-text(All as zip)", { timeout: 60000 });
  expect(await text(page, '[aria-label="Docket"]')).toContain("Same dots as on the light table");
  const zipUrl = await page.$eval("a[href$='/zip']", (a) => (a as HTMLAnchorElement).href);
  const zip = unzipSync(new Uint8Array(await (await fetch(zipUrl)).arrayBuffer()));
  const name = Object.keys(zip).find((n) => n.endsWith("-bitmap.png"))!;
  expect(name).toMatch(/^\d+-harbour-photo-first-route-\d+r\d+-bitmap.png$/);

  const results = await new Runner().run(readRoute(route), await takeIn(photo));
  const [{ bits }] = as(results[results.length - 1].result, "plates").plates;
  const { data, info } = await sharp(Buffer.from(zip[name]))
    .toColourspace("b-w")
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([600, 400]);
  let different = 0;
  data.forEach(
    (v, i) => (different += (v === 0) === (bitAt(bits, i % 600, Math.floor(i / 600)) === 1) ? 0 : 1),
  );
  expect(different).toBe(0);
  await page.close();
});

test("the light table shows the very dots: one screen pixel each at dot for dot", async () => {
  const page = await newTicket("dots.jpg");
  await page.keyboard.press("d");
  await new Promise((r) => setTimeout(r, 800));
  const results = await new Runner().run(readRoute(await routeOf(page)), await takeIn(photo));
  const [{ bits }] = as(results[results.length - 1].result, "plates").plates;
  const seen = await page.$eval("canvas[data-shown]", (element) => {
    const canvas = element as HTMLCanvasElement;
    const { data } = canvas.getContext("2d")!.getImageData(200, 200, 300, 200);
    return {
      width: canvas.width,
      height: canvas.height,
      dark: Array.from({ length: 60000 }, (_, i) => (data[i * 4] < 128 ? 1 : 0)),
    };
  });
  const left = 200 - Math.round(seen.width / 2 - bits.width / 2);
  const top = 200 - Math.round(seen.height / 2 - bits.height / 2);
  const different = seen.dark.filter(
    (v, i) => v !== bitAt(bits, left + (i % 300), top + Math.floor(i / 300)),
  ).length;
  expect(different).toBe(0);
  await page.close();
});

test("every setting is undone and done again by key, over a reload and a restart", async () => {
  const page = await newTicket("undo.jpg");
  const id = await routeIdOf(page);
  const strength = async () =>
    (await ask<RouteView>(`${program.url}/api/routes/${id}`)).route.stages[2].strength;
  await type(page, "Strength, typed", "80");
  await settled(page);
  await type(page, "Strength, typed", "60");
  await settled(page);
  expect(await strength()).toBe(0.6);
  await page.click("h1, [role=application][aria-label^='Light table']");
  const undo = async (shift = false) => {
    await page.keyboard.down("Control");
    if (shift) await page.keyboard.down("Shift");
    await page.keyboard.press("KeyZ");
    if (shift) await page.keyboard.up("Shift");
    await page.keyboard.up("Control");
    await new Promise((r) => setTimeout(r, 500));
  };
  await undo();
  expect(await strength()).toBe(0.8);

  await page.reload();
  await page.waitForSelector("canvas[data-shown]");
  await settled(page);
  await undo();
  expect(await strength()).toBe(1);
  await undo(true);
  await undo(true);
  expect(await strength()).toBe(0.6);
  await page.close();
});

test("two windows change the same setting: the one whose line was cut meanwhile is asked, and chooses", async () => {
  const mine = await newTicket("two.jpg");
  const id = await routeIdOf(mine);
  const theirs = await openPage(browser, mine.url());
  await theirs.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(theirs);
  await mine.setOfflineMode(true);
  await type(theirs, "Strength, typed", "70");
  await settled(theirs);

  await mine.bringToFront();
  await type(mine, "Strength, typed", "50");
  await mine.setOfflineMode(false);
  await mine.waitForSelector("::-p-text(This route was changed in another window)", { timeout: 20000 });
  await theirs.setOfflineMode(true);
  await press(mine, "Keep mine");
  await settled(mine);
  const strength = async () =>
    (await ask<RouteView>(`${program.url}/api/routes/${id}`)).route.stages[2].strength;
  expect(await strength()).toBe(0.5);

  await theirs.bringToFront();
  await type(theirs, "Strength, typed", "90");
  await theirs.setOfflineMode(false);
  await theirs.waitForSelector("::-p-text(This route was changed in another window)", { timeout: 20000 });
  await press(theirs, "Take theirs");
  await settled(theirs);
  expect(await strength()).toBe(0.5);
  expect(await theirs.$eval('[aria-label="Strength, typed"]', (e) => (e as HTMLInputElement).value)).toBe(
    "50 %",
  );
  await Promise.all([mine.close(), theirs.close()]);
});

test("what cannot be taken in is said in words, and the board stays as it was", async () => {
  const page = await openPage(browser, program.url);
  await page.waitForSelector("h1");
  const before = await ask<TicketsView>(`${program.url}/api/tickets`);
  await drop(page, Buffer.from("not a picture"), "logo.png", "image/png");
  await page.waitForSelector("::-p-text(This is not a picture that can be read; PNG, JPEG)", {
    timeout: 20000,
  });
  expect(await page.$("::-p-text(logo.png was not taken in)")).not.toBeNull();
  expect(await ask<TicketsView>(`${program.url}/api/tickets`)).toEqual(before);
  await page.close();
});

nightly("while the server is away a change is kept, and saved when it is back", async () => {
  const base = await newDatabase();
  const own = await startProgram(base);
  const page = await openPage(browser, own.url);
  await page.waitForSelector("h1");
  await drop(page, photo, "away.jpg", "image/jpeg");
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  await own.kill();
  await type(page, "Strength, typed", "40");
  await page.waitForSelector("::-p-text(not saved, server away)", { timeout: 20000 });
  const again = await startProgram(base, [], { PORT: new URL(own.url).port });
  await settled(page);
  const [ticket] = (await ask<TicketsView>(`${own.url}/api/tickets`)).tickets;
  const { route } = await ask<RouteView>(`${own.url}/api/routes/${ticket.routes[0].id}`);
  expect(route.stages[2].strength).toBe(0.4);
  await page.close();
  await again.stop();
});

test("a hand-over stays listed with the revision it came from", async () => {
  const page = await newTicket("listed.jpg");
  const id = await routeIdOf(page);
  await press(page, "Hand over files");
  await page.waitForSelector("a::-p-text(All as zip)", { timeout: 60000 });
  await press(page, "Black & white");
  await type(page, "Strength, typed", "75");
  await settled(page);
  await press(page, "Hand over files");
  await page.waitForFunction(() => document.querySelectorAll("a[href$='/zip']").length === 2, {
    timeout: 60000,
  });
  const renders = await ask<RenderView[]>(`${program.url}/api/routes/${id}/renders`);
  expect(renders.map((r) => r.revision)).toEqual([2, 1]);
  expect(renders[0].dotsSha256).not.toBe(renders[1].dotsSha256);
  await page.close();
});
