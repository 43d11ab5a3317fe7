import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";

const ROOT = join(__dirname, "../../..");
const MAIN = join(ROOT, "apps/cli/dist/main.js");
const [W, H] = [240, 180];
let folder: string;

/** A red ring round a gold disc on nothing, as shapes; and a wash that fades out, as pixels. */
const EMBLEM = `<svg xmlns="http://www.w3.org/2000/svg" width="${W}" height="${H}"><circle cx="120" cy="90" r="70" fill="#c8102e"/><circle cx="120" cy="90" r="45" fill="#f2c230"/></svg>`;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "hard-line-films-"));
  writeFileSync(join(folder, "emblem.svg"), EMBLEM);
  const data = new Uint8Array(4 * W * H);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++, o += 4) {
      const share = Math.min(1, Math.max(0, (80 - Math.hypot(x - 120, y - 90)) / 40));
      data.set([40 + x / 2, 120, 200 - y / 2, Math.round(255 * share)], o);
    }
  await sharp(data, { raw: { width: W, height: H, channels: 4 } })
    .png()
    .toFile(join(folder, "wash.png"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Runs an example of the manual with some settings changed, and returns where its files are. */
function run(example: string, artwork: string, size: object, films: object = {}): string {
  const route = JSON.parse(readFileSync(join(ROOT, `docs/examples/${example}.route.json`), "utf8"));
  const stages = route.stages.filter((s: { stage: string }) => s.stage !== "clear");
  Object.assign(stages[0], size);
  Object.assign(stages[stages.length - 1], films);
  const path = join(folder, `${example}.json`);
  writeFileSync(path, JSON.stringify({ ...route, stages }));
  const out = join(folder, `${example}-${Object.keys(films).length}`);
  const { status, stderr } = spawnSync(process.execPath, [MAIN, path, join(folder, artwork), "--out", out], {
    encoding: "utf8",
  });
  expect([stderr, status]).toEqual(["", 0]);
  return out;
}
const dotsOf = (file: string | Buffer) =>
  sharp(file, { limitInputPixels: false }).toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });
const rendered = (pdf: string, dpi: number, page = 1): Buffer =>
  execFileSync("pdftoppm", ["-r", String(dpi), "-f", String(page), "-l", String(page), "-png", pdf], {
    maxBuffer: 1 << 28,
  });

test("films of three inks: PNG, TIFF and the art on both pages are the same dots, and what readings say they cover", async () => {
  const out = run(
    "three-inks-navy",
    "emblem.svg",
    { widthMm: 60, heightMm: undefined, dotsPerInch: 240 },
    {
      inks: [
        { name: "white", colour: "#ffffff", role: "underbase", spreadMm: -0.25 },
        { name: "red", colour: "#c8102e" },
        { name: "gold", colour: "#f2c230", screen: { linesPerInch: 40, angle: 22.5, dot: "ellipse" } },
      ],
    },
  );
  const names = ["white", "red", "gold"];
  expect(readdirSync(out).sort()).toEqual(
    [
      ...names.flatMap((n) => [`film-${n}.pdf`, `film-${n}.png`, `film-${n}.tif`]),
      "films.pdf",
      "proof.png",
      "readings.json",
    ].sort(),
  );
  const { stages, finish } = JSON.parse(readFileSync(join(out, "readings.json"), "utf8"));
  const { plates } = stages.find((s: { stage: string }) => s.stage === "films");
  const margin = Math.ceil((14 * 720) / 25.4);
  for (const [k, name] of names.entries()) {
    const { data, info } = await dotsOf(join(out, `film-${name}.png`));
    expect([info.width, info.height]).toEqual([3 * finish.widthPx, 3 * finish.heightPx]);
    expect((await dotsOf(join(out, `film-${name}.tif`))).data.equals(data)).toBe(true);
    const marked = data.reduce((n, v) => n + (v === 0 ? 1 : 0), 0) / data.length;
    expect(plates[k]).toMatchObject({ name, percent: expect.closeTo(100 * marked, 1) });
    for (const [pdf, page] of [
      [`film-${name}.pdf`, 1],
      ["films.pdf", k + 1],
    ] as const) {
      const whole = sharp(rendered(join(out, pdf), 720, page), { limitInputPixels: false });
      expect(await whole.metadata()).toMatchObject({
        width: info.width + 2 * margin,
        height: info.height + 2 * margin,
      });
      const art = whole.extract({ left: margin, top: margin, width: info.width, height: info.height });
      const { data: drawn } = await art
        .toColourspace("b-w")
        .threshold(128)
        .raw()
        .toBuffer({ resolveWithObject: true });
      let off = 0;
      for (let i = 0; i < data.length; i++) if (drawn[i] >= 128 !== data[i] >= 128) off++;
      expect(off).toBe(0);
    }
    // Marks and words stand in the margin.
    const { data: about } = await sharp(rendered(join(out, `film-${name}.pdf`), 72))
      .toColourspace("b-w")
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(about.some((v) => v < 200)).toBe(true);
  }
  // The red ring and the gold disc by their areas: trapped, the lighter gold reaches a quarter of a millimetre further.
  const scale = 60 / W;
  const area = (r: number) => Math.PI * r * r;
  expect(plates[1].mm2 / (area(70 * scale) - area(45 * scale))).toBeCloseTo(1, 1);
  expect(plates[2].mm2 / area(45 * scale + 0.25)).toBeCloseTo(1, 1);
  expect(plates[0].mm2 / area(70 * scale - 0.25)).toBeCloseTo(1, 1);
});

test("a transfer: no pixel half covered, both pictures and the page turned round, white an ink of its own", async () => {
  const out = run("watercolour-transfer", "wash.png", { heightMm: 30, dotsPerInch: 200 });
  expect(readdirSync(out).sort()).toEqual(["colour.png", "readings.json", "transfer.pdf", "white.png"]);
  const { data, info } = await sharp(join(out, "colour.png")).raw().toBuffer({ resolveWithObject: true });
  expect(info.channels).toBe(4);
  const alphas = new Set<number>();
  for (let o = 3; o < data.length; o += 4) alphas.add(data[o]);
  expect(alphas).toEqual(new Set([0, 255]));
  // Mirrored: what was at the left, where red was least, is now at the right.
  const row = 4 * info.width * (info.height >> 1);
  const red = (share: number) => data[row + 4 * Math.round(share * info.width)];
  expect(red(0.4)).toBeGreaterThan(red(0.6));
  const white = (await dotsOf(join(out, "white.png"))).data;
  for (let i = 0; i < white.length; i++) if (white[i] > 0) expect(data[4 * i + 3]).toBe(255);
  const pdf = readFileSync(join(out, "transfer.pdf"), "latin1");
  expect(pdf).toContain("/Separation /White");
  const page = sharp(rendered(join(out, "transfer.pdf"), 200));
  expect(await page.metadata()).toMatchObject({ width: info.width, height: info.height });
});

test("one black: the ground prints nothing, the films are seen from behind, and colourways come as a proof", async () => {
  const out = run("one-black", "wash.png", { widthMm: 40 }, { mirror: false, marks: false });
  const { data } = await dotsOf(join(out, "film-black.png"));
  expect(data[0]).toBe(255);
  const { width } = await sharp(join(out, "film-black.png")).metadata();
  expect(await sharp(rendered(join(out, "film-black.pdf"), 360)).metadata()).toMatchObject({ width });
  const ways = run("colourways", "emblem.svg", { widthMm: 40 });
  expect(await sharp(join(ways, "colourways.png")).metadata()).toMatchObject({ width: 1754, height: 1240 });
  const sheet = await sharp(rendered(join(ways, "colourways.pdf"), 150)).metadata();
  expect(Math.abs(sheet.width! - 1754)).toBeLessThanOrEqual(1);
});
