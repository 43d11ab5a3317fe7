import { readDxfDrawing } from "@hardline/core/drawing/readDxf";
import { readSvgDrawing } from "@hardline/core/drawing/readSvg";
import { ringsOf } from "@hardline/core/path/flatten";
import { type PathSet } from "@hardline/core/path/pathSet";
import { areaOf, ringArea } from "@hardline/core/polygon/rings";
import sharp from "sharp";
import { type Browser, type Page } from "puppeteer-core";
import { benchOf, handedOver, savedAt } from "./atBench";
import { openBrowser, press, settled, type } from "./browser";
import { newDatabase, startProgram, type Program } from "./harness";

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

const drawn = (width: number, height: number, body: string): Promise<Buffer> =>
  sharp(
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${body}</svg>`),
  )
    .png()
    .toBuffer();

/** Where a place of the piece, in mm, lies on the page now that the whole of it is shown. */
async function placeOn(page: Page, mm: readonly [number, number]): Promise<[number, number]> {
  await page.keyboard.press("d"); // dot for dot: the middle of the piece in the middle of the table
  await page.evaluate(() => new Promise((r) => setTimeout(r, 300)));
  const box = await page.$eval("canvas[data-shown]", (c) => {
    const { x, y, width, height } = c.getBoundingClientRect();
    return { x, y, width, height };
  });
  const [w, h] = await page.$eval('[aria-label="Docket"]', (d) => {
    const found = /(\d+(?:\.\d+)?) × (\d+(?:\.\d+)?) mm/.exec(d.textContent ?? "")!;
    return [Number(found[1]), Number(found[2])];
  });
  return [box.x + box.width / 2 + (mm[0] - w / 2) * 10, box.y + box.height / 2 + (mm[1] - h / 2) * 10];
}

const areas = (set: PathSet): number[] => ringsOf(set, 0.001).map((r) => Math.abs(ringArea(r)));

test("a sticker gets a border, two gaps filled, a third kept, and a tab that is dragged to the side", async () => {
  // A disc of 30 mm with three gaps, on nothing.
  const art = await drawn(
    400,
    400,
    `<path fill="#b03a2e" fill-rule="evenodd" d="M200 50a150 150 0 1 0 .1 0ZM130 120h60v40h-60ZM230 120h40v40h-40ZM150 220h100v60h-100Z"/>`,
  );
  const { page, id } = await benchOf(program, browser, art, "sticker.png", [
    { stage: "size", widthMm: 40, dotsPerInch: 254 },
  ]);
  await press(page, "Cut line");
  await press(page, "Put it on");
  await settled(page);
  await type(page, "Border, typed", "1.5");
  await settled(page);
  // The largest is 60 mm² and stays; the smaller ones go, one by the list, one by a click on the picture.
  await page.waitForSelector('[aria-label="Gaps, largest first"] li:nth-child(3)');
  await press(page, "16.0 mm²");
  await settled(page);
  await page.mouse.click(...(await placeOn(page, [16, 14])));
  const { gaps } = await savedAt(program, id, "cutLine", (s) => s.gaps.fill.length === 2);
  expect(gaps.fill).toHaveLength(2);
  await page.locator("::-p-aria(A hanging hole)").click();
  await settled(page);
  const [x, y] = await placeOn(page, [20, 5 - 1.5 - 2.75]);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(...(await placeOn(page, [39, 20])), { steps: 8 });
  await page.mouse.up();
  const { tab } = await savedAt(program, id, "cutLine", (s) => s.tab?.at !== "top" && s.tab !== undefined);
  expect(tab!.at[0]).toBeCloseTo(39 / 40, 1);
  const files = (await handedOver(program, page, id)).files;
  const { sets, widthMm } = readSvgDrawing(files["cut.svg"].toString());
  expect(widthMm).toBeGreaterThan(43); // grown, so that the ring is whole
  const [hole, gap, outer] = areas(sets[0]).sort((a, b) => a - b);
  expect(hole).toBeCloseTo(Math.PI * 1.5 ** 2, 1);
  expect(gap).toBeCloseTo((10 - 3) * (6 - 3), 0);
  expect(outer).toBeGreaterThan(Math.PI * 16.5 ** 2 + 15);
  expect(outer).toBeLessThan(Math.PI * 16.5 ** 2 + 50);
  const dxf = readDxfDrawing(files["cut.dxf"].toString());
  expect(areas(dxf.sets[0]).sort((a, b) => a - b)).toEqual(
    [hole, gap, outer].map((v) => expect.closeTo(v, 1)),
  );
  // Another program draws the same line.
  const { data, info } = await sharp(files["cut.svg"], { density: 254 })
    .flatten({ background: "#fff" })
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const dark = (xMm: number, yMm: number) => {
    const s = info.width / widthMm;
    const rows = [-2, -1, 0, 1, 2].flatMap((v) =>
      [-2, -1, 0, 1, 2].map((u) => data[(Math.round(yMm * s) + v) * info.width + Math.round(xMm * s) + u]),
    );
    return Math.min(...rows);
  };
  expect(dark(20 - 16.5, 20)).toBeLessThan(200);
  expect(dark(20, 12)).toBe(255); // where a gap was filled
  await page.close();
});

test("a traced emblem is cleaned by points: one dragged, two levelled, a stray shape deleted, a hole drawn in", async () => {
  const art = await drawn(
    400,
    400,
    `<rect width="400" height="400" fill="#fff"/><path d="M100 104L300 96V300H100Z"/><circle cx="350" cy="50" r="20"/>`,
  );
  const { page, id } = await benchOf(program, browser, art, "emblem.png", [
    { stage: "size", widthMm: 40, dotsPerInch: 254 },
    { stage: "trace", toleranceMm: 0.03 },
  ]);
  await press(page, "Points");
  await page.mouse.click(...(await placeOn(page, [10, 10.4])));
  await page.keyboard.down("Shift");
  await page.mouse.click(...(await placeOn(page, [30, 9.6])));
  await page.keyboard.up("Shift");
  await press(page, "Level");
  await settled(page);
  const [x, y] = await placeOn(page, [30, 30]);
  await page.mouse.click(x, y);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 30, y + 20, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  await press(page, "Paths");
  await page.mouse.click(...(await placeOn(page, [33, 5])));
  await page.keyboard.press("Delete");
  await settled(page);
  await press(page, "Circle");
  await type(page, "Diameter of a circle", "6");
  await page.mouse.click(...(await placeOn(page, [20, 20])));
  const { edits } = await savedAt(program, id, "trace", (s) => s.edits.length === 4);
  expect(edits.map((e) => e.edit)).toEqual(["level", "movePoint", "delete", "circle"]);
  const files = (await handedOver(program, page, id)).files;
  const [set, ...more] = readSvgDrawing(files["trace.svg"].toString()).sets;
  expect(more).toHaveLength(0);
  const [hole, shape] = areas(set).sort((a, b) => a - b);
  expect(hole).toBeCloseTo(Math.PI * 9, 0);
  // Level top at 10, the lower right corner 3 mm right and 2 mm down: 20 x 20, and two triangles.
  expect(shape).toBeCloseTo(400 + (20 * 3) / 2 + (23 * 2) / 2, -1);
  expect(set.closed).toHaveLength(2);
  // All of it can be undone, step by step.
  await page.keyboard.down("Control");
  await page.keyboard.press("z");
  await page.keyboard.up("Control");
  expect((await savedAt(program, id, "trace", (s) => s.edits.length === 3)).edits).toHaveLength(3);
  await page.close();
});

test("a hole is chosen by a click into it and goes alone; a tab drawn over the edge becomes one with its shape", async () => {
  const art = await drawn(
    400,
    400,
    `<rect width="400" height="400" fill="#fff"/><path fill-rule="evenodd" d="M100 100H300V300H100ZM160 160V240H240V160Z"/>`,
  );
  const { page, id } = await benchOf(program, browser, art, "plate.png", [
    { stage: "size", widthMm: 40, dotsPerInch: 254 },
    { stage: "trace", toleranceMm: 0.03 },
  ]);
  await press(page, "Paths");
  await page.mouse.click(...(await placeOn(page, [20, 20])));
  await page.waitForFunction(() =>
    /^1 of 2 /.test(document.querySelector("[data-told]")!.getAttribute("data-told")!),
  );
  await page.keyboard.press("Delete");
  await settled(page);
  await press(page, "Circle");
  await type(page, "Diameter of a circle", "8");
  await page.mouse.click(...(await placeOn(page, [20, 10])));
  await savedAt(program, id, "trace", (s) => s.edits.length === 2);
  const files = (await handedOver(program, page, id)).files;
  const [set] = readSvgDrawing(files["trace.svg"].toString()).sets;
  expect(set.closed).toHaveLength(1);
  expect(areas(set)[0]).toBeCloseTo(400 + (Math.PI * 16) / 2, 0);
  await page.close();
});

test("the shadow of a drawing is traced as its own tone and run as its own pass", async () => {
  const art = await drawn(
    400,
    400,
    `<rect width="400" height="400" fill="#fff"/><circle cx="200" cy="200" r="150" fill="#9a9a9a"/><rect x="150" y="150" width="100" height="100" fill="#111"/>`,
  );
  const { page, id } = await benchOf(program, browser, art, "shadow.png", [
    { stage: "size", widthMm: 40, dotsPerInch: 254 },
    { stage: "trace", tones: 2 },
  ]);
  await page.locator('button[aria-label="tone-2 as its own pass"]').click();
  await settled(page);
  await type(page, "Name of the pass of tone-2", "shadow");
  await type(page, "Power of tone-2", "15");
  await type(page, "Speed of tone-2", "250");
  const { passes } = await savedAt(program, id, "trace", (s) => s.passes[0]?.speed === 250);
  const files = (await handedOver(program, page, id)).files;
  expect(passes).toMatchObject([{ set: "tone-2", name: "shadow", power: 15, speed: 250 }]);
  const alone = readSvgDrawing(files["trace-shadow.svg"].toString()).sets;
  expect(alone).toMatchObject([{ name: "tone-2", pass: { power: 15, speed: 250 } }]);
  const [inner, outer] = areas(alone[0]).sort((a, b) => a - b);
  expect(inner).toBeCloseTo(100, 0);
  expect(outer).toBeCloseTo(Math.PI * 15 ** 2, -0.5);
  const whole = readSvgDrawing(files["trace.svg"].toString()).sets;
  expect(whole.map((s) => s.name).sort()).toEqual(["tone-1", "tone-2"]);
  expect(
    areaOf(
      ringsOf(
        whole.find((s) => s.name === "tone-1")!,
        0.001,
      ),
    ),
  ).toBeCloseTo(100, 0);
  await page.close();
});
