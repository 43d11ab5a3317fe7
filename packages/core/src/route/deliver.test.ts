import sharp from "sharp";
import { fingerprint } from "../raster/fingerprint";
import { readRoute, type Route } from "./route";
import { type ArtworkSource } from "./source";
import { Runner } from "./runner";
import { asRgba, grayOf, randomGray } from "../testing/pictures";
import { type DeliveredFile } from "../stage/stage";
import { deliver } from "./deliver";

const picture = asRgba(randomGray(50, 40, 3), (x) => (x < 10 ? 0 : 255));
const source = {
  facts: { sha256: "f".repeat(64), width: 50, height: 40, vector: false },
  pixels: async () => picture,
};

async function filesFor(stages: object[]) {
  const route = readRoute({ format: "hard-line-route", version: 1, name: "A", stages });
  return filesOf(route, source);
}

async function filesOf(route: Route, from: ArtworkSource): Promise<DeliveredFile[]> {
  const files: DeliveredFile[] = [];
  await deliver(new Runner(), route, from, { file: async (one) => void files.push(one) });
  return files;
}

test("a route gives the files that its stages give", async () => {
  const names = async (stages: object[]) => (await filesFor(stages)).map((f) => f.name);
  expect(await names([{ stage: "size" }])).toEqual(["readings.json"]);
  expect(await names([{ stage: "tone" }])).toEqual(["tone.png", "readings.json"]);
  expect(await names([{ stage: "blackWhite" }])).toEqual([
    "bitmap.png",
    "bitmap.tif",
    "bitmap.pdf",
    "readings.json",
  ]);
});

test("the same route gives the same bytes, all but the times in the readings", async () => {
  const stages = [{ stage: "size", widthMm: 9 }, { stage: "tone", black: 0.1 }, { stage: "blackWhite" }];
  const [one, other] = [await filesFor(stages), await filesFor(stages)];
  for (const [i, { name, bytes }] of one.entries())
    if (name !== "readings.json") expect(bytes).toEqual(other[i].bytes);
});

test("readings tell size, stages with keys, checks, and each file's fingerprint", async () => {
  const files = await filesFor([
    { stage: "size", resample: "none", dotsPerInch: 100 },
    { stage: "tone" },
    { stage: "blackWhite", method: "line", threshold: "auto" },
  ]);
  const readings = JSON.parse(Buffer.from(files[files.length - 1].bytes).toString());
  expect(readings.artwork).toEqual({ width: 50, height: 40, sha256: "f".repeat(64) });
  expect(readings.finish).toEqual({
    widthMm: 12.7,
    heightMm: 10.16,
    widthPx: 50,
    heightPx: 40,
    dotsPerInch: 100,
  });
  expect(readings.stages.map((s: { key: string }) => s.key.length)).toEqual([64, 64, 64, 64]);
  expect(readings.stages[3].threshold).toBeGreaterThan(0);
  expect(readings.stages[3].markedPercent).toBe(
    readings.checks.find((c: { id: string }) => c.id === "markedShare").value,
  );
  for (const f of readings.files)
    expect(fingerprint(files.find((x) => x.name === f.name)!.bytes)).toBe(f.sha256);
});

test("tone is written on white where the art ends", async () => {
  const [tone] = await filesFor([{ stage: "tone" }]);
  const { data } = await sharp(tone.bytes).toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });
  const grey = randomGray(50, 40, 3);
  data.forEach((v, i) => expect(v).toBe(i % 50 < 10 ? 255 : grey.data[i]));
});

test("an even picture compresses to next to nothing in every form", async () => {
  const even = asRgba(grayOf(1000, 1000, () => 255));
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage: "blackWhite", method: "line" }],
  });
  const facts = { ...source.facts, width: 1000, height: 1000 };
  const sizes = (await filesOf(route, { facts, pixels: async () => even })).map((f) => f.bytes.length);
  expect(Math.max(...sizes.slice(0, 3))).toBeLessThan(2000);
});

test("under bare pixels of cleared art lies nothing of the old background, and beside the art the art's colour", async () => {
  // A dark block on red paper, the paper picked away.
  const red = asRgba(
    grayOf(60, 40, (x, y) => (x >= 20 && x < 40 && y >= 10 && y < 30 ? 30 : 200)),
    () => 255,
  );
  for (let o = 0; o < red.data.length; o += 4) if (red.data[o] === 200) red.data.set([220, 40, 30], o);
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage: "clear", ops: [{ op: "pick", at: [0.02, 0.02], tolerance: 5 }] }],
  });
  const from = { facts: { ...source.facts, width: 60, height: 40 }, pixels: async () => red };
  const [cleared] = await filesOf(route, from);
  expect(cleared.name).toBe("cleared.png");
  const data = await sharp(Buffer.from(cleared.bytes)).raw().toBuffer();
  const at = (x: number, y: number) => Array.from(data.subarray((y * 60 + x) * 4, (y * 60 + x) * 4 + 4));
  expect(at(30, 20)).toEqual([30, 30, 30, 255]);
  expect(at(15, 20)).toEqual([30, 30, 30, 0]);
  expect(at(2, 2)).toEqual([0, 0, 0, 0]);
  for (let o = 0; o < data.length; o += 4) expect(data[o]).toBeLessThan(60);
});
