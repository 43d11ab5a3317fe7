import { greyOf } from "@hardline/core/colour/grey";
import { runToEnd } from "@hardline/core/maths/work";
import { bitAt } from "@hardline/core/raster/types";
import { as } from "@hardline/core/result/result";
import { readRoute } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { diffuse } from "@hardline/core/screen/diffuse";
import { KERNELS } from "@hardline/core/screen/kernels";
import { takeIn } from "@hardline/intake";
import { execFileSync, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { designersPdf } from "../../../e2e/src/designersPdf";

const ROOT = join(__dirname, "../../..");
const MAIN = join(ROOT, "apps/cli/dist/main.js");
let folder: string;
let picture: string;

const run = (...args: string[]) =>
  spawnSync(process.execPath, [MAIN, ...args], { encoding: "utf8", cwd: folder });
const route = (name: string, stages: object[]): string => {
  const path = join(folder, `${name}.route.json`);
  writeFileSync(path, JSON.stringify({ format: "hard-line-route", version: 1, name, stages }));
  return path;
};
const ENGRAVE = [
  { stage: "size", widthMm: 30, dotsPerInch: 254 },
  {
    stage: "tone",
    curve: [
      [0, 0],
      [0.5, 0.6],
      [1, 1],
    ],
    sharpen: { radiusMm: 0.15, amount: 0.6 },
  },
  { stage: "blackWhite", method: "scatter", kernel: "jarvis-judice-ninke" },
];

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "hard-line-cli-"));
  picture = join(folder, "picture.png");
  const data = Uint8Array.from(
    { length: 120 * 80 * 3 },
    (_, i) => ((i % 360) / 360) * 200 + ((i * 7919) % 40),
  );
  writeFileSync(
    picture,
    await sharp(Buffer.from(data), { raw: { width: 120, height: 80, channels: 3 } })
      .png()
      .toBuffer(),
  );
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

test("pixels as they are: the bitmap is Floyd and Steinberg's of the grey, dot for dot", async () => {
  const out = join(folder, "plain");
  const path = route("plain", [
    { stage: "size", resample: "none", dotsPerInch: 300 },
    { stage: "blackWhite", method: "scatter", kernel: "floyd-steinberg" },
  ]);
  const { status, stdout } = run(path, picture, "--out", out);
  expect(status).toBe(0);
  expect(stdout.trim().split("\n")).toHaveLength(4);
  const grey = runToEnd(greyOf(await (await takeIn(readFileSync(picture))).pixels()));
  const bits = runToEnd(
    diffuse(grey, null, { kernel: KERNELS["floyd-steinberg"], strength: 1, serpentine: false }),
  );
  const { data } = await sharp(join(out, "bitmap.png"))
    .toColourspace("b-w")
    .raw()
    .toBuffer({ resolveWithObject: true });
  for (let y = 0; y < 80; y++)
    for (let x = 0; x < 120; x++) expect(data[y * 120 + x]).toBe(bitAt(bits, x, y) ? 0 : 255);
  expect(await sharp(join(out, "bitmap.png")).metadata()).toMatchObject({
    width: 120,
    height: 80,
    density: 300,
  });
});

test("every file of a route agrees with the others and with its readings", async () => {
  const out = join(folder, "engrave");
  expect(run(route("engrave", ENGRAVE), picture, "--out", out).status).toBe(0);
  expect(readdirSync(out).sort()).toEqual([
    "bitmap.pdf",
    "bitmap.png",
    "bitmap.tif",
    "readings.json",
    "tone.png",
  ]);
  const readings = JSON.parse(readFileSync(join(out, "readings.json"), "utf8"));
  expect(readings.finish).toEqual({
    widthMm: 30,
    heightMm: 20,
    widthPx: 300,
    heightPx: 200,
    dotsPerInch: 254,
  });
  expect(readings.stages.map((s: { stage: string }) => s.stage)).toEqual([
    "artwork",
    "size",
    "tone",
    "blackWhite",
  ]);
  expect(readings.checks.map((c: { id: string }) => c.id)).toContain("resolution");
  for (const { name, bytes, sha256 } of readings.files) {
    const file = readFileSync(join(out, name));
    expect([file.length, createHash("sha256").update(file).digest("hex")]).toEqual([bytes, sha256]);
  }
  const grey = (path: string | Buffer) => sharp(path).toColourspace("b-w").raw().toBuffer();
  const png = await grey(join(out, "bitmap.png"));
  expect((await grey(join(out, "bitmap.tif"))).equals(png)).toBe(true);
  const page = execFileSync("pdftoppm", ["-r", "254", "-png", join(out, "bitmap.pdf")], {
    maxBuffer: 1 << 26,
  });
  expect((await grey(page)).equals(png)).toBe(true);
  expect(execFileSync("pdfinfo", [join(out, "bitmap.pdf")], { encoding: "utf8" })).toMatch(
    /Page size:\s+85.0394 x 56.6929/,
  );
});

test("the same route gives the same dots in another process as here", async () => {
  const out = join(folder, "again");
  const path = route("again", ENGRAVE);
  run(path, picture, "--out", out);
  const results = await new Runner().run(
    readRoute(JSON.parse(readFileSync(path, "utf8"))),
    await takeIn(readFileSync(picture)),
  );
  const readings = JSON.parse(readFileSync(join(out, "readings.json"), "utf8"));
  expect(readings.stages.map((s: { key: string }) => s.key)).toEqual(results.map((r) => r.key));
  const { data } = await sharp(join(out, "bitmap.png"))
    .toColourspace("b-w")
    .raw()
    .toBuffer({ resolveWithObject: true });
  const [{ bits }] = as(results[3].result, "plates").plates;
  expect(data.every((v, i) => (v === 0) === (bitAt(bits, i % 300, Math.floor(i / 300)) === 1))).toBe(true);
});

test.each<[string, () => string[], RegExp]>([
  [
    "a setting that is not allowed",
    () => [route("bad", [{ stage: "size", dotsPerInch: 3 }]), picture],
    /^size: dotsPerInch is 3; allowed: 10 or more$/,
  ],
  [
    "an unknown key",
    () => [route("key", [{ stage: "tone", gamma: 2 }]), picture],
    /^tone: gamma is 2; allowed: only the settings/,
  ],
  [
    "a side with pixels as they are",
    () => [route("side", [{ stage: "size", resample: "none", widthMm: 9 }]), picture],
    /^size: widthMm is 9; allowed: no side/,
  ],
  [
    "a route that is not there",
    () => [join(folder, "none.json"), picture],
    /^route file .*none.json: there is no such file$/,
  ],
  ["a route that is not JSON", () => [picture, picture], /^route file .*: not JSON/],
  [
    "an artwork that is no picture",
    () => [route("ok", []), route("ok", [])],
    /^This is not a picture that can be read/,
  ],
])("%s: one line, exit 2, nothing written", (_what, args, line) => {
  const out = join(folder, "refused");
  const { status, stderr, stdout } = run(...args(), "--out", out);
  expect(status).toBe(2);
  expect(stdout).toBe("");
  expect(stderr.trim()).toMatch(line);
  expect(stderr.trim().split("\n")).toHaveLength(1);
  expect(existsSync(out)).toBe(false);
});

test("a missing --out says how it is called", () => {
  expect(run(picture, picture)).toMatchObject({
    status: 2,
    stderr: expect.stringContaining("usage: npm run -s route"),
  });
});

test("files that cannot be written are told of, and no part is left behind", () => {
  writeFileSync(join(folder, "a-file"), "");
  const { status, stderr } = run(route("engrave", ENGRAVE), picture, "--out", join(folder, "a-file"));
  expect(status).toBe(2);
  expect(stderr.trim().split("\n")).toHaveLength(1);
});

describe("clear", () => {
  /** Soft black marks of known cover on white. */
  const cover = (x: number, y: number): number => {
    const ring = Math.min(1, Math.max(0, 3.5 - Math.abs(Math.hypot(x - 60, y - 40) - 24)));
    const solid = Math.min(1, Math.max(0, (9 - Math.hypot(x - 100, y - 60)) / 3));
    return Math.max(ring, solid);
  };

  test("ink lifted for a dark shirt is the true drawing on that shirt", async () => {
    const drawing = join(folder, "drawing.png");
    const data = Buffer.from(
      Uint8Array.from({ length: 9600 }, (_, i) =>
        Math.round(255 * (1 - cover(i % 120, Math.floor(i / 120)))),
      ),
    );
    await sharp(data, { raw: { width: 120, height: 80, channels: 1 } })
      .png()
      .toFile(drawing);
    const out = join(folder, "lifted");
    const path = route("lift", [
      { stage: "size", resample: "none", dotsPerInch: 300 },
      { stage: "clear", ops: [{ op: "lift", kept: 0.2, gone: 0.95, paper: "#ffffff" }] },
    ]);
    expect(run(path, drawing, "--out", out).status).toBe(0);
    expect(readdirSync(out).sort()).toEqual(["cleared.png", "readings.json"]);
    const file = sharp(join(out, "cleared.png"));
    expect(await file.metadata()).toMatchObject({ width: 120, height: 80, channels: 4, density: 300 });
    const pixels = await file.raw().toBuffer();
    let [sum, worst] = [0, 0];
    for (let i = 0; i < 9600; i++)
      for (const [k, cloth] of [16, 18, 20].entries()) {
        const alpha = pixels[i * 4 + 3] / 255;
        const truth = cloth * (1 - cover(i % 120, Math.floor(i / 120)));
        const error = Math.abs(pixels[i * 4 + k] * alpha + cloth * (1 - alpha) - truth);
        sum += error;
        worst = Math.max(worst, error);
      }
    expect(sum / 28800).toBeLessThanOrEqual(0.3);
    expect(worst).toBeLessThanOrEqual(4);
  });

  test("a sticker's white box goes, its colour stays to the bit, and readings tell what was checked", async () => {
    const sticker = join(folder, "sticker.png");
    const svg = `<svg width="240" height="200"><rect width="240" height="200" fill="#fff"/><circle cx="120" cy="100" r="80" fill="#b5322b"/><circle cx="120" cy="100" r="30" fill="#fff"/></svg>`;
    await sharp(Buffer.from(svg)).png().toFile(sticker);
    const out = join(folder, "sticker");
    const path = route("sticker", [
      { stage: "size", widthMm: 70, dotsPerInch: 300 },
      { stage: "clear", ops: [{ op: "pick", at: [0.01, 0.01], tolerance: 8, joined: true }] },
    ]);
    expect(run(path, sticker, "--out", out).status).toBe(0);
    const { data, info } = await sharp(join(out, "cleared.png")).raw().toBuffer({ resolveWithObject: true });
    const at = (u: number, v: number) => {
      const o = (Math.round(v * info.height) * info.width + Math.round(u * info.width)) * 4;
      return Array.from(data.subarray(o, o + 4));
    };
    expect(at(0.02, 0.02)[3]).toBe(0);
    expect(at(0.5, 0.2)).toEqual([0xb5, 0x32, 0x2b, 255]);
    expect(at(0.5, 0.5)).toEqual([255, 255, 255, 255]); // a gap is not joined to the box
    const readings = JSON.parse(readFileSync(join(out, "readings.json"), "utf8"));
    expect(readings.stages[2]).toMatchObject({ stage: "clear", keptPercent: expect.any(Number) });
    expect(readings.checks.map((c: { id: string }) => c.id)).toEqual(
      expect.arrayContaining(["edgeRim", "strayIslands", "faintTint"]),
    );
  });

  test("an operation that is none is refused in one line", () => {
    const path = route("wipe", [{ stage: "clear", ops: [{ op: "wipe" }] }]);
    const { status, stderr } = run(path, picture, "--out", join(folder, "none"));
    expect(status).toBe(2);
    expect(stderr.trim().split("\n")).toHaveLength(1);
    expect(stderr).toMatch(/clear: ops.0.*allowed: "pick", "gaps"/);
  });
});

test("of a PDF, the page and the edge that are asked for are taken", async () => {
  const file = join(folder, "cards.pdf");
  writeFileSync(file, await designersPdf());
  const path = route("card", [
    { stage: "size", widthMm: 85, dotsPerInch: 254 },
    { stage: "blackWhite", method: "line" },
  ]);
  const out = join(folder, "card");
  const { status, stderr } = run(path, file, "--out", out, "--page", "2", "--box", "trim");
  expect([status, stderr]).toEqual([0, ""]);
  const bitmap = readdirSync(out).find((n) => n.endsWith("bitmap.png"))!;
  const { width, height } = await sharp(join(out, bitmap)).metadata();
  expect([width, height]).toEqual([850, 550]);
});

test.each([
  [["--page", "9"], /page is 9; allowed: a whole number 1 to 3/],
  [["--page", "two"], /page is two; allowed: a whole number from 1/],
  [["--box", "media"], /box is media; allowed: crop, trim, bleed/],
  [["--page", "1", "--box", "trim"], /box is trim; page 1 has crop alone/],
])("%j of a PDF of three pages is refused in one line", async (asked, reason) => {
  const file = join(folder, "three.pdf");
  writeFileSync(file, await designersPdf());
  const path = route("three", [{ stage: "size", widthMm: 20 }]);
  const { status, stderr } = run(path, file, "--out", join(folder, "none"), ...asked);
  expect(status).toBe(2);
  expect(stderr).toMatch(reason);
  expect(stderr.trim().split("\n")).toHaveLength(1);
  expect(existsSync(join(folder, "none"))).toBe(false);
});
