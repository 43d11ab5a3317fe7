import { readRoute } from "../route/route";
import { pictureOf } from "../testing/clearings";
import { seeded } from "../testing/pictures";
import { type Gray, type Rgba } from "../raster/types";
import { blockinessOf, noiseOf } from "./grain";
import { enlargedBy } from "./enlarged";
import { groundOf } from "./ground";
import { proposalsFor, readingWords } from "./proposal";
import { readArtwork } from "./reading";
import { sheetOf } from "./sheet";
import { skewOf } from "./skew";

const grayFrom = (width: number, height: number, at: (x: number, y: number) => number): Gray => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) =>
    Math.max(0, Math.min(255, at(i % width, Math.floor(i / width)))),
  ),
});
/** Normal noise from three uniform ones. */
const normal = (next: () => number): number =>
  ((next() % 4096) + (next() % 4096) + (next() % 4096)) / 2048 - 3;
const read = (p: Rgba) => readArtwork(p, { width: p.width, height: p.height, vector: false });

test.each([1, 3, 8])("noise of deviation %d is read as such, over shading", (sigma) => {
  const next = seeded(sigma);
  const part = grayFrom(300, 300, (x, y) => 60 + x * 0.3 + y * 0.2 + sigma * normal(next));
  expect(Math.abs(noiseOf([part]) - sigma) / sigma).toBeLessThan(0.2);
});

test("blocks are seen where there are blocks, wherever the grid lies", () => {
  const next = seeded(6);
  const blocks = (shift: number) => {
    const step = Array.from({ length: 2500 }, () => (next() % 9) - 4);
    return grayFrom(
      256,
      256,
      (x, y) => 120 + step[Math.floor((x + shift) / 8) * 50 + Math.floor((y + shift) / 8)] + (next() % 3),
    );
  };
  expect(blockinessOf([blocks(0)])).toBeGreaterThan(60);
  expect(blockinessOf([blocks(5)])).toBeGreaterThan(60);
  expect(
    blockinessOf([grayFrom(256, 256, (x, y) => 100 + 40 * Math.sin(x / 9) * Math.cos(y / 7) + (next() % 7))]),
  ).toBeLessThan(40);
});

test("a picture enlarged from fewer pixels is told from one of real pixels", () => {
  const next = seeded(21);
  const size = 100;
  const coarse = Array.from({ length: size * size }, () => 128 + 40 * normal(next));
  const linear = (times: number) =>
    grayFrom(size * times - times, size * times - times, (x, y) => {
      const [u, v] = [x / times, y / times];
      const [i, j, fu, fv] = [Math.floor(u), Math.floor(v), u % 1, v % 1];
      const at = (a: number, b: number) => coarse[b * size + a];
      return (
        (at(i, j) * (1 - fu) + at(i + 1, j) * fu) * (1 - fv) +
        (at(i, j + 1) * (1 - fu) + at(i + 1, j + 1) * fu) * fv
      );
    });
  expect(enlargedBy([linear(1)])).toBe(1);
  expect(enlargedBy([linear(4)])).toBeGreaterThan(1);
  expect(
    enlargedBy([grayFrom(400, 400, (x, y) => coarse[Math.floor(y / 4) * size + Math.floor(x / 4)])]),
  ).toBe(4);
});

test.each([-4, -1.5, 0, 2, 6])("lines turned by %d degrees are read as turned", (degrees) => {
  const t = (degrees * Math.PI) / 180;
  const page = pictureOf(500, 400, (x, y) => {
    const along = (y - 200) * Math.cos(t) + (x - 250) * Math.sin(t);
    const v = 245 - 200 * Math.max(0, 1 - Math.abs((((along % 40) + 40) % 40) - 20) / 2.5);
    return [v, v, v];
  });
  expect(Math.abs(skewOf(page)! - degrees)).toBeLessThan(0.4);
});

test("a cloud of dots has no skew", () => {
  const next = seeded(77);
  const dots = Array.from({ length: 70 }, () => [next() % 260, next() % 200]);
  const cloud = pictureOf(260, 200, (x, y) => {
    const near = Math.min(...dots.map(([u, v]) => Math.hypot(x - u, y - v)));
    const tone = 20 + 220 * Math.min(1, Math.max(0, (near - 5) / 3));
    return [tone, tone, tone];
  });
  expect(skewOf(cloud)).toBeNull();
});

test("the ground is the colour along the edge, its share and spread", () => {
  const next = seeded(31);
  const g = groundOf(
    pictureOf(200, 150, (x, y) =>
      x > 60 && y > 40 && x < 140 && y < 110 ? [200, 30, 30] : [228 + (next() % 5), 226, 220],
    ),
  );
  expect(g.share).toBeGreaterThan(0.99);
  expect(g.colour).toMatch(/^#e[56]e2dc$/);
  expect(g.spread).toBeLessThan(1);
  expect(groundOf(pictureOf(40, 40, () => [0, 0, 0, 0])).colour).toBeNull();
});

test("a sheet under a lamp is one smooth fall of light; a scene is not", () => {
  const sheet = sheetOf(
    pictureOf(
      240,
      180,
      (x) =>
        Array<number>(3).fill((x % 20 < 2 ? 40 : 235) * (1 - 0.4 * (x / 240))) as [number, number, number],
    ),
  );
  expect(sheet.sheet).toBeGreaterThan(0.9);
  expect(Math.abs(sheet.least - 0.6)).toBeLessThan(0.08);
  const scene = sheetOf(
    pictureOf(
      240,
      180,
      (x, y) =>
        Array<number>(3).fill(120 + 100 * Math.sin(x / 23) * Math.cos(y / 31)) as [number, number, number],
    ),
  );
  expect(scene.sheet).toBeLessThan(0.6);
});

describe("proposals", () => {
  const logo = read(
    pictureOf(600, 400, (x, y) => (Math.hypot(x - 300, y - 200) < 120 ? [180, 40, 40] : [255, 255, 255])),
  );
  const cut = read(pictureOf(300, 300, (x, y) => [90, 40, 40, Math.hypot(x - 150, y - 150) < 100 ? 255 : 0]));
  const facts = { width: 600, height: 400 };
  test("each is a route that can be read, with a reason for every setting", () => {
    for (const reading of [logo, cut])
      for (const { stages, reasons } of proposalsFor(reading, facts)) {
        expect(() => readRoute({ format: "hard-line-route", version: 1, name: "A", stages })).not.toThrow();
        expect(reasons.length).toBeGreaterThan(0);
        for (const r of reasons) expect([r.stage, r.decided, r.why].every((w) => w.length > 2)).toBe(true);
      }
  });
  test("flat art goes to vinyl by a pick and its gaps; what is cut out needs no Clear", () => {
    const [first] = proposalsFor(logo, facts);
    expect(first.id).toBe("vinyl");
    expect(first.stages).toContainEqual(
      expect.objectContaining({
        stage: "clear",
        ops: [expect.objectContaining({ op: "pick" }), expect.objectContaining({ op: "gaps" })],
      }),
    );
    expect(proposalsFor(cut, facts)[0].id).toBe("sticker");
    expect(JSON.stringify(proposalsFor(cut, facts)[0].stages)).not.toContain("clear");
  });
  test("words carry the figures", () => {
    const words = readingWords(logo, facts).join("; ");
    expect(words).toContain("Flat art");
    expect(words).toContain("Background #ffffff on 100 % of the edge");
    expect(words).toContain("102 mm at 150");
    expect(readingWords(cut, { width: 300, height: 300 })[0]).toMatch(/^Already cut out, 6\d % is clear$/);
  });
});
