import { type RouteView, type ThingView } from "@hardline/contract";
import { ARTWORKS, recolourPicture, thingPhotograph } from "@hardline/demo";
import { execFileSync } from "node:child_process";
import { rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { tmpdir } from "node:os";
import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
import { benchOf, handedOver, savedAt } from "./atBench";
import { openBrowser, press, settled, type } from "./browser";
import { ask, newDatabase, startProgram, type Program } from "./harness";

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

const pixelsOf = async (png: Buffer) => {
  const { data, info } = await sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
};
type Pixels = Awaited<ReturnType<typeof pixelsOf>>;
const codes = ({ data, width }: Pixels, x: number, y: number): number[] => {
  const o = 3 * (Math.floor(y) * width + Math.floor(x));
  return [data[o], data[o + 1], data[o + 2]];
};

/** A colour of a box of colours, chosen as a person does. */
const choose = (page: Page, label: string, colour: string) =>
  page.$eval(
    `input[aria-label="${label}"]`,
    (input, value) => {
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!.call(input, value);
      input.dispatchEvent(new Event("input", { bubbles: true }));
    },
    colour,
  );

/** Where the prints lie, as the table has them: mm right of the middle, mm below, degrees. */
const told = (page: Page): Promise<number[][]> =>
  page.$eval("[data-told]", (e) =>
    (e as HTMLElement).dataset.told!.split(" ").map((p) => p.split(",").map(Number)),
  );

/** The picture on the light table, in the page's pixels. */
async function onTable(page: Page, aspect: number) {
  const { x, y, width, height } = await page.$eval("canvas[data-shown]", (c) =>
    c.getBoundingClientRect().toJSON(),
  );
  // As large as fits, less its margins: as `geometry.ts` has it.
  const [w, h] = [width - 72, height - 36 - 52 - 24];
  const by = Math.min(w, h * aspect);
  return {
    x: x + width / 2 - by / 2,
    y: y + (height - 52 + 24) / 2 - by / aspect / 2,
    width: by,
    height: by / aspect,
  };
}

test("a shirt in three colours, with a print on the chest and one on the sleeve", async () => {
  const art = await ARTWORKS["sailing-week.svg"]();
  const { page, id } = await benchOf(program, browser, art, "Sailing week shirts", [
    { stage: "size", widthMm: 80, dotsPerInch: 150 },
    { stage: "transfer", garment: "#1a2340" },
  ]);
  await press(page, "Mock-up");
  await press(page, "Put it on");
  await page.waitForSelector("[data-told]");
  await settled(page);
  expect(await told(page)).toEqual([[0, 75, 0]]);

  // Dragged to the chest: it is drawn to where a print on the left chest usually lies.
  const [widthMm, heightMm] = await shirtSize(page);
  const on = await onTable(page, widthMm / heightMm);
  const perMm = on.width / widthMm;
  const collar = [on.x + on.width / 2, on.y + (45 + 98) * perMm];
  await page.mouse.move(collar[0], collar[1] + 115 * perMm);
  await page.mouse.down();
  await page.mouse.move(collar[0] + 60 * perMm, collar[1] + 110 * perMm, { steps: 4 });
  await page.mouse.move(collar[0] + 97 * perMm, collar[1] + 103 * perMm, { steps: 4 });
  await page.mouse.up();
  await savedAt(program, id, "mockUp", ({ prints }) => Array.isArray(prints[0].at) && prints[0].at[0] === 95);
  expect(await told(page)).toEqual([[95, 65, 0]]);

  await press(page, "Add a print");
  await page.locator('[aria-label="Place of the print"]').click();
  await page.locator("[role=option]::-p-text(left sleeve)").click();
  await savedAt(program, id, "mockUp", ({ prints }) => prints.length === 2 && prints[1].at === "left sleeve");

  await press(page, "Colourways");
  for (const [name, cloth] of [
    ["Sand", "#d9c7a0"],
    ["Moss", "#3f5138"],
  ]) {
    await press(page, "Add");
    const field = await page.waitForSelector('[aria-label="Name of the colourway"]');
    await field!.click({ count: 3 });
    await field!.type(name);
    await page.keyboard.press("Enter");
    await page.waitForSelector(`input[aria-label="Cloth of ${name}"]`);
    await choose(page, `Cloth of ${name}`, cloth);
  }
  await page.waitForFunction(() => document.body.innerText.includes("Mock-up, in Moss"));
  const { route } = await saved(
    id,
    (r) => r.route.colourways.length === 2 && r.route.colourways[1].garment === "#3f5138",
  );
  expect(route.colourways.map((w) => w.name)).toEqual(["Sand", "Moss"]);

  const { files } = await handedOver(program, page, id);
  const names = Object.keys(files);
  for (const name of [
    "mockup.png",
    "mockup-sand.png",
    "mockup-moss.pdf",
    "contact-sheet.png",
    "contact-sheet.pdf",
    "colour-sand.png",
    "transfer-moss.pdf",
  ])
    expect(names).toContain(name);
  const [plain, sand, moss] = await Promise.all(
    ["", "-sand", "-moss"].map((w) => pixelsOf(files[`mockup${w}.png`])),
  );
  const cloth = [plain.width * 0.5, plain.height * 0.8] as const;
  expect(Math.abs(codes(plain, ...cloth)[2] - 0x40)).toBeLessThan(14);
  expect(Math.abs(codes(sand, ...cloth)[0] - 0xd9)).toBeLessThan(20);
  expect(Math.abs(codes(moss, ...cloth)[1] - 0x51)).toBeLessThan(14);
  // The gold of the sun lies on the chest of all three: 95 mm right of the middle, 65 + 40 mm below the collar.
  const dots = plain.width / widthMm;
  for (const picture of [plain, sand, moss]) {
    const box = [93, 100].map((y) => [(widthMm / 2 + 95 - 12) * dots, (45 + 98 + y) * dots]);
    const gold = box.map(([x, y]) => codes(picture, x, y)).some(([r, g, b]) => r > 170 && g > 120 && b < 120);
    expect(gold).toBe(true);
  }
  const sheet = join(tmpdir(), `hard-line-sheet-${process.pid}.pdf`);
  await writeFile(sheet, files["job-sheet.pdf"]);
  const words = execFileSync("pdftotext", ["-layout", sheet, "-"], { encoding: "utf8" });
  await rm(sheet);
  expect(words).toContain("Where it sits");
  expect(words.replace(/\s+/g, " ")).toContain(
    "Front: 65 mm below the collar, its middle 95 mm right of the middle line.",
  );
}, 240000);

/** Room about the shirt of the usual size, and its own measures: half chest 260, sleeves, length. */
async function shirtSize(page: Page): Promise<[number, number]> {
  const { drawnThing } = await import("@hardline/core/mockUp/things");
  const { widthMm, heightMm } = drawnThing("t-shirt-front", "M");
  await settled(page);
  return [widthMm, heightMm];
}

async function saved(id: string, is: (view: RouteView) => boolean): Promise<RouteView> {
  for (let k = 0; ; k++) {
    const view = await ask<RouteView>(`${program.url}/api/routes/${id}`);
    if (is(view) || k === 100) return view;
    await new Promise((r) => setTimeout(r, 100));
  }
}

test("one's own photograph of a mug, set up by its two edges, and kept among the shop's things", async () => {
  const scene = thingPhotograph(1, 1);
  const file = join(tmpdir(), `hard-line-mug-${process.pid}.png`);
  const raw = { width: scene.bare.width, height: scene.bare.height, channels: 4 as const };
  await sharp(Buffer.from(scene.bare.data), { raw }).removeAlpha().png().toFile(file);
  const square = await sharp({ create: { width: 300, height: 300, channels: 3, background: "#1838b0" } })
    .png()
    .toBuffer();
  const { page, id } = await benchOf(program, browser, square, "Mugs for the tea room", [
    { stage: "size", widthMm: 30, dotsPerInch: 254 },
    { stage: "mockUp", widthPx: 1200 },
  ]);
  const input = await page.waitForSelector('input[aria-label="Photograph of a thing"]');
  await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
  await page.waitForFunction(() => document.body.innerText.includes("Drag the four corners"), {
    timeout: 30000,
  });
  await page.locator("[role=radio]::-p-text(round)").click();
  await page.waitForFunction(
    () => document.querySelector<HTMLElement>("[data-told]")?.dataset.told?.split(" ").length === 6,
  );
  await settled(page);
  const on = await onTable(page, raw.width / raw.height);
  const half = scene.widthMm / 2;
  const places = [
    ...[-half, 0, half].map((x) => scene.seen(x, 0)),
    ...[-half, 0, half].map((x) => scene.seen(x, scene.heightMm)),
  ];
  for (const [k, [x, y]] of places.entries()) {
    const [u, v] = (await told(page))[k];
    await page.mouse.move(on.x + u * on.width, on.y + v * on.height);
    await page.mouse.down();
    const to = [on.x + (x / raw.width) * on.width, on.y + (y / raw.height) * on.height] as const;
    await page.mouse.move(...to, { steps: 4 });
    await page.mouse.up();
  }
  await type(page, "Diameter", scene.diameterMm.toFixed(1));
  await type(page, "Below the upper edge", "35");
  const { thing } = await savedAt(
    program,
    id,
    "mockUp",
    ({ prints }) => Array.isArray(prints[0].at) && prints[0].at[1] === 35,
  );
  expect(thing).toMatchObject({ area: { kind: "round" } });
  await press(page, "Keep among the shop's things");
  await page.waitForSelector("button::-p-text(Kept among the shop's things)");
  const [kept] = await ask<ThingView[]>(`${program.url}/api/things`);
  expect(kept.thing).toEqual(thing);

  const { files } = await handedOver(program, page, id);
  const picture = await pixelsOf(files["mockup.png"]);
  expect([picture.width, picture.height]).toEqual([1200, 900]);
  // Where the corners of 30 by 30 mm, 35 mm below the edge, lie on the mug that was rendered: placed by hand, within 3 px.
  const isBlue = (x: number, y: number): boolean => {
    const [r, g, b] = codes(picture, x, y);
    return b > r + 25 && b > g + 10;
  };
  for (const [x, y, inwards] of [
    [-15, 50, 1],
    [15, 50, -1],
  ]) {
    const [u, v] = scene.seen(x, y);
    expect([isBlue(u + 3 * inwards, v), isBlue(u - 3 * inwards, v)]).toEqual([true, false]);
  }
  for (const [y, inwards] of [
    [35, 1],
    [65, -1],
  ]) {
    const [u, v] = scene.seen(0, y);
    expect([isBlue(u, v + 3 * inwards), isBlue(u, v - 3 * inwards)]).toEqual([true, false]);
  }
  await rm(file);
}, 240000);

test("an embroidery picture in four hues on a garment", async () => {
  const { picture, cover } = recolourPicture(0);
  const raw = { width: picture.width, height: picture.height, channels: 4 as const };
  const art = await sharp(Buffer.from(picture.data), { raw }).png().toBuffer();
  const { page, id } = await benchOf(program, browser, art, "Embroidered badge", [
    { stage: "size", widthMm: 84, dotsPerInch: 127 },
    { stage: "transfer", garment: "#f1eee6", inks: "opaque" },
    { stage: "mockUp", thing: "tote-bag", colour: "own" },
  ]);
  await press(page, "Transfer");
  await settled(page);
  await press(page, "Colourways");
  await press(page, "Add");
  await press(page, "Pick a colour");
  // On the bag: the middle of the largest stretch of the part, taken through the mock-up.
  const row = longest(cover, picture.width);
  const { drawnThing } = await import("@hardline/core/mockUp/things");
  const bag = drawnThing("tote-bag", "");
  await settled(page);
  const on = await onTable(page, bag.widthMm / bag.heightMm);
  const [ox, oy] = bag.areas[0].surfaces[0].seen(0, bag.places[0].at[1])!;
  const perMm = on.width / bag.widthMm;
  const [xMm, yMm] = [row.x / 5, row.y / 5];
  await page.mouse.click(on.x + (ox - 42 + xMm) * perMm, on.y + (oy + yMm) * perMm);
  const picked = await saved(id, (r) => (r.route.colourways[0]?.recolour.length ?? 0) === 1);
  const [change] = picked.route.colourways[0].recolour;
  const o = 4 * (row.y * picture.width + row.x);
  const own = parseInt(change.from.slice(1), 16);
  for (const [c, shift] of [16, 8, 0].entries())
    expect(Math.abs(((own >> shift) & 255) - picture.data[o + c])).toBeLessThan(60);

  await type(page, "How many hues", "3");
  await press(page, "Make");
  await saved(id, (r) => r.route.colourways.length === 4);
  await press(page, "Side by side");
  await page.waitForFunction(() => document.querySelectorAll("figure canvas").length === 5);
  await page.keyboard.press("Escape");
  const { files } = await handedOver(program, page, id);
  const base = await sharp(files["colour.png"]).ensureAlpha().raw().toBuffer();
  for (const degrees of [90, 180, 270]) {
    expect(files[`mockup-hue-${degrees}.png`]).toBeDefined();
    const turned = await sharp(files[`colour-hue-${degrees}.png`]).ensureAlpha().raw().toBuffer();
    let [outside, inside, same] = [0, 0, 0];
    for (let i = 0; i < cover.length; i++) {
      const changed = [0, 1, 2].some((c) => turned[4 * i + c] !== base[4 * i + c]);
      if (cover[i] === 0 && changed) outside++;
      if (cover[i] === 255) {
        inside++;
        same += +!changed;
      }
    }
    expect(outside).toBeLessThanOrEqual(8);
    expect(same / inside).toBeLessThan(0.02);
  }
}, 240000);

/** The middle of the longest stretch of a row that is all part. */
function longest(cover: Uint8Array, width: number): { x: number; y: number } {
  let [best, at] = [0, { x: 0, y: 0 }];
  for (let y = 10; y < cover.length / width - 10; y++)
    for (let x = 0, run = 0; x < width; x++) {
      run =
        cover[y * width + x] === 255 &&
        cover[(y - 6) * width + x] === 255 &&
        cover[(y + 6) * width + x] === 255
          ? run + 1
          : 0;
      if (run > best) [best, at] = [run, { x: x - Math.floor(run / 2), y }];
    }
  return at;
}
