import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
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

/** A boat on its paper, in ink: two sails, a hull, a sun with a gap in its line. 180 by 140 mm at five dots a mm. */
const boat = (): Promise<Buffer> =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="700" viewBox="0 0 180 140"><rect width="180" height="140" fill="#f4f1ea"/><g fill="none" stroke="#1c1b20" stroke-width="2.2" stroke-linejoin="round"><path d="M20 110 Q90 132 160 110 L150 128 Q90 140 30 128 Z"/><path d="M84 102 Q40 92 34 84 Q60 62 84 22 Z"/><path d="M93 100 Q130 92 146 78 Q118 60 93 30 Z"/><circle cx="140" cy="30" r="14" stroke-dasharray="87.2 0.8" stroke-dashoffset="10"/></g></svg>`,
    ),
  )
    .png()
    .toBuffer();

/** Where a place of the piece, in mm, lies on the page when it is shown dot for dot. */
async function places(page: Page): Promise<(x: number, y: number) => [number, number]> {
  const { x, y, width, height } = await page.$eval("canvas[data-shown]", (c) =>
    c.getBoundingClientRect().toJSON(),
  );
  const scale = await page.evaluate(() => {
    const told = /1:([\d.]+)/.exec(document.body.innerText);
    return told ? 1 / Number(told[1]) : 1;
  });
  return (mx, my) => [x + width / 2 + (mx - 90) * 5 * scale, y + height / 2 + (my - 70) * 5 * scale];
}

test("a sketch is lifted off its paper, coloured by clicks and a drag, and transferred", async () => {
  const { page, id } = await benchOf(program, browser, await boat(), "Boat", [
    { stage: "size", widthMm: 180, dotsPerInch: 127 },
    { stage: "clear", ops: [{ op: "lift" }] },
    { stage: "colour", gapMm: 1.5, palette: ["#c8352e", "#2f5aa8", "#f2c84b", "#8a5a3a"] },
    { stage: "transfer" },
  ]);
  await press(page, "Colour");
  await settled(page);
  const at = await places(page);
  const pick = (colour: string) => page.click(`[aria-label="Palette"] [aria-label="${colour}"]`);
  const saved = (count: number) => savedAt(program, id, "colour", (s) => s.areas.length === count);
  await pick("#c8352e");
  // Over both sails.
  await page.mouse.move(...at(66, 70));
  await page.mouse.down();
  await page.mouse.move(...at(78, 72), { steps: 6 });
  await page.mouse.move(...at(110, 74), { steps: 12 });
  await page.mouse.up();
  const both = await saved(3);
  expect(both.areas.every((a) => a.colour === "#c8352e")).toBe(true);
  await settled(page);
  // The mast's room between the sails is taken back.
  await page.keyboard.down("Alt");
  await page.mouse.click(...at(88.5, 60));
  await page.keyboard.up("Alt");
  await saved(2);
  await settled(page);
  await pick("#2f5aa8");
  await page.mouse.click(...at(112, 76));
  const other = await savedAt(program, id, "colour", (s) => s.areas.some((a) => a.colour === "#2f5aa8"));
  // An area has one colour: the one before it is forgotten.
  expect(other.areas).toHaveLength(2);
  await pick("#f2c84b");
  await page.mouse.click(...at(140, 30));
  await saved(3);
  await pick("#8a5a3a");
  await page.mouse.click(...at(90, 125));
  await saved(4);
  const { files } = await handedOver(program, page, id);
  const { data, info } = await sharp(files["colour.png"]).raw().toBuffer({ resolveWithObject: true });
  const code = (x: number, y: number) =>
    Array.from(data.subarray(info.channels * (y * 5 * info.width + x * 5)).subarray(0, 4));
  const near = (a: readonly number[], b: readonly number[]) =>
    Math.max(...b.map((v, k) => Math.abs(a[k] - v)));
  expect(near(code(66, 70), [0xc8, 0x35, 0x2e, 255])).toBeLessThan(3);
  expect(near(code(112, 76), [0x2f, 0x5a, 0xa8, 255])).toBeLessThan(3);
  // The sun keeps its colour within the gap of its line.
  expect(near(code(140, 30), [0xf2, 0xc8, 0x4b, 255])).toBeLessThan(3);
  expect(near(code(90, 125), [0x8a, 0x5a, 0x3a, 255])).toBeLessThan(3);
  // The ground is bare, and so is the white under it.
  expect(code(10, 20)[3]).toBe(0);
  expect(code(88, 60)[3]).toBe(0);
  await page.close();
});

test("a colour whose area is gone is told, and forgotten with one press", async () => {
  const { page, id } = await benchOf(program, browser, await boat(), "Boat", [
    { stage: "size", widthMm: 180, dotsPerInch: 127 },
    { stage: "clear", ops: [{ op: "lift" }] },
    {
      stage: "colour",
      areas: [
        { at: [0.37, 0.5], colour: "#c8352e" },
        // In the middle of the mast side of a sail: a line.
        { at: [84 / 180, 60 / 140], colour: "#2f5aa8" },
      ],
    },
  ]);
  await page.waitForSelector("::-p-text(One colour is lost)", { timeout: 60000 });
  await press(page, "Forget them");
  const { areas } = await savedAt(program, id, "colour", (s) => s.areas.length === 1);
  expect(areas[0].colour).toBe("#c8352e");
  await page.close();
});
