import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";

const ROOT = join(__dirname, "../../..");
const MAIN = join(ROOT, "apps/cli/dist/main.js");
const EXAMPLES = join(ROOT, "docs/examples");
let folder: string;

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "hard-line-words-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const route = (file: string, artwork: string, ...more: string[]) =>
  spawnSync(process.execPath, [MAIN, file, artwork, "--out", join(folder, "out"), ...more], {
    encoding: "utf8",
  });
const readings = () =>
  JSON.parse(readFileSync(join(folder, "out", "readings.json"), "utf8")) as {
    checks: { id: string; level: string; value: number }[];
  };
const level = (id: string) => readings().checks.find((c) => c.id === id)?.level;

test("a badge: words on circles, in a box and in single lines; two other programs draw the same of it", async () => {
  const { status, stderr } = route(join(EXAMPLES, "badge.route.json"), join(EXAMPLES, "badge.svg"));
  expect([stderr, status]).toEqual(["", 0]);
  expect([level("lettersMissing"), level("textRoom"), level("wholePaths")]).toEqual(["fine", "fine", "fine"]);
  // As SVG, filled, by librsvg; as PDF its lines, by poppler.
  const out = join(folder, "out");
  const svg = execFileSync("rsvg-convert", ["-w", "800", join(out, "trace.svg")], { maxBuffer: 1 << 26 });
  const grey = await sharp(svg).flatten({ background: "#ffffff" }).greyscale().raw().toBuffer();
  const dark = (x: number, y: number) => grey[Math.round(y * 10) * 800 + Math.round(x * 10)] < 128;
  // The ring of one millimetre, at four sides and nothing beside it.
  for (const [x, y] of [
    [40, 2.5],
    [77.5, 40],
    [40, 77.5],
    [2.5, 40],
  ])
    expect(dark(x, y)).toBe(true);
  expect(dark(40, 1)).toBe(false);
  const pdf = execFileSync("pdftoppm", ["-r", "254", "-png", join(out, "trace.pdf")], { maxBuffer: 1 << 26 });
  const lines = await sharp(pdf).greyscale().raw().toBuffer({ resolveWithObject: true });
  expect([lines.info.width, lines.info.height]).toEqual([800, 800]);
  let inked = 0;
  for (const v of lines.data) if (v < 128) inked++;
  expect(inked).toBeGreaterThan(3000);
});

test("fonts of a folder are known by the SHA-256 of their files; one that is not there is said", async () => {
  const own = join(folder, "fonts");
  execFileSync("mkdir", ["-p", own]);
  const bytes = Buffer.concat([
    readFileSync(join(ROOT, "packages/fonts/files/sign.ttf")),
    Buffer.from([0, 0, 0, 0]),
  ]);
  writeFileSync(join(own, "shop.ttf"), bytes);
  const { createHash } = await import("node:crypto");
  const key = createHash("sha256").update(bytes).digest("hex");
  const file = join(folder, "own.route.json");
  const edit = { edit: "text", text: "Own", font: key, at: [0.5, 0.5] };
  writeFileSync(
    file,
    JSON.stringify({
      ...{ format: "hard-line-route", version: 1, name: "Own" },
      stages: [
        { stage: "size", widthMm: 80 },
        { stage: "trace", edits: [edit] },
      ],
    }),
  );
  expect(route(file, join(EXAMPLES, "badge.svg"), "--fonts", own).status).toBe(0);
  const refused = route(file, join(EXAMPLES, "badge.svg"));
  expect(refused.status).toBe(2);
  expect(refused.stderr).toMatch(new RegExp(`^trace: font is "${key}`));
});

test("a sketch coloured under its lines comes out as a transfer, and as a picture of its own", async () => {
  const { status, stderr } = route(
    join(EXAMPLES, "coloured-sketch.route.json"),
    join(EXAMPLES, "sketch.svg"),
  );
  expect([stderr, status]).toEqual(["", 0]);
  expect([level("coloursLost"), level("coloursTogether")]).toEqual(["fine", "fine"]);
  const { data, info } = await sharp(join(folder, "out", "coloured.png"))
    .raw()
    .toBuffer({ resolveWithObject: true });
  const code = (x: number, y: number) =>
    Array.from(
      data
        .subarray(4 * (Math.round(y * info.height) * info.width + Math.round(x * info.width)))
        .subarray(0, 4),
    );
  expect(code(0.61, 0.52)).toEqual([0x2f, 0x5a, 0xa8, 255]);
  expect(code(0.78, 0.21)).toEqual([0xf2, 0xc8, 0x4b, 255]);
  expect(code(0.05, 0.1)[3]).toBe(0);
});
