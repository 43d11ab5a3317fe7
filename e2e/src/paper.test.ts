import { readSvgDrawing } from "@hardline/core/drawing/readSvg";
import { ringsOf } from "@hardline/core/path/flatten";
import { ringArea } from "@hardline/core/polygon/rings";
import { paperPhotograph } from "@hardline/demo";
import sharp from "sharp";
import { type Browser, type Page } from "puppeteer-core";
import { benchOf, handedOver, savedAt } from "./atBench";
import { openBrowser, press, settled } from "./browser";
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

/** The places of the handles, in fractions of the photograph, once there are some. */
async function handles(page: Page): Promise<[number, number][]> {
  await page.waitForSelector('[data-told*=","]', { timeout: 30000 });
  const told = await page.$eval("[data-told]", (e) => (e as HTMLElement).dataset.told!);
  return told.split(" ").map((place) => place.split(",").map(Number) as [number, number]);
}

/** Where a place of the photograph lies on the page while its corners are placed. */
async function onPage(page: Page, [u, v]: readonly [number, number], width: number, height: number) {
  const table = (await (await page.$("[data-told]"))!.boundingBox())!;
  const zoom = Math.min((table.width - 72) / width, (table.height - 128) / height);
  const left = Math.round((table.width - width * zoom) / 2);
  const top = Math.round(52 + (table.height - 128 - height * zoom) / 2);
  return [table.x + left + u * width * zoom, table.y + top + v * height * zoom] as const;
}

test("a card photographed askew on a carpet becomes a traced logo of its true shape and place", async () => {
  const photo = await paperPhotograph(7);
  const { width, height, data } = photo.picture;
  const jpeg = await sharp(data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .jpeg({ quality: 92 })
    .toBuffer();
  const { page, id } = await benchOf(program, browser, jpeg, "card.jpg", [
    { stage: "size", widthMm: 85, dotsPerInch: 300 },
    { stage: "trace" },
  ]);
  await press(page, "Size");
  await press(page, "Make a paper flat");
  const found = await handles(page);
  found.forEach(([u, v], k) => {
    expect(Math.hypot(u * width - photo.corners[k][0], v * height - photo.corners[k][1])).toBeLessThan(2);
  });

  await savedAt(program, id, "size", (s) => s.paper !== undefined);
  // One corner is dragged away and back: it is taken by the hand, and seen under the magnifier.
  const [x, y] = await onPage(page, found[1], width, height);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 40, y - 30, { steps: 4 });
  await page.mouse.up();
  const { paper: dragged } = await savedAt(
    program,
    id,
    "size",
    (s) => (s.paper?.corners[1][0] ?? 0) > found[1][0] + 0.02,
  );
  expect(dragged!.corners[1][0]).toBeGreaterThan(found[1][0] + 0.02);
  expect(dragged!.corners[0]).toEqual(found[0].map((v) => expect.closeTo(v, 3)));
  await press(page, "Undo");
  await savedAt(program, id, "size", (s) => Math.abs((s.paper?.corners[1][0] ?? 0) - found[1][0]) < 1e-3);

  await press(page, "Take that"); // 85 by 55, as its corners nearly say
  await page.keyboard.press("Enter");
  await page.locator("label::-p-text(even on the paper)").click();
  const { paper } = await savedAt(
    program,
    id,
    "size",
    (s) => s.paper?.light === true && s.paper.proportion !== undefined,
  );
  expect(paper!.proportion).toBeCloseTo(85 / 55, 6);
  await settled(page);

  const { sets, widthMm, heightMm } = readSvgDrawing(
    (await handedOver(program, page, id)).files["trace.svg"].toString(),
  );
  expect([widthMm, heightMm]).toEqual([expect.closeTo(85, 0), expect.closeTo(55, 0)]);
  // The disc of the logo, drawn with 14.3 mm at 71.4, 39.6 of the card.
  const discs = sets
    .flatMap((set) => ringsOf(set, 0.01))
    .map((ring) => {
      const xs = ring.filter((_, k) => k % 2 === 0);
      const ys = ring.filter((_, k) => k % 2 === 1);
      const [left, right, top, foot] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
      return {
        wide: right - left,
        high: foot - top,
        x: (left + right) / 2,
        y: (top + foot) / 2,
        area: Math.abs(ringArea(ring)),
      };
    })
    .filter((disc) => disc.wide > 12 && disc.wide < 17 && Math.abs(disc.wide - disc.high) < 2);
  expect(discs).toHaveLength(1);
  const [disc] = discs;
  expect(Math.abs(disc.wide - 14.3)).toBeLessThan(0.3);
  expect(Math.abs(disc.wide - disc.high)).toBeLessThan(0.2);
  expect(Math.hypot(disc.x - 71.4, disc.y - 39.6)).toBeLessThan(0.3);
  expect(disc.area).toBeCloseTo(Math.PI * 7.15 ** 2, -1);
  await page.close();
});

test("where no paper stands out corners are placed by hand, by keys too, and it is left as photographed again", async () => {
  const plain = await sharp({ create: { width: 400, height: 300, channels: 3, background: "#808080" } })
    .png()
    .toBuffer();
  const { page, id } = await benchOf(program, browser, plain, "grey.png", [{ stage: "size", widthMm: 40 }]);
  await press(page, "Size");
  await page.keyboard.press("p");
  await page.waitForSelector("::-p-text(No paper stands out here)", { timeout: 20000 });
  const { paper } = await savedAt(program, id, "size", (s) => s.paper !== undefined);
  expect(paper!.corners[0]).toEqual([0.1, 0.1]);
  await page.locator("[role=application]").click();
  await page.keyboard.press("n"); // the second corner
  await page.keyboard.down("Shift");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.up("Shift");
  const moved = await savedAt(program, id, "size", (s) => s.paper!.corners[1][1] < 0.1);
  expect(moved.paper!.corners[0]).toEqual([0.1, 0.1]);
  await press(page, "curled");
  const { paper: curled } = await savedAt(program, id, "size", (s) => s.paper?.curled !== undefined);
  expect(curled!.curled!.top[0][0]).toBeCloseTo(0.1 + 0.8 / 3, 2);
  await page.locator('button[aria-label="As photographed"]').click();
  expect((await savedAt(program, id, "size", (s) => s.paper === undefined)).paper).toBeUndefined();

  // Undone while its corners are placed, it stays so, and the tool is put down.
  await press(page, "Make a paper flat");
  await savedAt(program, id, "size", (s) => s.paper !== undefined);
  await press(page, "Undo");
  await page.waitForSelector("button::-p-text(Make a paper flat)");
  await page.evaluate(() => new Promise((r) => setTimeout(r, 2000)));
  expect((await savedAt(program, id, "size", (s) => s.paper === undefined)).paper).toBeUndefined();
  await page.close();
});
