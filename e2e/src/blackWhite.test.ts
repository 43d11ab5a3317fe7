import { type MaterialView, type RenderView, type RouteView, type StripView } from "@hardline/contract";
import { planOf } from "@hardline/core/route/plan";
import { settingsOf, type Route } from "@hardline/core/route/route";
import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, press, settled, type } from "./browser";
import { addTicket, ask, newDatabase, startProgram, type Program } from "./harness";
import { nightly } from "./nightly";

/* A person makes a portrait fit to be engraved: compares, finds what is empty, mends it, and takes the file. */
let program: Program;
let browser: Browser;
let closeBrowser: () => Promise<void>;

/** A head with a bright cheek on a middle ground. */
const PORTRAIT = Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="900" height="900">
  <defs>
    <radialGradient id="skin" cx="0.36" cy="0.4" r="0.75">
      <stop offset="0" stop-color="#f4efe8"/><stop offset="0.4" stop-color="#d8cbb9"/><stop offset="1" stop-color="#5c4a3c"/>
    </radialGradient>
    <linearGradient id="ground" x2="0" y2="1"><stop stop-color="#8b949c"/><stop offset="1" stop-color="#4d545c"/></linearGradient>
  </defs>
  <rect width="900" height="900" fill="url(#ground)"/>
  <ellipse cx="450" cy="460" rx="260" ry="340" fill="url(#skin)"/>
  <path d="M190 420 Q230 90 470 110 Q710 110 712 420 Q620 240 450 236 Q290 240 190 420Z" fill="#2c2420"/>
  <ellipse cx="360" cy="420" rx="34" ry="17" fill="#2a211c"/><ellipse cx="545" cy="420" rx="34" ry="17" fill="#2a211c"/>
  <path d="M455 430 Q490 560 440 570" fill="none" stroke="#7d6753" stroke-width="9"/>
  <path d="M370 660 Q460 705 545 655" fill="none" stroke="#6d4038" stroke-width="14"/>
</svg>`);
const LIFTED = [
  [0, 0.05],
  [0.5, 0.75],
  [0.85, 1],
  [1, 1],
];
const STAGES = [
  { stage: "size", widthMm: 60, dotsPerInch: 254 },
  { stage: "tone", curve: LIFTED },
  { stage: "blackWhite", kernel: "floyd-steinberg" },
];

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close: closeBrowser } = await openBrowser());
});
afterAll(async () => {
  await closeBrowser?.();
  await program?.stop();
});

const at = (path: string) => `${program.url}/api${path}`;
const routeOf = async (id: string): Promise<Route> => (await ask<RouteView>(at(`/routes/${id}`))).route;
const rest = (ms: number) => new Promise((r) => setTimeout(r, ms));
const has = (page: Page, words: string) => page.waitForSelector(`::-p-text(${words})`, { timeout: 20000 });
const portrait = () => sharp(PORTRAIT).png().toBuffer();

async function benchOf(stages: readonly object[]) {
  const { ticket, route } = await addTicket(program.url, await portrait(), "portrait.png", stages);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  return { page, ticket, id: route.id };
}

/** Waits until every variant of the strip is drawn; their words. */
async function strip(page: Page, count: number): Promise<string[]> {
  const all = '[aria-label="Test strip"] canvas[data-ready="true"]';
  await page.waitForFunction(
    (q, n) => document.querySelectorAll(q).length === n,
    { timeout: 60000 },
    all,
    count,
  );
  return page.$$eval('[aria-label="Test strip"] [aria-pressed][title^="Keep"]', (list) =>
    list.map((e) => e.textContent ?? ""),
  );
}
const keep = async (page: Page, words: readonly string[], wanted: string): Promise<void> => {
  const k = words.findIndex((w) => w.includes(wanted));
  expect(k).toBeGreaterThanOrEqual(0);
  await page.keyboard.press(String(k + 1) as "1");
};

test("methods are compared on a face by a strip, what is empty is found and mended, and the file is right", async () => {
  const { page, ticket, id } = await benchOf(STAGES);
  await page.keyboard.press("d");
  await has(page, "holds no dots");
  await press(page, "Show it");
  await page.waitForSelector('[class*="tag"]');
  const bare = await page.$eval('[class*="tag"]', (e) => e.textContent);
  expect(bare).toBe("1");

  // The way to dots, by the key on its control.
  await page.focus('[aria-label="Method"] [aria-checked="true"]');
  await page.keyboard.press("t");
  const ways = await strip(page, 7);
  expect(
    ways.map((w) =>
      w
        .replace(/^\d /, "")
        .split(/(kept|\d)/)[0]
        .trim(),
    ),
  ).toEqual(["Floyd", "Jarvis", "Stucki", "Atkinson", "Blue noise", "Screen", "Line"]);
  expect(ways.filter((w) => /\d+(\.\d)? %/.test(w)).length).toBe(7); // each tells its readings
  await keep(page, ways, "Blue noise");
  await settled(page);
  expect(settingsOf(await routeOf(id), "blackWhite")).toMatchObject({
    method: "scatter",
    kernel: "blue-noise",
  });

  // Lightened less: the curve, by the same key, seen as dots; with the bare area of each.
  await press(page, "Tone");
  await page.focus('[aria-label^="Tone curve"]');
  await page.keyboard.press("t");
  const curves = await strip(page, 5);
  expect(curves[0]).toContain("0 % of the curve");
  expect(curves.some((w) => w.includes("mm² bare"))).toBe(true);
  await keep(page, curves, "50 % of the curve");
  await settled(page);
  await has(page, "No bare areas");
  expect(settingsOf(await routeOf(id), "tone")!.curve[1]).toEqual([0.5, 0.625]);

  // A second setting makes a grid; steps are typed; what is not allowed is said.
  await page.focus('[aria-label="Sharpen, typed"]');
  await page.keyboard.down("Shift");
  await page.keyboard.press("T");
  await page.keyboard.up("Shift");
  const grid = await strip(page, 9);
  expect(new Set(grid).size).toBe(9);
  await press(page, "Keep as test piece");
  await has(page, "The strip is kept");
  await type(page, "Steps of Sharpen", "0, 9999");
  await has(page, "sharpen.amount is 99.99; allowed: 5 or less");
  await page.keyboard.press("Escape");
  const [kept] = await ask<StripView[]>(at(`/tickets/${ticket.id}/strips`));
  expect(kept).toMatchObject({ title: "Curve × Sharpen", routeId: id });
  expect(kept.labels).toHaveLength(9);
  const piece = Buffer.from(await (await fetch(`${program.url}${kept.pictureUrl}`)).arrayBuffer());
  const made = await sharp(piece).raw().toBuffer({ resolveWithObject: true });
  expect(made.info.width).toBeGreaterThan(600);
  expect(new Set(made.data).size).toBe(2);

  await press(page, "Hand over files");
  await page.waitForSelector("a::-p-text(All as zip)", { timeout: 120000 });
  await page.waitForSelector("text/Same dots as on the light table", { timeout: 60000 });
  const [render] = await ask<RenderView[]>(at(`/routes/${id}/renders`));
  const png = render.files.find((f) => f.name.endsWith("bitmap.png"))!;
  const bytes = Buffer.from(await (await fetch(`${program.url}${png.url}`)).arrayBuffer());
  const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([600, 600]);
  expect([...new Set(data)].sort((a, b) => a - b)).toEqual([0, 255]);
  // No square of two millimetres on the face is without a mark now.
  let empty = 0;
  for (let y = 150; y < 450; y += 20)
    for (let x = 200; x < 400; x += 20) {
      let marks = 0;
      for (let v = 0; v < 20; v++) for (let u = 0; u < 20; u++) marks += +(data[(y + v) * 600 + x + u] === 0);
      empty += +(marks === 0);
    }
  expect(empty).toBe(0);
  await page.close();
});

test("a material sets polarity, resolution and limits; what differs is told; two routes lie beside each other", async () => {
  const { page, ticket, id } = await benchOf(STAGES);
  const [slate] = (await ask<MaterialView[]>(at("/materials"))).filter((m) => m.key === "slate");
  await page.click('[aria-label="Material of this route"]');
  await press(page, "Slate", "[role=option]");
  await settled(page);
  const route = await routeOf(id);
  expect(route).toMatchObject({
    material: "slate",
    checks: { dotMm: slate.dotMm, gapMm: slate.gapMm, strokeMm: slate.strokeMm, machineDotsPerInch: 254 },
  });
  expect(settingsOf(route, "blackWhite")!.material).toBe("burns-pale");
  await press(page, "Size");
  await type(page, "Dots per inch", "300");
  await settled(page);
  await has(page, "Finish is not the machine's resolution");
  await press(page, "2 settings differ", "summary");
  await press(page, "Set as usual");
  await settled(page);
  await has(page, "Finish fits the machine");

  // A second route for pale wood, then both at once, moved together.
  await page.click('[aria-label="Add a route"]');
  await page.waitForSelector('input[data-autofocus="true"]');
  await press(page, "Add");
  await page.waitForFunction(
    (path) => location.pathname.startsWith(path),
    {},
    `/tickets/${ticket.id}/routes/`,
  );
  await page.waitForSelector("canvas[data-shown]");
  await settled(page);
  await page.click('[aria-label="Material of this route"]');
  await press(page, "Pale wood", "[role=option]");
  await settled(page);
  await page.keyboard.press("n");
  await page.keyboard.press("m");
  await has(page, "on slate");
  await has(page, "on pale wood");
  const sides = () =>
    page.$eval("canvas[data-shown]", (element) => {
      const canvas = element as HTMLCanvasElement;
      const pen = canvas.getContext("2d")!;
      const mean = (x: number) => {
        const { data } = pen.getImageData(x - 40, canvas.height / 2 - 40, 80, 80);
        return [0, 1, 2].map((c) => data.filter((_, i) => i % 4 === c).reduce((a, b) => a + b, 0) / 6400);
      };
      return [mean(canvas.width / 4), mean((3 * canvas.width) / 4)];
    });
  await page.waitForFunction(() => !document.querySelector('[role="status"] i'));
  await rest(1500);
  const [wood, stone] = await sides();
  expect(wood[0] - wood[2]).toBeGreaterThan(25); // brown
  expect(Math.abs(stone[0] - stone[2])).toBeLessThan(15); // grey
  await page.keyboard.press("n");
  await page.keyboard.press("w");
  await has(page, "Bare dots");
  await page.close();
});

nightly("a route is kept for the house and begins another ticket's", async () => {
  const { page } = await benchOf([
    ...STAGES.slice(0, 2),
    { stage: "blackWhite", method: "screen", linesPerInch: 20 },
  ]);
  await page.click('[role=tab][aria-selected="true"]');
  await page.waitForSelector('input[data-autofocus="true"]');
  await press(page, "Keep as house route");
  await has(page, "other tickets can begin with it");
  await page.close();
  const other = await benchOf(STAGES);
  await press(other.page, "Artwork");
  await other.page.click('[aria-label="House route"]');
  await press(other.page, "Try", "[role=option]");
  await settled(other.page);
  expect(settingsOf(await routeOf(other.id), "blackWhite")).toMatchObject({
    method: "screen",
    linesPerInch: 20,
  });
  await other.page.close();
});

nightly(
  "two hundred quick changes never show a picture that is older than the one before, and end right",
  async () => {
    const { page, ticket, id } = await benchOf([
      STAGES[0],
      { stage: "tone" },
      { stage: "blackWhite", method: "screen", linesPerInch: 20 },
    ]);
    await page.$eval("canvas[data-shown]", (canvas) => {
      const seen: string[] = [];
      Object.assign(window, { seen });
      new MutationObserver(() => seen.push((canvas as HTMLElement).dataset.shown!)).observe(canvas, {
        attributeFilter: ["data-shown"],
      });
    });
    await page.focus('[role=slider][aria-label="Lines"]');
    for (let k = 0; k < 200; k++) await page.keyboard.press(k % 50 < 49 ? "ArrowRight" : "ArrowLeft");
    await settled(page);
    const seen = await page.evaluate(() => (window as unknown as { seen: string[] }).seen);
    const route = await routeOf(id);
    const { sha256, width, height, vector } = ticket.artwork;
    const { key } = planOf(route, { sha256, width, height, vector }).steps.at(-1)!;
    expect(seen.at(-1)).toBe(key.slice(0, 16));
    expect(seen.length).toBeGreaterThan(3);
    // Every value's key, in the order in which it was set: what is shown only ever goes on in it.
    const keys = Array.from({ length: 201 }, (_, k) => 20 + 0.5 * k).map((linesPerInch) => {
      const stages = route.stages.map((s) => (s.stage === "blackWhite" ? { ...s, linesPerInch } : s));
      return planOf({ ...route, stages }, { sha256, width, height, vector })
        .steps.at(-1)!
        .key.slice(0, 15);
    });
    const order = seen.map((s) => keys.indexOf(s.slice(0, 15)));
    expect(order.every((k) => k >= 0)).toBe(true);
    // The hand goes one step back in fifty; no picture goes further back than that.
    for (let k = 1; k < order.length; k++) expect(order[k]).toBeGreaterThanOrEqual(order[k - 1] - 1);
    await page.close();
  },
);

test("nonsense typed is not taken, and what it may be is said where it matters", async () => {
  const { page, id } = await benchOf([
    STAGES[0],
    { stage: "blackWhite", method: "screen", linesPerInch: 20 },
  ]);
  await type(page, "Lines, typed", "10000");
  await settled(page);
  expect(
    (settingsOf(await routeOf(id), "blackWhite") as { linesPerInch: number }).linesPerInch,
  ).toBeLessThanOrEqual(100);
  await type(page, "Lines, typed", "20");
  await type(page, "Smallest mark", "40");
  await has(page, "smallestMark is 40; allowed: 5 dots or less in a cell of 12.7 dots");
  await settled(page);
  expect(settingsOf(await routeOf(id), "blackWhite")).toMatchObject({ linesPerInch: 20, smallestMark: 1 });
  await page.close();
});

test("an emblem is traced, its specks dropped, and the SVG drawn by another program is the emblem", async () => {
  const shapes = `<circle cx="300" cy="300" r="230"/><rect x="180" y="240" width="240" height="120" fill="#fff" transform="rotate(12 300 300)"/>`;
  const svg = (extra: string) =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="600"><rect width="600" height="600" fill="#fff"/>${shapes}${extra}</svg>`,
    );
  const dirty = await sharp(svg('<circle cx="40" cy="40" r="2"/><circle cx="560" cy="80" r="3"/>'))
    .png()
    .toBuffer();
  const { ticket, route } = await addTicket(program.url, dirty, "emblem.png", [
    { stage: "size", widthMm: 60, dotsPerInch: 254 },
  ]);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await press(page, "Trace");
  await press(page, "Put it on");
  await settled(page);
  await type(page, "Shapes from, typed", "0.5");
  await settled(page);
  await has(page, "2 specks and");
  await press(page, "Hand over files");
  await page.waitForSelector("a::-p-text(All as zip)", { timeout: 120000 });
  const [render] = await ask<RenderView[]>(at(`/routes/${route.id}/renders`));
  const file = render.files.find((f) => f.name.endsWith("trace.svg"))!;
  const traced = Buffer.from(await (await fetch(`${program.url}${file.url}`)).arrayBuffer());
  expect(traced.toString()).toContain('width="60mm" height="60mm"');
  // A circle is four curves, a rectangle four lines.
  expect(traced.toString().match(/C/g)).toHaveLength(4);
  expect(traced.toString().match(/L/g)).toHaveLength(4);
  const pixels = (bytes: Buffer, density = 72) =>
    sharp(bytes, { density }).resize(600, 600).flatten({ background: "#fff" }).greyscale().raw().toBuffer();
  const [out, clean] = await Promise.all([pixels(traced, 190.5), pixels(svg(""))]);
  let wrong = 0;
  clean.forEach((v, i) => (wrong += +(Math.abs(v - out[i]) > 90)));
  expect(wrong).toBeLessThan(20);
  await page.close();
});
