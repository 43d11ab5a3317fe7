import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
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

/** A red ring of 30 mm, a gold disc in it, and a blue bar under them, on nothing: ten pixels a millimetre. */
const EMBLEM = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="500"><circle cx="200" cy="180" r="150" fill="#c8102e"/><circle cx="200" cy="180" r="80" fill="#f2c230"/><rect x="60" y="380" width="280" height="60" fill="#3f8fd0"/></svg>`;
const emblem = () => sharp(Buffer.from(EMBLEM)).png().toBuffer();

/** A colour field has no keys: it is given its value as its own dialog would. */
const choose = (page: Page, label: string, colour: string): Promise<void> =>
  page.$eval(
    `input[aria-label="${label}"]`,
    (element, value) => {
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!;
      set.call(element, value);
      element.dispatchEvent(new Event("input", { bubbles: true }));
    },
    colour,
  );

const says = (page: Page, words: string) =>
  page.waitForFunction((w) => document.body.innerText.includes(w), { timeout: 30000 }, words);

/** Which dots of a film are ink, and its width. */
async function inkOf(file: Buffer) {
  const { data, info } = await sharp(file).toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, at: (x: number, y: number) => data[y * info.width + x] === 0 };
}

test("a three-ink emblem for navy: white peeks out, is choked until its check is fine, and the films are as seen", async () => {
  const { page, id } = await benchOf(program, browser, await emblem(), "emblem.png", [
    { stage: "size", widthMm: 40, dotsPerInch: 254 },
  ]);
  await press(page, "Films");
  await press(page, "Put it on");
  await settled(page);
  await choose(page, "Colour of the garment", "#1a2340");
  await savedAt(program, id, "films", (s) => s.garment === "#1a2340");
  await says(page, "3 flat colours hold");
  await settled(page);
  await press(page, "White under");
  await savedAt(program, id, "films", (s) => Array.isArray(s.inks) && s.inks.length === 4);
  await settled(page);
  await page.locator('ol[aria-label="Inks in print order"] button[aria-expanded]::-p-text(white)').click();
  await type(page, "Choke, typed", "0");
  await savedAt(program, id, "films", (s) => Array.isArray(s.inks) && s.inks[0].spreadMm === 0);
  await says(page, "White will peek out");
  await type(page, "Choke, typed", "0.4");
  const { inks } = await savedAt(
    program,
    id,
    "films",
    (s) => Array.isArray(s.inks) && s.inks[0].spreadMm === -0.4,
  );
  await says(page, "White stays covered");
  // Red and gold meet without a trap; one press lays it.
  await press(page, "Trap by 0.25 mm");
  await savedAt(program, id, "films", (s) => s.trapMm === 0.25);
  await settled(page);
  // One plate is hidden by its key, and all are back by another.
  const pressed = () =>
    page.$$eval('ol[aria-label="Inks in print order"] button[aria-label$="is shown"]', (all) =>
      all.map((b) => b.getAttribute("aria-pressed")).slice(0, 4),
    );
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press("2");
  await page.waitForSelector(
    'ol[aria-label="Inks in print order"] button[aria-label$="is shown"][aria-pressed="false"]',
  );
  expect((await pressed()).filter((p) => p === "false")).toHaveLength(1);
  await page.keyboard.press("0");
  await page.waitForFunction(
    () =>
      !document.querySelector(
        'ol[aria-label="Inks in print order"] button[aria-label$="is shown"][aria-pressed="false"]',
      ),
  );

  const { files, dots } = await handedOver(program, page, id);
  const names = (inks as readonly { name: string }[]).map((i) => i.name);
  expect(names).toEqual(expect.arrayContaining(["white", "red", "yellow", "blue"]));
  expect(Object.keys(files)).toEqual(
    expect.arrayContaining([...names.map((n) => `film-${n}.tif`), "films.pdf", "proof.png", "job-sheet.pdf"]),
  );
  // What was seen is what was sent.
  await says(page, "Same dots as on the light table");
  expect(dots).toMatch(/^[0-9a-f]{16,64}$/);
  const [white, red, yellow, blue] = await Promise.all(
    ["white", "red", "yellow", "blue"].map((n) => inkOf(files[`film-${n}.png`])),
  );
  const first = (of: typeof white, y: number) => {
    let x = 0;
    while (x < of.width && !of.at(x, y)) x++;
    return x;
  };
  expect(first(red, 180)).toBe(50);
  expect(first(white, 180)).toBe(54); // four dots of a tenth of a millimetre in
  expect(first(blue, 410)).toBe(60);
  expect(first(white, 410)).toBe(64);
  // Gold, the lighter, reaches a quarter of a millimetre under the red, which stays.
  expect(first(yellow, 180)).toBeLessThanOrEqual(118);
  expect(first(yellow, 180)).toBeGreaterThanOrEqual(117);
  expect(red.at(118, 180)).toBe(true);
  expect(red.at(122, 180)).toBe(false);
  for (let y = 0; y < 500; y += 3)
    for (let x = 0; x < 400; x += 3)
      if (white.at(x, y)) expect(red.at(x, y) || yellow.at(x, y) || blue.at(x, y)).toBe(true);
  const proof = await sharp(files["proof.png"]).removeAlpha().raw().toBuffer();
  expect(Array.from(proof.subarray(0, 3))).toEqual([0x1a, 0x23, 0x40]);
  expect(Array.from(proof.subarray(3 * (180 * 400 + 200), 3 * (180 * 400 + 200) + 3))).toEqual([
    0xf2, 0xc2, 0x30,
  ]);
});

test("a transfer's saturation is spread into a strip and one is kept; its white is seen and handed over", async () => {
  const { page, id } = await benchOf(program, browser, await emblem(), "emblem.png", [
    { stage: "size", widthMm: 40, dotsPerInch: 254 },
    { stage: "transfer", garment: "#1a2340" },
  ]);
  await page.focus('[aria-label="Saturation, typed"]');
  await page.keyboard.press("Tab");
  await page.hover('[data-setting="saturation"]');
  await page.click('[aria-label="Saturation as a test strip"]');
  await page.waitForSelector('[aria-label="Test strip"], [class*="strip"]');
  await settled(page);
  await page.keyboard.press("1");
  const { saturation } = await savedAt(program, id, "transfer", (s) => s.saturation !== 1);
  expect(saturation).not.toBe(1);
  const { files } = await handedOver(program, page, id);
  const { data, info } = await sharp(files["white.png"])
    .toColourspace("b-w")
    .raw()
    .toBuffer({ resolveWithObject: true });
  const row = Array.from(data.subarray(180 * info.width, 181 * info.width));
  expect(row.slice(49, 54)).toEqual([0, 0, 128, 255, 255]); // the disc begins at 50, and is pulled in by a dot and a half
});
