import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";

const ROOT = join(__dirname, "../../..");
const EXAMPLES = join(ROOT, "docs/examples");
let folder: string;

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "hard-line-machines-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A command of the built command line. */
const run = (command: "main" | "sheet" | "burn", ...args: string[]) =>
  spawnSync(process.execPath, [join(ROOT, `apps/cli/dist/${command}.js`), ...args], { encoding: "utf8" });
const json = (...path: string[]) => JSON.parse(readFileSync(join(folder, ...path), "utf8"));
const dots = (file: string) => sharp(file).toColourspace("b-w").raw().toBuffer();

test("an example sheet of engraved tags: placed, cut and dotted as its readings say", async () => {
  const out = join(folder, "tags");
  expect(run("sheet", join(EXAMPLES, "tags.sheet.json"), "--out", out).stderr).toBe("");
  expect(readdirSync(out).sort()).toEqual([
    "readings.json",
    "sheet-1.bitmap.png",
    "sheet-1.cut.dxf",
    "sheet-1.cut.pdf",
    "sheet-1.cut.plt",
    "sheet-1.cut.svg",
  ]);
  const { placements, sheets, pieces, checks } = json("tags", "readings.json");
  expect([placements.length, sheets, pieces[0].placed, pieces[0].left]).toEqual([24, 1, 24, 0]);
  expect(checks.filter((c: { level: string }) => c.level === "stop")).toEqual([]);
  // Every copy's middle is dotted: the tag is dark there, or has its pale wave within a millimetre.
  const bitmap = join(out, "sheet-1.bitmap.png");
  const { width } = await sharp(bitmap).metadata();
  expect(width).toBe(3000);
  const data = await dots(bitmap);
  for (const { xMm, yMm } of placements) {
    let marked = 0;
    for (let y = -20; y <= 20; y++)
      for (let x = -20; x <= 20; x++)
        marked += +(data[(Math.round(yMm * 10) + y) * width! + Math.round(xMm * 10) + x] === 0);
    expect(marked).toBeGreaterThan(400);
  }
  // Lines drawn by another program: as many closed paths as tags and their holes.
  expect(readFileSync(join(out, "sheet-1.cut.svg"), "utf8").match(/Z/g)).toHaveLength(48);
});

test("an example sheet that is printed and then cut: a page of exactly its size, with marks where they are said to be", async () => {
  const out = join(folder, "stickers");
  expect(run("sheet", join(EXAMPLES, "stickers.sheet.json"), "--out", out).stderr).toBe("");
  const png = execFileSync("pdftoppm", ["-r", "254", "-png", join(out, "sheet-1.pdf")], {
    maxBuffer: 1 << 28,
  });
  const { data, info } = await sharp(png).greyscale().raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([2100, 2970]);
  for (const [x, y] of [
    [10, 10],
    [200, 10],
    [10, 287],
    [200, 287],
  ]) {
    expect(data[y * 10 * info.width + x * 10]).toBeLessThan(20);
    expect(data[y * 10 * info.width + (x + 3) * 10]).toBeGreaterThan(235);
  }
  const { placements, checks } = json("stickers", "readings.json");
  expect(placements).toHaveLength(12);
  expect(checks.find((c: { id: string }) => c.id === "sheetMarks").level).toBe("fine");
  for (const { xMm, yMm, turnDegrees } of placements) {
    expect([0, 180]).toContain(turnDegrees);
    expect(data[Math.round(yMm * 10) * info.width + Math.round(xMm * 10)]).toBeLessThan(250);
  }
});

test("an example burned on the simulated laser: time within 2 %, and the route's own bitmap dot for dot", async () => {
  const [route, art] = [join(EXAMPLES, "tag.route.json"), join(EXAMPLES, "tag.svg")];
  const [burn, plain] = [join(folder, "burn"), join(folder, "plain")];
  expect(run("burn", route, art, "--machine", "bed-laser", "--out", burn).stderr).toBe("");
  expect(run("main", route, art, "--out", plain).stderr).toBe("");
  const { seconds, passes } = json("burn", "burn.json");
  expect(Math.abs(seconds.estimated / seconds.simulated - 1)).toBeLessThan(0.02);
  expect(passes.map((p: { use: string }) => p.use)).toEqual(["bitmap", "through"]);
  expect((await dots(join(burn, "burned.png"))).equals(await dots(join(plain, "bitmap.png")))).toBe(true);
});

test("mistakes are one line, and nothing is written", () => {
  const out = join(folder, "none");
  const sheet = join(folder, "bad.sheet.json");
  writeFileSync(
    sheet,
    JSON.stringify({
      format: "hard-line-sheet",
      version: 1,
      stock: { widthMm: 9, heightMm: 200 },
      pieces: [{ route: "a", artwork: "b" }],
    }),
  );
  const bad = run("sheet", sheet, "--out", out);
  expect([bad.status, bad.stderr]).toEqual([2, "sheet: stock.widthMm is 9; allowed: 20 or more\n"]);
  const loom = run(
    "burn",
    join(EXAMPLES, "tag.route.json"),
    join(EXAMPLES, "tag.svg"),
    "--machine",
    "loom",
    "--out",
    out,
  );
  expect([loom.status, loom.stderr]).toEqual([
    2,
    'machine: is "loom"; allowed: bed-laser, knife-cutter, film-printer, or a file\n',
  ]);
  expect(run("burn", "--out", out).stderr).toMatch(/^usage: npm run -s burn/);
  expect(readdirSync(folder)).not.toContain("none");
});
