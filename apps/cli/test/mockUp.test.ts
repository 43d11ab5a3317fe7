import { ARTWORKS, thingPhotograph } from "@hardline/demo";
import { execFileSync, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";

const ROOT = join(__dirname, "../../..");
const MAIN = join(ROOT, "apps/cli/dist/main.js");
const EXAMPLES = join(ROOT, "docs/examples");
let folder: string;

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "hard-line-mockups-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const run = (out: string, ...given: string[]) =>
  spawnSync(process.execPath, [MAIN, ...given, "--out", join(folder, out)], { encoding: "utf8" });

test("the example of a shirt: three colours, two places, and a sheet to choose from; another program reads its pages", async () => {
  const artwork = join(folder, "sailing-week.svg");
  writeFileSync(artwork, await ARTWORKS["sailing-week.svg"]());
  const { status, stderr } = run("shirt", join(EXAMPLES, "shirt-mockup.route.json"), artwork);
  expect([stderr, status]).toEqual(["", 0]);
  const out = join(folder, "shirt");
  const names = readdirSync(out);
  for (const way of ["", "-moss", "-sand"])
    for (const name of [`mockup${way}.png`, `mockup${way}.pdf`, `colour${way}.png`, `transfer${way}.pdf`])
      expect(names).toContain(name);
  expect(names).toContain("contact-sheet.png");
  // The page of the mock-up says where both sit; its words are shapes, so it is looked at as a picture.
  const pages = execFileSync("pdfinfo", [join(out, "contact-sheet.pdf")], { encoding: "utf8" });
  expect(pages).toMatch(/Pages:\s+1/);
  const pictures = execFileSync("pdfimages", ["-list", join(out, "contact-sheet.pdf")], { encoding: "utf8" });
  // A shirt in two sizes and a bag, each in three colourways.
  expect(pictures.split("\n").filter((line) => /\brgb\b/.test(line))).toHaveLength(9);
  // Recoloured: the gold of the sun, 240 182 58, is teal in Sand, and the transparency is the same.
  const read = (name: string) => sharp(join(out, name)).ensureAlpha().raw().toBuffer();
  const [own, sand] = [await read("colour.png"), await read("colour-sand.png")];
  let gold = 0;
  for (let o = 0; o < own.length; o += 4) {
    if (
      own[o + 3] < 255 ||
      Math.abs(own[o] - 0xf0) + Math.abs(own[o + 1] - 0xb6) + Math.abs(own[o + 2] - 0x3a) > 3
    )
      continue;
    gold++;
    expect(
      Math.abs(sand[o] - 0x1f) + Math.abs(sand[o + 1] - 0x5f) + Math.abs(sand[o + 2] - 0x6b),
    ).toBeLessThan(12);
  }
  expect(gold).toBeGreaterThan(10000);
});

test("a photograph comes from a folder, by its SHA-256; one that is not there is named", async () => {
  const scene = thingPhotograph(0, 1);
  const photos = join(folder, "photos");
  mkdirSync(photos);
  const raw = { width: scene.bare.width, height: scene.bare.height, channels: 4 as const };
  const png = await sharp(Buffer.from(scene.bare.data), { raw }).removeAlpha().png().toBuffer();
  writeFileSync(join(photos, "board.png"), png);
  const key = createHash("sha256").update(png).digest("hex");
  const half = scene.widthMm / 2;
  const corners = [
    [-half, 0],
    [half, 0],
    [half, scene.heightMm],
    [-half, scene.heightMm],
  ].map(([x, y]) => {
    const [u, v] = scene.seen(x, y);
    return [u / raw.width, v / raw.height];
  });
  const thing = {
    ...{ photo: key, widthPx: raw.width, heightPx: raw.height },
    area: { kind: "flat", corners, widthMm: scene.widthMm, heightMm: scene.heightMm },
  };
  const file = join(folder, "board.route.json");
  const stages = [
    { stage: "size", widthMm: 80, dotsPerInch: 100 },
    { stage: "mockUp", thing, widthPx: 1200, prints: [{ at: [0, 40] }] },
  ];
  writeFileSync(file, JSON.stringify({ format: "hard-line-route", version: 1, name: "Board", stages }));
  const artwork = join(folder, "red.png");
  await sharp({ create: { width: 200, height: 200, channels: 3, background: "#d01010" } })
    .png()
    .toFile(artwork);
  const { status, stderr } = run("board", file, artwork, "--photos", photos);
  expect([stderr, status]).toEqual(["", 0]);
  const { data } = await sharp(readFileSync(join(folder, "board", "mockup.png")))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const isRed = ([u, v]: readonly [number, number]): boolean => {
    const o = 3 * (Math.round(v) * raw.width + Math.round(u));
    return data[o] > data[o + 1] + 60;
  };
  // 80 by 80 mm, 40 mm below the upper edge: within 2 mm of its edges, as the board was rendered.
  for (const [x, y] of [
    [-38, 80],
    [38, 80],
    [0, 42],
    [0, 118],
  ] as const)
    expect(isRed(scene.seen(x, y))).toBe(true);
  for (const [x, y] of [
    [-42, 80],
    [42, 80],
    [0, 38],
    [0, 122],
  ] as const)
    expect(isRed(scene.seen(x, y))).toBe(false);
  const without = run("none", file, artwork);
  expect(without.status).toBe(2);
  expect(without.stderr).toMatch(
    new RegExp(`mockUp: photo is "${key}"; allowed: one of the shop's photographs`),
  );
});
