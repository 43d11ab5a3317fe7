import { asRgba, randomGray, randomRgba } from "../testing/pictures";
import { Aborted } from "../maths/work";
import { countMarks } from "../raster/bits";
import { finishOf } from "../stage/size/finish";
import { as } from "../result/result";
import { canonical } from "../settings/canonical";
import { type ArtworkSource } from "./source";
import { ByteCache } from "./byteCache";
import { RouteError } from "../settings/errors";
import { readRoute, settingsOf, withoutStage, withSettings, withStage } from "./route";
import { Runner } from "./runner";

const file = (...stages: object[]) => ({ format: "hard-line-route", version: 1, name: "Test", stages });
const refusal = (json: unknown): RouteError => {
  try {
    readRoute(json);
  } catch (error) {
    if (error instanceof RouteError) return error;
    throw error;
  }
  throw new Error("was not refused");
};

describe("reading a route", () => {
  test("fills in defaults", () => {
    const route = readRoute(file({ stage: "size" }, { stage: "blackWhite" }));
    expect(settingsOf(route, "size")).toEqual({
      dotsPerInch: 254,
      resample: "lanczos3",
      shape: { kind: "whole" },
      straighten: 0,
      turn: 0,
      mirror: false,
    });
    expect(settingsOf(route, "blackWhite")).toEqual({
      method: "scatter",
      kernel: "floyd-steinberg",
      strength: 1,
      serpentine: false,
      keepEdges: 0,
      gain: [
        [0, 0],
        [1, 1],
      ],
      ...{ holdHighlight: 0, holdShadow: 0, smallestMark: 1, smallestGap: 1 },
      material: "burns-dark",
    });
    expect(settingsOf(route, "tone")).toBeNull();
    expect(route.checks).toEqual({
      ...{ areaMm2: 4, dotMm: 0.1, gapMm: 0.1, strokeMm: 0.1, strayMm2: 1 },
      ...{ neckMm: 1, cornerMm: 0.1, holeMm2: 1, sheetMm: null, registerMm: 0.25, filmMm: 330.2 },
      machineDotsPerInch: null,
    });
  });

  test("what it read it reads again to the same", () => {
    const once = readRoute(
      file(
        {
          stage: "tone",
          curve: [
            [0, 0.1],
            [1, 0.9],
          ],
        },
        { stage: "blackWhite", method: "line", threshold: "auto" },
      ),
    );
    expect(readRoute(JSON.parse(JSON.stringify(once)))).toEqual(once);
  });

  test.each<[object, string, string, unknown, RegExp]>([
    [{ stage: "size", dotsPerInch: 0 }, "size", "dotsPerInch", 0, /10 or more/],
    [{ stage: "size", dotsPerInch: "300" }, "size", "dotsPerInch", "300", /a number/],
    [
      { stage: "size", resample: "nearest" },
      "size",
      "resample",
      "nearest",
      /"lanczos3", "bicubic", "box", "none"/,
    ],
    [{ stage: "size", colour: 3 }, "size", "colour", 3, /only the settings/],
    [{ stage: "tone", curve: [[0, 0]] }, "tone", "curve", [[0, 0]], /at least 2/],
    [
      {
        stage: "tone",
        curve: [
          [0, 0],
          [0.5, 2],
        ],
      },
      "tone",
      "curve.1.1",
      2,
      /1 or less/,
    ],
    [
      {
        stage: "tone",
        curve: [
          [0.5, 0],
          [0.5, 1],
        ],
      },
      "tone",
      "curve.1.0",
      0.5,
      /above 0.5/,
    ],
    [{ stage: "tone", black: 0.7, white: 0.7 }, "tone", "white", 0.7, /above black/],
    [{ stage: "tone", sharpen: { radius: 2 } }, "tone", "sharpen.radius", 2, /only the settings/],
    [{ stage: "blackWhite", method: "dots" }, "blackWhite", "method", "dots", /"line", "scatter"/],
    [
      { stage: "blackWhite", method: "scatter", kernel: "simple" },
      "blackWhite",
      "kernel",
      "simple",
      /"stucki"/,
    ],
    [{ stage: "blackWhite", method: "line", threshold: 256 }, "blackWhite", "threshold", 256, /1 to 255/],
    [{ stage: "blackWhite", method: "line", threshold: "Auto" }, "blackWhite", "threshold", "Auto", /auto/],
    [
      { stage: "blackWhite", method: "scatter", threshold: 3 },
      "blackWhite",
      "threshold",
      3,
      /only the settings/,
    ],
    [{ stage: "blackWhite", strength: 1.5 }, "blackWhite", "strength", 1.5, /1 or less/],
    [{ stage: "polish" }, "route", "stage", "polish", /size, clear, colour, tone, blackWhite/],
  ])("refuses %j", (stage, at, setting, value, allowed) => {
    const error = refusal(file(stage));
    expect([error.stage, error.setting, error.value]).toEqual([at, setting, value]);
    expect(error.allowed).toMatch(allowed);
    expect(error.message).not.toContain("\n");
  });

  test("refuses what is not a route at all, and stages twice or out of order", () => {
    expect(refusal(null).message).toMatch(/route/);
    expect(refusal({ ...file(), version: 2 }).setting).toBe("version");
    expect(refusal({ ...file(), name: "" }).setting).toBe("name");
    expect(refusal({ ...file(), extra: 1 }).setting).toBe("extra");
    expect(refusal(file({ stage: "tone" }, { stage: "tone" })).allowed).toMatch(/once/);
    expect(refusal(file({ stage: "tone" }, { stage: "size" })).allowed).toMatch(/order/);
  });

  test("a changed setting is checked, and undefined takes it out", () => {
    const route = readRoute(file({ stage: "size", widthMm: 50 }));
    const higher = withSettings(route, "size", { widthMm: undefined, heightMm: 20 });
    expect(settingsOf(higher, "size")).toMatchObject({ heightMm: 20 });
    expect(settingsOf(higher, "size")).not.toHaveProperty("widthMm");
    expect(() => withSettings(route, "size", { widthMm: -1 })).toThrow(
      /size: widthMm is -1; allowed: 1 or more/,
    );
  });
});

test("a stage is put in at its place and taken out again", () => {
  const route = readRoute(file({ stage: "size", widthMm: 20 }, { stage: "blackWhite" }));
  const longer = withStage(route, "tone");
  expect(longer.stages.map((s) => s.stage)).toEqual(["size", "tone", "blackWhite"]);
  expect(withStage(longer, "tone")).toBe(longer);
  expect(withoutStage(longer, "tone")).toEqual(route);
});

describe("finish size", () => {
  const facts = { width: 4000, height: 3000 };
  const base = { dotsPerInch: 254, resample: "lanczos3" as const, shape: { kind: "whole" as const } };
  test("the other side follows; the finish is a whole number of dots", () => {
    expect(finishOf(facts, { ...base, widthMm: 90 })).toMatchObject({
      widthPx: 900,
      heightPx: 675,
      widthMm: 90,
      heightMm: 67.5,
    });
    expect(finishOf(facts, { ...base, heightMm: 67.5 })).toMatchObject({ widthPx: 900, heightPx: 675 });
    const odd = finishOf(facts, { ...base, widthMm: 90, dotsPerInch: 300 });
    expect(odd.widthPx).toBe(1063);
    expect(odd.widthMm).toBeCloseTo((1063 / 300) * 25.4, 10);
  });
  test("pixels as they are", () => {
    expect(finishOf(facts, { ...base, dotsPerInch: 300, resample: "none" })).toMatchObject({
      widthPx: 4000,
      heightPx: 3000,
    });
  });
  test("refuses contradictions and bitmaps too large, with the figures", () => {
    expect(() => finishOf(facts, { ...base, widthMm: 1, heightMm: 1 })).toThrow(
      /heightMm is 1; allowed: widthMm or heightMm, not both/,
    );
    expect(() => finishOf(facts, { ...base, resample: "none", widthMm: 9 })).toThrow(/size: widthMm is 9/);
    expect(() => finishOf(facts, { ...base, widthMm: 5000, dotsPerInch: 4800 })).toThrow(
      /200 million dots or less; this would be 944882/,
    );
  });
});

function sourceOf(width = 60, height = 40, seed = 5): ArtworkSource & { decoded: number } {
  const picture = randomRgba(width, height, seed, true);
  const source = {
    facts: { sha256: `${seed}`, width, height, vector: false },
    decoded: 0,
    pixels: async () => (source.decoded++, picture),
  };
  return source;
}
const full = readRoute(
  file(
    { stage: "size", widthMm: 10 },
    {
      stage: "tone",
      curve: [
        [0, 0],
        [0.5, 0.6],
        [1, 1],
      ],
      sharpen: { amount: 0.5 },
    },
    { stage: "blackWhite" },
  ),
);

describe("runner", () => {
  test("runs what follows a changed setting and nothing before it", async () => {
    let ticks = 0;
    const runner = new Runner({ clock: () => ++ticks });
    const source = sourceOf();
    const first = await runner.run(full, source);
    expect(first.map((r) => r.stage)).toEqual(["artwork", "size", "tone", "blackWhite"]);
    expect(first.every((r) => r.ms > 0)).toBe(true);
    const changed = await runner.run(withSettings(full, "tone", { black: 0.1 }), source);
    expect(changed.map((r) => r.ms > 0)).toEqual([false, false, true, true]);
    expect(changed.map((r, i) => r.key === first[i].key)).toEqual([true, true, false, false]);
    const back = await runner.run(full, source);
    expect(back.map((r) => r.ms)).toEqual([0, 0, 0, 0]);
    expect(back[3].result).toBe(first[3].result);
    expect(source.decoded).toBe(1);
  });

  test("is deterministic: another runner gives the same bytes", async () => {
    const [a, b] = await Promise.all([
      new Runner().run(full, sourceOf()),
      new Runner().run(full, sourceOf()),
    ]);
    expect(as(a[3].result, "plates").plates).toEqual(as(b[3].result, "plates").plates);
    expect(a.map((r) => r.key)).toEqual(b.map((r) => r.key));
  });

  test("stops at an abort within a slice, and goes on afterwards", async () => {
    const signal = { aborted: false };
    let pauses = 0;
    const runner = new Runner({ pause: async () => void (signal.aborted = ++pauses === 2) });
    await expect(runner.run(full, sourceOf(), { signal })).rejects.toBeInstanceOf(Aborted);
    expect(pauses).toBe(2);
    await expect(runner.run(full, sourceOf())).resolves.toHaveLength(4);
  });

  test("stops early where only a part is wanted; reports rising progress", async () => {
    const shares: number[] = [];
    const results = await new Runner().run(full, sourceOf(), {
      upTo: "tone",
      progress: (s) => shares.push(s),
    });
    expect(results.map((r) => r.stage)).toEqual(["artwork", "size", "tone"]);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.at(-1)).toBe(1);
  });

  test("asks for a drawing made of shapes at the finish width", async () => {
    const asked: (number | undefined)[] = [];
    const source: ArtworkSource = {
      facts: { sha256: "v", width: 20, height: 10, vector: true },
      pixels: async (w) => (asked.push(w), randomRgba(w!, w! / 2, 1)),
    };
    const results = await new Runner().run(full, source, { upTo: "size" });
    expect(asked).toEqual([100]);
    expect(as(results[1].result, "picture").colour).toMatchObject({ width: 100, height: 50 });
  });

  test("keeps the surround bare in both polarities and fades marks with the art", async () => {
    const gray = randomGray(32, 32, 3);
    const rgba = asRgba({ ...gray, data: gray.data.map(() => 0) }, (x) => (x < 16 ? 0 : 255));
    const source: ArtworkSource = {
      facts: { sha256: "c", width: 32, height: 32, vector: false },
      pixels: async () => rgba,
    };
    const shareOf = async (material: string) => {
      const route = readRoute(
        file({ stage: "size", resample: "none" }, { stage: "blackWhite", method: "line", material }),
      );
      const { bits } = as((await new Runner().run(route, source))[2].result, "plates").plates[0];
      return countMarks(bits);
    };
    expect(await shareOf("burns-dark")).toBe(16 * 32);
    expect(await shareOf("burns-pale")).toBe(0);
  });

  test("refuses a blur too wide for the resolution before running it", async () => {
    const route = withSettings(full, "tone", { sharpen: { radiusMm: 5, amount: 1 } });
    const dense = withSettings(route, "size", { widthMm: 2, dotsPerInch: 2400 });
    await expect(new Runner().run(dense, sourceOf())).rejects.toThrow(
      /tone: sharpen.radiusMm is 5; allowed: 0.64 or less/,
    );
  });

  test("a route that leaves Size and Tone out keeps the pixels as they are", async () => {
    const runner = new Runner();
    const route = readRoute(file({ stage: "blackWhite" }));
    const source = sourceOf();
    const results = await runner.run(route, source);
    expect(results.map((r) => r.stage)).toEqual(["artwork", "blackWhite"]);
    expect(results[1].result.finish).toMatchObject({ widthPx: 60, heightPx: 40, dotsPerInch: 254 });
    expect((await runner.inspect(route, source))[1].checks).toHaveLength(7);
  });

  test("inspects each stage: readings, and checks with levels", async () => {
    const runner = new Runner();
    const found = await runner.inspect(full, sourceOf());
    const checks = found.flatMap((f) => f.checks);
    expect(checks.map((c) => c.id)).toEqual([
      "resolution",
      "bareAreas",
      "solidAreas",
      "singleDots",
      "smallMarks",
      "smallGaps",
      "markedShare",
      "haze",
    ]);
    expect(found[1].readings.sourcePerInch).toBe(152.4);
    expect((found[2].readings.histogramAfter as number[]).reduce((a, b) => a + b)).toBe(100 * 67);
  });
});

test("canonical text does not depend on the order of keys", () => {
  expect(canonical({ b: [1, { d: 1, c: 2 }], a: null })).toBe(canonical({ a: null, b: [1, { c: 2, d: 1 }] }));
});

test("the cache keeps within its bytes and forgets what was used longest ago", () => {
  const cache = new ByteCache<string>(100);
  cache.set("a", "A", 40);
  cache.set("b", "B", 40);
  cache.get("a");
  cache.set("c", "C", 40);
  expect([cache.get("a"), cache.get("b"), cache.get("c")]).toEqual(["A", undefined, "C"]);
  cache.set("huge", "H", 1000);
  expect([cache.get("huge"), cache.get("a"), cache.bytes]).toEqual(["H", undefined, 1000]);
});

test("colourways that a file of before has among Films' settings are the route's, each with a name of its own", () => {
  const way = { garment: "#d8c8a0", colours: { red: "#204060" } };
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "Old" },
    stages: [
      { stage: "films", colourways: ["Sand", "Sand", "sand 2", "Moss"].map((name) => ({ ...way, name })) },
    ],
  });
  expect(route.colourways.map((w) => w.name)).toEqual(["Sand", "Sand 2", "sand 2 2", "Moss"]);
  expect(route.colourways[0]).toEqual({ ...way, name: "Sand", recolour: [], shown: true });
  expect(settingsOf(route, "films")).not.toHaveProperty("colourways");
  expect(readRoute(route)).toEqual(route);
});
