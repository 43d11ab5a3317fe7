import { type RouteView } from "@hardline/contract";
import { boatDrawing, CREST, crestAsJpeg, inkDrawing, wheelCrest } from "@hardline/demo";
import sharp from "sharp";
import { type Browser } from "puppeteer-core";
import { openBrowser, openPage, press, settled, type } from "./browser";
import { AS_IT_IS, handedOver, onScreen, openClear, ops } from "./clearing";
import { addTicket, ask, newDatabase, startProgram, type Program } from "./harness";
import { nightly } from "./nightly";

/* A person clears artwork with mouse and keyboard; what comes out is compared with how it was drawn. */
let program: Program;
let browser: Browser;
let close: () => Promise<void>;

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close } = await openBrowser());
});
afterAll(async () => {
  await close?.();
  await program?.stop();
});

/** Half as large as customers send it, and drawn once: it takes a while. */
let boat: Promise<Buffer> | null = null;
const boatPhoto = (): Promise<Buffer> => (boat ??= inkDrawing(2));

const coverOf = (svg: string, width: number, height: number, blur = 0.3) =>
  sharp(Buffer.from(svg)).resize(width, height).ensureAlpha().extractChannel(3).blur(blur).raw().toBuffer();

/** Mean cover error and the share of pixels on the wrong side of a half, in percent. */
function compared(data: Buffer, truth: Buffer) {
  let [sum, wrong] = [0, 0];
  truth.forEach((t, i) => {
    const error = Math.abs(data[i * 4 + 3] - t);
    sum += error;
    if (error > 128) wrong++;
  });
  return { mean: (100 * sum) / truth.length / 255, wrong: (100 * wrong) / truth.length };
}

test("a flat logo on a white box: one click on the box, one for its gaps, and it is the drawing again", async () => {
  const { page, routeId } = await openClear(browser, program.url, await crestAsJpeg(), "crest.jpg");
  const [width, height] = [CREST.width, CREST.height];
  const [x, y] = await onScreen(page, 0.05, 0.05, width, height);
  await page.mouse.move(x, y, { steps: 4 });
  // What a click would take is shown before it is clicked.
  await page.waitForFunction(
    () => /A click takes\s*[\d.]+/.test(document.querySelector('[aria-label="Docket"]')!.textContent!),
    { timeout: 60000 },
  );
  await page.mouse.click(x, y);
  await settled(page);
  expect(await ops(program.url, routeId)).toMatchObject([{ op: "pick", tolerance: 7, joined: true }]);

  await press(page, "Find its gaps");
  await page.waitForSelector('[aria-label="Gaps, largest first"] li');
  await settled(page);
  const areas = await page.$$eval('[aria-label="Gaps, largest first"] li span.mono', (spans) =>
    spans.map((s) => parseFloat(s.textContent!)),
  );
  // eight between the spokes and one in the hub, eight handles, nine knots, and P, O, B, O, A with B's two
  expect(areas.length).toBeGreaterThanOrEqual(30);
  expect(areas).toEqual([...areas].sort((a, b) => b - a));

  // One is left by a click on it and taken again in the list.
  const [hubX, hubY] = await onScreen(page, 0.5, 500 / 1300, width, height);
  const taken = () =>
    page.$$eval(
      '[aria-label="Gaps, largest first"] input',
      (all) => all.filter((i) => (i as HTMLInputElement).checked).length,
    );
  const all = await taken();
  await page.mouse.click(hubX, hubY);
  await settled(page);
  await page.waitForFunction(
    (n) => document.querySelectorAll('[aria-label="Gaps, largest first"] input:checked').length === n,
    {},
    all - 1,
  );
  await page.evaluate(() =>
    (document.querySelector('[aria-label="Gaps, largest first"] input:not(:checked)') as HTMLElement).click(),
  );
  await settled(page);
  await page.waitForFunction(
    (n) => document.querySelectorAll('[aria-label="Gaps, largest first"] input:checked').length === n,
    {},
    all,
  );

  const text = await page.$eval('[aria-label="Checks and readings"]', (e) => e.textContent!);
  expect(text).toContain("Edges carry no old background");
  expect(text).toContain("No stray islands");
  expect(text).toContain("No faint tint");
  const { data, width: w, height: h } = await handedOver(page);
  expect([w, h]).toEqual([width, height]);
  const { mean, wrong } = compared(data, await coverOf(wheelCrest(), width, height));
  expect(mean).toBeLessThan(0.5);
  expect(wrong).toBeLessThan(0.05);
  // Where the art is whole, its colour is the artwork's own to the bit.
  const source = await sharp(await crestAsJpeg())
    .ensureAlpha()
    .raw()
    .toBuffer();
  let [whole, changed] = [0, 0];
  for (let o = 0; o < data.length; o += 4) {
    if (data[o + 3] !== 255) continue;
    whole++;
    if (data[o] !== source[o] || data[o + 1] !== source[o + 1] || data[o + 2] !== source[o + 2]) changed++;
  }
  expect(whole).toBeGreaterThan(200000);
  expect(changed).toBe(0);
  await page.close();
});

nightly("ink at a kitchen table: one press lifts it off unevenly lit paper", async () => {
  const { page, routeId } = await openClear(browser, program.url, await boatPhoto(), "boat.jpg");
  await press(page, "Lift");
  await settled(page);
  expect(await ops(program.url, routeId)).toMatchObject([{ op: "lift", light: "uneven", paper: "auto" }]);
  await type(page, "Drop specks, typed", "1");
  await settled(page);
  const text = await page.$eval('[aria-label="Checks and readings"]', (e) => e.textContent!);
  expect(text).toContain("No stray islands");
  expect(text).toContain("Edges carry no old background");
  const { data } = await handedOver(page);
  const { mean, wrong } = compared(data, await coverOf(boatDrawing(), 1200, 900, 1.1));
  expect(mean).toBeLessThan(1.2);
  expect(wrong).toBeLessThan(0.05);
  // On a dark cloth no paper shows: nothing that is left is lighter than the ink.
  let pale = 0;
  for (let o = 0; o < data.length; o += 4) if (data[o + 3] > 26 && data[o + 1] > 120) pale++;
  expect(pale).toBe(0);
  await page.close();
});

nightly(
  "tolerance turns with the wheel, operations move, change and go, and all of it is undone by key",
  async () => {
    const { page, routeId } = await openClear(browser, program.url, await crestAsJpeg(600), "moves.jpg");
    const [x, y] = await onScreen(page, 0.05, 0.05, 600, 650);
    await page.mouse.move(x, y);
    await page.keyboard.down("Alt");
    for (let k = 0; k < 3; k++) await page.mouse.wheel({ deltaY: -100 });
    await page.keyboard.up("Alt");
    await page.waitForSelector("[role=note]::-p-text(tolerance 7)");
    await page.mouse.click(x, y);
    await settled(page);
    await press(page, "Lift");
    await settled(page);
    expect((await ops(program.url, routeId)).map((o) => o.op)).toEqual(["pick", "lift"]);
    await page.locator('button[aria-label^="Earlier: lift"]').click();
    await settled(page);
    expect((await ops(program.url, routeId)).map((o) => o.op)).toEqual(["lift", "pick"]);
    await page.locator('button[aria-label^="Remove: lift"]').click();
    await settled(page);
    expect(await ops(program.url, routeId)).toMatchObject([{ op: "pick", tolerance: 7 }]);
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.down("Control");
    await page.keyboard.press("KeyZ");
    await page.keyboard.up("Control");
    await new Promise((r) => setTimeout(r, 800));
    expect((await ops(program.url, routeId)).map((o) => o.op)).toEqual(["lift", "pick"]);
    await page.close();
  },
);

test("strokes are kept as strokes: scribbles cut a subject out, a hold and an eraser work by hand", async () => {
  const scene = await sharp({ create: { width: 900, height: 700, channels: 3, background: "#8fb3c9" } })
    .composite([
      {
        input: Buffer.from(
          `<svg width="900" height="700"><circle cx="450" cy="350" r="210" fill="#b5482e"/></svg>`,
        ),
      },
    ])
    .jpeg({ quality: 92 })
    .toBuffer();
  const { page, routeId } = await openClear(browser, program.url, scene, "ball.jpg");
  const draw = async (...points: [number, number][]) => {
    const places = [];
    for (const [u, v] of points) places.push(await onScreen(page, u, v, 900, 700));
    await page.mouse.move(...places[0]);
    await page.mouse.down();
    for (const place of places.slice(1)) await page.mouse.move(...place, { steps: 6 });
    await page.mouse.up();
  };
  await press(page, "Cut out");
  await draw([0.4, 0.5], [0.6, 0.5]);
  await page.keyboard.press("x");
  await draw([0.05, 0.08], [0.9, 0.08], [0.92, 0.9]);
  await settled(page);
  const [cut] = (await ops(program.url, routeId)) as unknown as {
    keep: { points: number[][] }[];
    away: unknown[];
  }[];
  expect([cut.keep.length, cut.away.length]).toEqual([1, 1]);
  expect(cut.keep[0].points.length).toBeGreaterThan(3);
  expect(Math.abs(cut.keep[0].points[0][0] - 0.4)).toBeLessThan(0.01);

  await press(page, "Hold");
  await draw([0.1, 0.5], [0.2, 0.5]);
  await press(page, "Eraser");
  await draw([0.5, 0.3], [0.5, 0.35]);
  await settled(page);
  expect((await ops(program.url, routeId)).map((o) => o.op)).toEqual(["cutOut", "hold", "brush"]);
  const { data } = await handedOver(page);
  const alpha = (u: number, v: number) => data[(Math.round(v * 700) * 900 + Math.round(u * 900)) * 4 + 3];
  expect([alpha(0.4, 0.6), alpha(0.05, 0.95), alpha(0.15, 0.5), alpha(0.5, 0.32)]).toEqual([255, 0, 255, 0]);
  await page.close();
});

test("the artwork says what it is, and its proposal is taken", async () => {
  const { ticket } = await addTicket(program.url, await boatPhoto(), "boat-read.jpg", [AS_IT_IS]);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await press(page, "Artwork");
  const words = await page.$eval('[aria-label="What was read of it"]', (e) => e.textContent!);
  expect(words).toMatch(/Ink on paper.*Unevenly lit: the dimmest part has \d+ % of the light/);
  await press(page, "Take this route");
  await settled(page);
  const { route } = await ask<RouteView>(`${program.url}/api/routes/${ticket.routes[0].id}`);
  expect(route.stages.map((s) => s.stage)).toEqual(["size", "clear", "blackWhite"]);
  expect(route.stages[1]).toMatchObject({ ops: [{ op: "lift", light: "uneven" }] });
  await press(page, "Start plain");
  await settled(page);
  const plain = await ask<RouteView>(`${program.url}/api/routes/${ticket.routes[0].id}`);
  expect(plain.route.stages.map((s) => s.stage)).toEqual(["size", "tone", "blackWhite"]);
  await page.close();
});
