import { execFileSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { unzipSync } from "fflate";
import { type Browser, type Page } from "puppeteer-core";
import sharp from "sharp";
import { openBrowser, openPage, press, settled } from "./browser";
import { copyOfProject, follow, instructionsOf } from "./followTheManual";
import { ask, newDatabase, ROOT, startProgram, type Program } from "./harness";

/*
 * docs/architecture.md says how a stage is added. Here that is done, to the letter, in a copy of the project: one stage
 * that gives a path and one that gives two plates. Both are then run, inspected, looked at and handed over, by parts of
 * the product that were written before them and do not know them.
 */
const INSET = 3;
const STAGES = [
  { stage: "size", widthMm: 40, dotsPerInch: 254 },
  { stage: "twoTones", dark: 70, middle: 170 },
  { stage: "frameLine", insetMm: INSET },
];
let copy: string;
let picture: Buffer;
let program: Program;
let browser: Browser;
let close: () => Promise<void>;

beforeAll(async () => {
  copy = copyOfProject();
  const manual = readFileSync(join(ROOT, "docs/architecture.md"), "utf8");
  const instructions = instructionsOf(manual, "How to add a stage");
  expect(instructions.filter((i) => i.kind === "file")).toHaveLength(6);
  for (const instruction of instructions) follow(copy, instruction);
  const run = (...command: string[]) =>
    execFileSync(process.execPath, command, { cwd: copy, stdio: ["ignore", "ignore", "inherit"] });
  for (const made of ["tile", "letters"]) run(`scripts/${made}.mjs`); // as installing does
  run("node_modules/typescript/bin/tsc", "-b", "--pretty", "false", "packages/core", "apps/web");
  run(
    "node_modules/eslint/bin/eslint.js",
    "--max-warnings",
    "0",
    "packages/core/src/stage",
    "apps/web/src/stages",
  );
  run("scripts/build.mjs");
  // Three bands: dark, middle, pale.
  const raw = Buffer.from(Array.from({ length: 400 * 300 }, (_, i) => [20, 120, 230][Math.floor(i / 40000)]));
  picture = await sharp(raw, { raw: { width: 400, height: 300, channels: 1 } })
    .png()
    .toBuffer();
  program = await startProgram(await newDatabase(), [], {}, copy);
  ({ browser, close } = await openBrowser());
}, 240000);

afterAll(async () => {
  await close?.();
  await program?.stop();
  rmSync(copy, { recursive: true, force: true });
});

const isMark = async (file: Uint8Array, x: number, y: number): Promise<boolean> => {
  const { data, info } = await sharp(file).toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });
  return data[y * info.width + x] === 0;
};

test("the command line runs them, inspects them and writes their files", async () => {
  const out = join(copy, ".local/out");
  mkdirSync(join(copy, ".local"), { recursive: true });
  const route = { format: "hard-line-route", version: 1, name: "Both", stages: STAGES };
  writeFileSync(join(copy, ".local/both.route.json"), JSON.stringify(route));
  writeFileSync(join(copy, ".local/bands.png"), picture);
  const command = ["apps/cli/dist/main.js", ".local/both.route.json", ".local/bands.png", "--out", out];
  execFileSync(process.execPath, command, { cwd: copy });
  const readings = JSON.parse(readFileSync(join(out, "readings.json"), "utf8"));
  expect(readings.stages.map((s: { stage: string }) => s.stage)).toEqual([
    "artwork",
    "size",
    "twoTones",
    "frameLine",
  ]);
  expect(readings.stages[3].lengthMm).toBeCloseTo(2 * (40 - 2 * INSET + 30 - 2 * INSET), 9);
  expect(readings.checks.find((c: { id: string }) => c.id === "frameInset")).toMatchObject({
    level: "fine",
    value: INSET,
  });
  const file = (name: string) => readFileSync(join(out, name));
  const rows = [50, 150, 250];
  const marked = (name: string) => Promise.all(rows.map((y) => isMark(file(name), 200, y)));
  expect(await marked("plate-dark.png")).toEqual([true, false, false]);
  expect(await marked("plate-middle.png")).toEqual([true, true, false]);
  expect(file("frame.svg").toString()).toContain('width="40mm" height="30mm" viewBox="0 0 40 30"');
  const drawn = await sharp(file("frame.svg"), { density: 300 }).resize(400, 300).png().toBuffer();
  const { data, info } = await sharp(drawn).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const alpha = (x: number, y: number) => data[(y * info.width + x) * 4 + 3];
  expect([alpha(200, 10 * INSET), alpha(10 * INSET, 150), alpha(200, 150)].map((a) => a > 60)).toEqual([
    true,
    true,
    false,
  ]);
  const wrong = { ...route, stages: [{ stage: "frameLine", insetMm: -1 }] };
  writeFileSync(join(copy, ".local/both.route.json"), JSON.stringify(wrong));
  expect(() => execFileSync(process.execPath, command, { cwd: copy, stdio: "pipe" })).toThrow(
    /frameLine: insetMm is -1; allowed: 0 or more/,
  );
});

/** Colours of the light table's canvas about a point of the finished piece, in mm; the point's own first. */
const coloursAt = (page: Page, xMm: number, yMm: number): Promise<number[][]> =>
  page.evaluate(
    (x, y) => {
      const canvas = document.querySelector<HTMLCanvasElement>("canvas[data-shown]")!;
      const pen = canvas.getContext("2d")!;
      const { data, width, height } = pen.getImageData(0, 0, canvas.width, canvas.height);
      // The piece is what differs from the empty table, which is clear.
      const shown = (i: number) => data[i * 4 + 3] === 255;
      let [left, right, top, foot] = [width, 0, height, 0];
      for (let v = 0; v < height; v++)
        for (let u = 0; u < width; u++) {
          if (!shown(v * width + u)) continue;
          [left, right] = [Math.min(left, u), Math.max(right, u)];
          [top, foot] = [Math.min(top, v), Math.max(foot, v)];
        }
      const u = Math.round(left + (x / 40) * (right + 1 - left));
      const v = Math.round(top + (y / 30) * (foot + 1 - top));
      const at = (row: number) => Array.from(data.subarray((row * width + u) * 4, (row * width + u) * 4 + 3));
      return [at(v), at(v - 1), at(v + 1)];
    },
    xMm,
    yMm,
  );
const colourAt = async (page: Page, xMm: number, yMm: number): Promise<number[]> =>
  (await coloursAt(page, xMm, yMm))[0];
/** A picture is drawn when it has been painted elsewhere: waits for it. */
async function comesToBe(page: Page, xMm: number, yMm: number, colour: readonly number[]): Promise<void> {
  for (let k = 0; k < 50 && `${await colourAt(page, xMm, yMm)}` !== `${colour}`; k++)
    await new Promise((r) => setTimeout(r, 100));
  expect(await colourAt(page, xMm, yMm)).toEqual(colour);
}
/** Whether a level line of a path lies there: it is thinner than two pixels, and may lie between them. */
const isLine = async (page: Page, xMm: number, yMm: number): Promise<boolean> =>
  (await coloursAt(page, xMm, yMm)).some(
    (c) =>
      Math.hypot(...c.map((v, k) => v - LINE[k])) < 0.5 * Math.hypot(...WHITE.map((v, k) => v - LINE[k])),
  );
const [DARK, MIDDLE, LINE, WHITE] = [
  [0x1b, 0x2f, 0x5a],
  [0x7f, 0x9c, 0xc9],
  [0x1f, 0x45, 0xc4],
  [255, 255, 255],
];

test("the bench shows both, says what was decided and found, and hands them over", async () => {
  const response = await fetch(`${program.url}/api/artworks?name=bands.png`, {
    method: "POST",
    body: picture as Uint8Array<ArrayBuffer>,
  });
  const artwork = (await response.json()) as { id: string };
  const ticket = await ask<{ id: string; routes: { id: string }[] }>(`${program.url}/api/tickets`, "POST", {
    artworkId: artwork.id,
    piece: "Bands",
  });
  const [{ id }] = ticket.routes;
  const route = { format: "hard-line-route", version: 1, name: "Both", stages: STAGES };
  await ask(`${program.url}/api/routes/${id}`, "PUT", { version: 1, route });
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 60000 });
  await settled(page);
  const docket = () => page.$eval('[aria-label="Docket"]', (d) => d.textContent!);
  expect(await docket()).toContain("dark under 70, middle under 170");
  expect(await docket()).toContain("3 mm in from the edge");
  expect(await docket()).toContain("two plates, frame line, readings, job sheet");
  const column = await page.$eval('[aria-label="Checks and readings"]', (c) => c.textContent!);
  expect(column).toContain("Frame line is clear of the edge");
  expect(column).toContain("Frame length116.0 mm");

  // The last stage is open: its path lies over the plates.
  expect(await isLine(page, 20, INSET)).toBe(true);
  expect(await colourAt(page, 20, 5)).toEqual(DARK);
  expect(await colourAt(page, 20, 15)).toEqual(MIDDLE);
  expect(await colourAt(page, 20, 25)).toEqual(WHITE);
  await page.locator('[aria-label="Shown"] button::-p-text(frame)').click();
  await comesToBe(page, 20, INSET, DARK);
  await page.locator('[aria-label="Shown"] button::-p-text(frame)').click();

  // A moved setting moves the line, and leaves the plates alone.
  await press(page, "Frame line");
  await page.locator('[aria-label="In from the edge, typed"]').fill("6");
  await page.keyboard.press("Tab");
  await settled(page);
  await comesToBe(page, 20, INSET, DARK);
  expect(await isLine(page, 20, 6)).toBe(true);

  await press(page, "Two tones");
  await settled(page);
  await comesToBe(page, 20, 6, DARK); // no path over its own picture
  await page.locator('[aria-label="Shown"] button::-p-text(dark)').click();
  await comesToBe(page, 20, 5, MIDDLE);

  await press(page, "Hand over files");
  await page.waitForSelector("a::-p-text(All as zip)", { timeout: 60000 });
  expect(await docket()).toContain("Same dots as on the light table");
  const url = await page.$eval("a[href$='/zip']", (a) => (a as HTMLAnchorElement).href);
  const zip = unzipSync(new Uint8Array(await (await fetch(url)).arrayBuffer()));
  const named = (end: string) => Object.entries(zip).find(([name]) => name.endsWith(end))?.[1];
  expect(await isMark(named("-plate-dark.png")!, 200, 50)).toBe(true);
  expect(Buffer.from(named("-frame.svg")!).toString()).toContain("M6 6L34 6");
  const sheet = join(copy, ".local/sheet.pdf");
  writeFileSync(sheet, named("-job-sheet.pdf")!);
  const words = execFileSync("pdftotext", ["-layout", sheet, "-"], { encoding: "utf8" });
  expect(words).toMatch(/Two tones\s+dark under 70, middle under 170/);
  expect(words).toMatch(/Frame line\s+6 mm in from the edge/);
  await page.close();
});
