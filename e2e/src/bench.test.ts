import { type ArtworkView, type RouteView, type TicketView } from "@hardline/contract";
import { planOf } from "@hardline/core/route/plan";
import { settingsOf } from "@hardline/core/route/route";
import { type Browser, type Page } from "puppeteer-core";
import { openBrowser, openPage, press, settled, type } from "./browser";
import { join } from "node:path";
import { addTicket, ask, newDatabase, photographOf, ROOT, startProgram, type Program } from "./harness";
import { nightly } from "./nightly";

let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let photo: Buffer;
const SVG = Buffer.from(
  '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect x="5" y="5" width="10" height="10"/></svg>',
);
const STAGES = [
  { stage: "size", widthMm: 40, dotsPerInch: 254 },
  { stage: "tone" },
  { stage: "blackWhite", kernel: "stucki" },
];

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close: closeBrowser } = await openBrowser());
  photo = photographOf(600, 400);
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

async function benchOf(
  stages: readonly object[],
  bytes: Uint8Array = photo,
  name = "photo.jpg",
): Promise<{ page: Page; id: string }> {
  const { ticket, route } = await addTicket(program.url, bytes, name, stages);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  return { page, id: route.id };
}
const routeOf = async (id: string) => (await ask<RouteView>(`${program.url}/api/routes/${id}`)).route;
const ticketOf = async (id: string) => (await ask<RouteView>(`${program.url}/api/routes/${id}`)).ticketId;
const has = (page: Page, words: string) => page.waitForSelector(`::-p-text(${words})`, { timeout: 15000 });
const valueOf = (page: Page, label: string) =>
  page.$eval(`[aria-label="${label}"]`, (e) => (e as HTMLInputElement).value);
const zoomShown = (page: Page) => page.$eval('[title="Screen pixels to dots"]', (e) => e.textContent);
const rest = (ms: number) => new Promise((r) => setTimeout(r, ms));

/** Grey of a few pixels of the light table around its middle. */
const middle = (page: Page) =>
  page.$eval("canvas[data-shown]", (element) => {
    const canvas = element as HTMLCanvasElement;
    return Array.from(
      canvas.getContext("2d")!.getImageData(canvas.width >> 1, canvas.height >> 1, 8, 8).data,
    );
  });

test("zooming by key and wheel shows whole dots as squares, and fit comes back", async () => {
  const { page } = await benchOf(STAGES);
  await page.keyboard.press("d");
  expect(await zoomShown(page)).toBe("1:1");
  await page.mouse.move(674, 400);
  for (let i = 0; i < 4; i++) await page.mouse.wheel({ deltaY: -100 });
  await rest(500);
  expect(await zoomShown(page)).toBe("6:1");
  // somewhere a dot begins; from there on each is six pixels wide
  const row = await page.$eval("canvas[data-shown]", (element) => {
    const canvas = element as HTMLCanvasElement;
    const { data } = canvas.getContext("2d")!.getImageData(60, 300, 500, 1);
    return Array.from({ length: 500 }, (_, i) => (data[i * 4] < 128 ? 1 : 0));
  });
  const changes = row.map((v, i) => (i > 0 && v !== row[i - 1] ? i : -1)).filter((i) => i >= 0);
  expect(changes.length).toBeGreaterThan(10);
  expect(changes.every((c) => (c - changes[0]) % 6 === 0)).toBe(true);
  await page.keyboard.press("f");
  await rest(300);
  expect(await zoomShown(page)).not.toBe("6:1");
  await page.close();
});

test("the reading under the pointer tells place, tone and dot", async () => {
  const { page } = await benchOf(STAGES);
  await page.mouse.move(674, 380);
  await page.waitForFunction(
    () => /\d+\.\d\d \d+\.\d\d mm\s*\d+ % (mark|bare)/.test(document.body.textContent ?? ""),
    { timeout: 10000 },
  );
  await press(page, "in");
  await page.mouse.move(675, 381);
  await page.waitForFunction(() => /\d\.\d{3} \d\.\d{3} in/.test(document.body.textContent ?? ""), {
    timeout: 10000,
  });
  await press(page, "mm");
  await page.close();
});

test("sizes may be typed in inches; the other side follows", async () => {
  const { page, id } = await benchOf(STAGES);
  await press(page, "in");
  await press(page, "Size");
  await type(page, "Width", "3");
  await settled(page);
  expect((await routeOf(id)).stages[0]).toMatchObject({ widthMm: 76.2 });
  await has(page, "3 × 2 in");
  await press(page, "mm");
  await has(page, "762 × 508");
  await press(page, "height");
  await settled(page);
  expect((await routeOf(id)).stages[0]).toMatchObject({ heightMm: 50.8 });
  await page.close();
});

test("pixels as they are, and back again", async () => {
  const { page, id } = await benchOf(STAGES);
  await press(page, "Size");
  await page.click('input[aria-label="Resample"]');
  await press(page, "None: pixels as they are", "[role=option]");
  await settled(page);
  expect((await routeOf(id)).stages[0]).toEqual({
    stage: "size",
    dotsPerInch: 254,
    resample: "none",
    shape: { kind: "whole" },
    ...{ straighten: 0, turn: 0, mirror: false },
  });
  await has(page, "600 × 400");
  await page.click('input[aria-label="Resample"]');
  await press(page, "Area average", "[role=option]");
  await settled(page);
  expect((await routeOf(id)).stages[0]).toMatchObject({ resample: "box", widthMm: 60 });
  await page.close();
});

test("a curve point is dragged, one is added and taken away; the picture follows without a button", async () => {
  const { page, id } = await benchOf(STAGES);
  await press(page, "Tone");
  await rest(400);
  const box = (await (await page.$('[aria-label^="Tone curve"]'))!.boundingBox())!;
  const before = await middle(page);
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 4, { steps: 6 });
  await page.waitForFunction(
    (old) => {
      const canvas = document.querySelector("canvas[data-shown]") as HTMLCanvasElement;
      const now = Array.from(
        canvas.getContext("2d")!.getImageData(canvas.width >> 1, canvas.height >> 1, 8, 8).data,
      );
      return JSON.stringify(now) !== JSON.stringify(old);
    },
    { timeout: 10000 },
    before,
  );
  await page.mouse.up();
  await settled(page);
  const curve = (await routeOf(id)).stages[1].curve as [number, number][];
  expect(curve).toHaveLength(3);
  expect(curve[1][0]).toBeCloseTo(0.5, 1);
  expect(curve[1][1]).toBeGreaterThan(0.65);

  await page.focus('[aria-label^="Tone curve"]');
  await page.keyboard.press("ArrowDown");
  await settled(page);
  expect(((await routeOf(id)).stages[1].curve as [number, number][])[1][1]).toBeCloseTo(
    curve[1][1] - 0.01,
    5,
  );
  await page.keyboard.press("Delete");
  await settled(page);
  expect((await routeOf(id)).stages[1].curve).toHaveLength(2);
  await page.close();
});

test("a stage left out can be put on the route again", async () => {
  const { page, id } = await benchOf([
    { stage: "size", widthMm: 30 },
    { stage: "blackWhite", method: "line" },
  ]);
  await press(page, "Tone");
  await has(page, "Tone is not on this route.");
  await press(page, "Put it on");
  await settled(page);
  // Whoever pressed it by key goes on from there, not from the top of the page.
  expect(await page.evaluate(() => document.activeElement !== document.body)).toBe(true);
  expect((await routeOf(id)).stages.map((s) => s.stage)).toEqual(["size", "tone", "blackWhite"]);
  await press(page, "Take Tone off this route");
  await settled(page);
  expect((await routeOf(id)).stages.map((s) => s.stage)).toEqual(["size", "blackWhite"]);
  await page.close();
});

test("going from scatter to line and back finds the settings as they were", async () => {
  const { page, id } = await benchOf([
    STAGES[0],
    STAGES[1],
    { stage: "blackWhite", kernel: "sierra", strength: 0.66, material: "burns-pale" },
  ]);
  await press(page, "Line");
  await settled(page);
  expect((await routeOf(id)).stages[2]).toEqual({
    stage: "blackWhite",
    method: "line",
    threshold: 128,
    material: "burns-pale",
    ...{ cleanMm: 0, edgeMm: 0 },
  });
  await press(page, "found");
  await has(page, "Found: ");
  await press(page, "Scatter");
  await settled(page);
  expect((await routeOf(id)).stages[2]).toMatchObject({
    kernel: "sierra",
    strength: 0.66,
    material: "burns-pale",
  });
  await page.close();
});

test("wipe lays two stages side by side, and either side can be another", async () => {
  const { page } = await benchOf(STAGES);
  await page.keyboard.press("w");
  expect([await valueOf(page, "Left of the edge"), await valueOf(page, "Right of the edge")]).toEqual([
    "tone",
    "blackWhite",
  ]);
  await page.select('[aria-label="Left of the edge"]', "artwork");
  await rest(800);
  // left of the edge there are colours, right of it none
  const saturated = await page.$eval("canvas[data-shown]", (element) => {
    const canvas = element as HTMLCanvasElement;
    const at = (x: number) =>
      Array.from(canvas.getContext("2d")!.getImageData(x, canvas.height / 2 - 100, 100, 100).data);
    const colourful = (data: number[]) =>
      data.filter((_, i) => i % 4 === 0 && Math.abs(data[i] - data[i + 2]) > 12).length;
    return [colourful(at(canvas.width / 2 - 140)), colourful(at(canvas.width / 2 + 40))];
  });
  expect(saturated[0]).toBeGreaterThan(1000);
  expect(saturated[1]).toBe(0);
  await page.close();
});

test("the backing steps by key; the keys are listed by ?", async () => {
  const { page } = await benchOf(STAGES);
  const pressed = () =>
    page.$eval('[aria-label="Backing"] [aria-pressed="true"]', (e) => e.getAttribute("aria-label"));
  expect(await pressed()).toBe("white");
  await page.keyboard.press("b");
  expect(await pressed()).toBe("slate");
  await page.keyboard.type("?");
  await has(page, "Keep one of the strip");
  await page.keyboard.press("Escape");
  await page.close();
});

test("a check points to its places, and what it looks for can be set", async () => {
  const { page, id } = await benchOf([
    STAGES[0],
    {
      stage: "tone",
      curve: [
        [0, 0.6],
        [0.4, 1],
        [1, 1],
      ],
    },
    STAGES[2],
  ]);
  await page.waitForFunction(() => /holds? no dots/.test(document.body.textContent ?? ""), {
    timeout: 15000,
  });
  await page.locator("button::-p-text(Show)").click();
  await page.waitForFunction(() => document.querySelectorAll("[class*=tag] b").length > 0, {
    timeout: 10000,
  });
  const tag = await page.$eval("[class*=tag]", (e) => e.getBoundingClientRect().toJSON() as DOMRect);
  expect(tag.left + tag.width / 2).toBeGreaterThan(312); // it lies on the table, flown to
  expect(tag.left + tag.width / 2).toBeLessThan(1036);
  await type(page, "Smallest area that is pointed out", "9999");
  await settled(page);
  await has(page, "No bare areas");
  expect((await routeOf(id)).checks.areaMm2).toBe(9999);
  expect(await page.$$("[class*=tag] b")).toHaveLength(0);
  await page.close();
});

nightly("artwork made of shapes is drawn at the finish resolution, however large", async () => {
  const { page, id } = await benchOf(
    [
      { stage: "size", widthMm: 40, dotsPerInch: 254 },
      { stage: "blackWhite", method: "line" },
    ],
    SVG,
    "sign.svg",
  );
  await press(page, "Size");
  await has(page, "Drawn from shapes, as sharp as the dots.");
  await type(page, "Width", "100");
  await settled(page);
  await has(page, "1000 × 500");
  const readings = await page.$$eval("dd", (all) => all.map((e) => e.textContent));
  expect(readings).toContain("254 px/in");
  expect(readings).toContain("100.0 %"); // of the art, which is the shape
  expect((await routeOf(id)).stages[0]).toMatchObject({ widthMm: 100 });
  await page.close();
});

test("routes: a further one starts as a copy, is renamed, and has a life of its own", async () => {
  const { page, id } = await benchOf(STAGES);
  await page.click('[aria-label="Add a route"]');
  await page.waitForSelector("input[maxlength='120']");
  await page.keyboard.down("Control");
  await page.keyboard.press("KeyA");
  await page.keyboard.up("Control");
  await page.keyboard.type("Black slate");
  await page.keyboard.press("Enter");
  await page.waitForFunction(() => /routes\/\d+$/.test(location.pathname), { timeout: 10000 });
  await page.waitForSelector('[role=tab][aria-selected="true"]::-p-text(Black slate)');
  await settled(page);
  await press(page, "burns pale");
  await settled(page);
  const other = /routes\/(\d+)$/.exec(page.url())![1];
  expect((await routeOf(other)).stages[2].material).toBe("burns-pale");
  expect((await routeOf(id)).stages[2].material).toBe("burns-dark");
  await page.close();
});

describe("the board", () => {
  test("finds, filters, sorts; a ticket is edited, put away and brought back", async () => {
    const named = (piece: string, customer: string) =>
      addTicket(program.url, photo, "photo.jpg", STAGES, { piece, customer });
    const { ticket } = await named("Brass plate", "Oxbow Cycles");
    await named("Slate sign", "Marlpit Growers");
    const page = await openPage(browser, program.url);
    const cards = () =>
      page.$$eval("a[data-ticket]", (all) => all.map((a) => a.querySelector("b")!.textContent));
    await page.waitForSelector("a[data-ticket]");
    await page.keyboard.press("/");
    await page.keyboard.type("oxbow brass");
    await page.waitForFunction(() => document.querySelectorAll("a[data-ticket]").length === 1);
    expect(await cards()).toEqual(["Brass plate"]);

    await page.click("a[data-ticket]");
    await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
    await page.click("[title='Edit the ticket']");
    await has(page, `Ticket ${ticket.number}`);
    await page.waitForSelector("section[role=dialog] input");
    await page.keyboard.down("Control");
    await page.keyboard.press("KeyA");
    await page.keyboard.up("Control");
    await page.keyboard.type("Brass head badge");
    await press(page, "Save");
    await page.waitForFunction(
      () => document.querySelector('[aria-label="Docket"]')?.textContent?.includes("Brass head badge"),
      { timeout: 10000 },
    );
    const shown = async () => ask<TicketView>(`${program.url}/api/tickets/${ticket.id}`);
    expect(await shown()).toMatchObject({ piece: "Brass head badge", customer: "Oxbow Cycles" });

    await rest(500); // the dialog fades out
    await page.click("[title='Edit the ticket']");
    await press(page, "Archive");
    await rest(600);
    expect((await shown()).state).toBe("archived");
    await page.goto(program.url);
    await press(page, "Archived");
    await page.waitForFunction(() => document.querySelectorAll("a[data-ticket]").length === 1, {
      timeout: 10000,
    });
    expect(await cards()).toEqual(["Brass head badge"]);
    await page.click("a[data-ticket]");
    await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
    await page.click("[title='Edit the ticket']");
    await press(page, "Bring back");
    await rest(600);
    expect((await shown()).state).not.toBe("archived");
    await page.close();
  });

  test("what somebody else does is on the board by itself, and its filter stays", async () => {
    const page = await openPage(browser, `${program.url}/?find=lantern`);
    await page.waitForSelector("h1");
    const { ticket } = await addTicket(program.url, photo, "photo.jpg", STAGES, { piece: "Paper lantern" });
    await has(page, "Paper lantern");
    await ask(`${program.url}/api/tickets/${ticket.id}`, "PATCH", { piece: "Tin lantern" });
    await has(page, "Tin lantern");
    expect(new URL(page.url()).search).toBe("?find=lantern");
    await page.close();
  });

  test("a picture pasted from the clipboard starts a ticket, and so does one chosen by its file", async () => {
    const page = await openPage(browser, program.url);
    await page.waitForSelector("h1");
    await page.evaluate((base64) => {
      const content = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
      const clipboardData = new DataTransfer();
      clipboardData.items.add(new File([content], "pasted.jpg", { type: "image/jpeg" }));
      window.dispatchEvent(new ClipboardEvent("paste", { clipboardData }));
    }, photo.toString("base64"));
    await page.waitForFunction(() => location.pathname.startsWith("/tickets/"), { timeout: 30000 });
    await page.goto(program.url);
    const input = (await page.waitForSelector("input[type=file]"))!;
    await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(
      join(ROOT, "docs/screenshots/board.png"),
    );
    await page.waitForFunction(() => location.pathname.startsWith("/tickets/"), { timeout: 30000 });
    await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
    await has(page, "Board");
    await page.waitForFunction(() => document.activeElement !== document.body);
    expect(await page.evaluate(() => document.activeElement!.textContent)).toMatch(/Ticket \d+, Board/);
    await page.close();
  });
});

test("a dragged setting is followed by drafts; nothing stale is painted, and the exact comes when the hand rests", async () => {
  const large = [{ stage: "size", widthMm: 330, dotsPerInch: 254 }, ...STAGES.slice(1)];
  const { page, id } = await benchOf(large);
  await page.evaluate(() => {
    const seen = window as unknown as { painted: string[] };
    seen.painted = [];
    const canvas = document.querySelector<HTMLCanvasElement>("canvas[data-shown]")!;
    new MutationObserver(() => seen.painted.push(canvas.dataset.shown!)).observe(canvas, {
      attributeFilter: ["data-shown"],
    });
  });
  const slider = (await page.$('[role="slider"][aria-label="Strength"]'))!;
  const box = (await slider.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  for (let k = 1; k <= 12; k++) {
    await page.mouse.move(box.x - 3 * k, box.y + box.height / 2);
    await rest(40);
  }
  await page.mouse.up();
  await page.waitForFunction(
    () => !document.querySelector<HTMLElement>("canvas[data-shown]")!.dataset.shown!.endsWith("-"),
    { timeout: 30000 },
  );
  await settled(page);
  const route = await routeOf(id);
  expect(settingsOf(route, "blackWhite")).not.toMatchObject({ strength: 1 });
  const artwork = {
    ...(await ask<{ artwork: ArtworkView }>(`${program.url}/api/tickets/${await ticketOf(id)}`)).artwork,
  };
  const { steps } = planOf(route, artwork);
  const painted = await page.evaluate(() => (window as unknown as { painted: string[] }).painted);
  const drafts = painted.filter((key) => key.endsWith("-"));
  expect(new Set(drafts).size).toBeGreaterThan(3);
  expect(painted.at(-1)).toBe(steps.at(-1)!.key.slice(0, 16));
  // Of each setting a draft, then perhaps the exact; never again one of a setting that was left.
  const settings = painted.map((key) => key.slice(0, 15));
  const first = new Map(settings.map((s) => [s, settings.indexOf(s)] as const));
  settings.forEach((s, i) => expect(settings.slice(first.get(s), i).every((t) => t === s)).toBe(true));
  await page.close();
});
