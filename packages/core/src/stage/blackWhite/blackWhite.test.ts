import { runToEnd } from "../../maths/work";
import { USUAL_LIMITS } from "../../inspect/limits";
import { countMarks } from "../../raster/bits";
import { bitAt } from "../../raster/types";
import { asItIs } from "../../result/finish";
import { type Plates, type Tone } from "../../result/result";
import { grayOf } from "../../testing/pictures";
import { inspectStage, runStage, settingsFor } from "../../testing/running";
import { stageById } from "../stages";
import { dotTable, madeFor, type DotSettings } from "../../dots/dotSettings";
import { METHODS } from "../../dots/methods";
import { responseOf, RESPONSE_STEPS } from "./response";

const SIDE = 192;
const toneOf = (
  at: (x: number, y: number) => number,
  cover: Uint8Array | null = null,
  dotsPerInch = 254,
): Tone => ({
  kind: "tone",
  ...asItIs({ width: SIDE, height: SIDE }),
  finish: {
    widthPx: SIDE,
    heightPx: SIDE,
    dotsPerInch,
    widthMm: (SIDE / dotsPerInch) * 25.4,
    heightMm: (SIDE / dotsPerInch) * 25.4,
  },
  gray: grayOf(SIDE, SIDE, at),
  cover,
});
const even = (g: number) => toneOf(() => g);
const made = (on: Tone, given: object): Plates => runStage("blackWhite", on, given) as Plates;
const share = (plates: Plates): number => countMarks(plates.plates[0].bits) / (SIDE * SIDE);
const dotted = (given: object) =>
  settingsFor("blackWhite", given) as DotSettings & { method: string; material: "burns-dark" };
const GAIN = [
  [0, 0],
  [0.5, 0.7],
  [1, 1],
];

/** Every way to dots: a name, and its settings. */
const WAYS: [string, object][] = [
  ["Floyd, Steinberg", { method: "scatter" }],
  ["Stucki, serpentine, edges kept", { method: "scatter", kernel: "stucki", serpentine: true, keepEdges: 1 }],
  ["blue noise", { method: "scatter", kernel: "blue-noise" }],
  ["squares of two", { method: "scatter", kernel: "jarvis-judice-ninke", smallestMark: 2 }],
  ["screen", { method: "screen", linesPerInch: 32, angle: 15 }],
  ["screen with large marks", { method: "screen", linesPerInch: 25, smallestMark: 3, smallestGap: 2 }],
];

describe.each(WAYS)("%s", (_name, way) => {
  test("answers every tone with as much black", () => {
    const response = runToEnd(responseOf(dotted(way), even(0).finish));
    expect(response).toHaveLength(RESPONSE_STEPS + 1);
    response.forEach((out, k) => expect(Math.abs(out - (100 * k) / RESPONSE_STEPS)).toBeLessThan(2.5));
  });
  test("takes the gain of the process off, and says so of what is seen", () => {
    for (const g of [64, 128, 200]) {
      const wanted = 1 - g / 255;
      expect(share(made(even(g), { ...way, gain: GAIN }))).toBeCloseTo(
        madeFor(dotted({ gain: GAIN }).gain)(wanted),
        1,
      );
    }
    const seen = runToEnd(responseOf(dotted({ ...way, gain: GAIN }), even(0).finish));
    seen.forEach((out, k) => expect(Math.abs(out - (100 * k) / RESPONSE_STEPS)).toBeLessThan(3));
  });
  test("is held off empty and off solid, inside the art alone", () => {
    const cover = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => (i % SIDE < SIDE / 2 ? 0 : 255));
    const held = { ...way, holdHighlight: 4, holdShadow: 6 };
    const pale = made(
      toneOf(() => 255, cover),
      held,
    );
    const dark = made(
      toneOf(() => 0),
      held,
    );
    expect(share(pale) * 2).toBeCloseTo(0.04, 1);
    expect(share(pale)).toBeGreaterThan(0.012);
    expect(share(dark)).toBeLessThan(0.96);
    let outside = 0;
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < SIDE / 2; x++) outside += bitAt(pale.plates[0].bits, x, y);
    expect(outside).toBe(0);
  });
  test("on what burns pale marks the light, and leaves the surround bare", () => {
    const cover = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => (i < (SIDE * SIDE) / 2 ? 0 : 255));
    const marks = made(
      toneOf(() => 200, cover),
      { ...way, material: "burns-pale" },
    );
    expect(2 * share(marks)).toBeGreaterThan(0.7);
    expect(
      countMarks({
        ...marks.plates[0].bits,
        data: marks.plates[0].bits.data.subarray(0, (SIDE / 2) * (SIDE / 8)),
      }),
    ).toBe(0);
  });
});

describe("the curve of the process", () => {
  test("is turned round: what is made comes out as wanted", () => {
    const { gain } = dotted({
      gain: [
        [0, 0],
        [0.2, 0.35],
        [0.6, 0.8],
        [1, 1],
      ],
    });
    const at = madeFor(gain);
    expect(at(0.35)).toBeCloseTo(0.2, 3);
    expect(at(0.8)).toBeCloseTo(0.6, 3);
    expect([at(0), at(1)]).toEqual([0, 1]);
  });
  test("tables fall evenly and keep to what is held", () => {
    const table = dotTable(dotted({ gain: GAIN, holdHighlight: 5, holdShadow: 10 }));
    for (let g = 1; g < 256; g++) expect(table[g]).toBeGreaterThanOrEqual(table[g - 1]);
    expect([table[0], table[255]]).toEqual([25, 242]);
  });
});

describe("what is not allowed is refused with its value and what is", () => {
  test.each<[object, RegExp]>([
    [{ method: "screen", linesPerInch: 10000 }, /linesPerInch is 10000; allowed: 400 or less/],
    [{ method: "screen", linesPerInch: NaN }, /linesPerInch is null; allowed: a number/],
    [
      { method: "screen", dot: "heart" },
      /dot is "heart"; allowed: "round", "ellipse", "square", "diamond", "line"/,
    ],
    [
      {
        gain: [
          [0, 0],
          [0.4, 0.6],
          [0.3, 0.7],
          [1, 1],
        ],
      },
      /gain.2.0 is 0.3; allowed: above 0.4, the point before/,
    ],
    [
      {
        gain: [
          [0, 0],
          [0.4, 0.6],
          [0.7, 0.5],
          [1, 1],
        ],
      },
      /gain.2.1 is 0.5; allowed: above 0.6, the point before/,
    ],
    [
      {
        gain: [
          [0, 0.1],
          [1, 1],
        ],
      },
      /gain.0.1 is 0.1; allowed: 0, for nothing stays nothing/,
    ],
    [
      {
        gain: [
          [0, 0],
          [0.9, 1],
        ],
      },
      /gain.1.0 is 0.9; allowed: 1, for all stays all/,
    ],
    [{ holdHighlight: 80 }, /holdHighlight is 80; allowed: 45 or less/],
    [{ smallestMark: 1.5 }, /smallestMark is 1.5; allowed: a whole number of dots, 1 to 64, or/],
    [{ smallestGap: { mm: 0 } }, /smallestGap is .*; allowed: a whole number of dots/],
    [{ kernel: "mosaic" }, /kernel is "mosaic"; allowed: "floyd-steinberg", .*"blue-noise"/],
    [{ method: "line", local: { windowMm: 0 } }, /local.windowMm is 0; allowed: 0.1 or more/],
    [{ method: "line", linesPerInch: 3 }, /linesPerInch/],
    [{ resistFilm: { printerDotsPerInch: 0 } }, /resistFilm.printerDotsPerInch is 0; allowed: 10 or more/],
  ])("%j", (given, message) => {
    expect(() => settingsFor("blackWhite", given)).toThrow(message);
  });
  const admit = (given: object, dotsPerInch: number) => () => {
    const { finish: place } = toneOf(() => 0, null, dotsPerInch);
    stageById("blackWhite").admit!(settingsFor("blackWhite", given), {
      finish: place,
      frame: { x: 0, y: 0, width: 1, height: 1 },
    });
  };
  test("settings that do not fit the resolution", () => {
    expect(admit({ method: "screen", linesPerInch: 150 }, 254)).toThrow(
      /linesPerInch is 150; allowed: 127 or less at 254/,
    );
    expect(admit({ method: "screen", linesPerInch: 50, smallestMark: 4 }, 254)).toThrow(
      /smallestMark is 4; allowed: 2 dots or less/,
    );
    expect(admit({ resistFilm: { printerDotsPerInch: 720 } }, 150)).toThrow(
      /720; allowed: a whole multiple .* 150 .* such as 750 or 900/,
    );
    expect(admit({ resistFilm: { printerDotsPerInch: 720 } }, 144)).not.toThrow();
  });
});

test("a resist film has each dot as a square of the printer's", async () => {
  const marks = made(
    toneOf((x, y) => (x * 7 + y * 3) % 256, null, 144),
    { kernel: "stucki" },
  );
  const settings = settingsFor("blackWhite", { kernel: "stucki", resistFilm: { printerDotsPerInch: 720 } });
  const names: string[] = [];
  const doing = async <T>(work: Generator<number, T, void>): Promise<T> => runToEnd(work);
  let film: Uint8Array | null = null;
  for await (const file of stageById("blackWhite").files!(marks, settings, doing, "1042", [])) {
    names.push(file.name);
    if (file.name === "film.png") film = file.bytes;
  }
  expect(names).toEqual(["bitmap.png", "bitmap.tif", "bitmap.pdf", "film.png", "film.tif", "film.pdf"]);
  const view = new DataView(film!.buffer, film!.byteOffset);
  expect([view.getUint32(16), view.getUint32(20)]).toEqual([SIDE * 5, SIDE * 5]);
});

describe("checks by what the material holds", () => {
  const look = (on: Tone, given: object, limits: object = {}) => {
    const { checks, readings } = inspectStage(
      "blackWhite",
      made(on, given),
      given,
      { ...USUAL_LIMITS, ...limits },
      on,
    );
    return { readings, of: (id: string) => checks.find((c) => c.id === id)! };
  };
  // Ten dots a millimetre.
  const ink = (x: number, y: number) =>
    x > 20 && x < 120 && y >= 40 && y < 43
      ? 0
      : x > 20 && x < 120 && y >= 90 && y < 110
        ? 0
        : x >= 150 && x < 152 && y >= 20 && y < 22
          ? 0
          : 255;
  test("strokes thinner than a width, with the width, and marks without room for the smallest", () => {
    const { of, readings } = look(toneOf(ink), { method: "line" }, { strokeMm: 0.5, dotMm: 0.3, gapMm: 0.3 });
    expect(of("thinStrokes")).toMatchObject({
      level: "look",
      text: "1 stroke too thin",
      value: 0.3,
      unit: "mm",
    });
    expect(of("thinStrokes").places[0].yMm).toBeCloseTo(4.1, 1);
    expect(readings.thinnestMm).toBe(0.3);
    expect(of("smallMarks")).toMatchObject({ level: "look", value: 1 });
    expect(of("smallMarks").places[0]).toEqual({ xMm: 15, yMm: 2, widthMm: 0.2, heightMm: 0.2 });
    expect(of("smallGaps").level).toBe("fine");
    expect(look(toneOf(ink), { method: "line" }, { strokeMm: 0.3, dotMm: 0.2 }).of("thinStrokes").level).toBe(
      "fine",
    );
  });
  test("gaps that fill in; what lies outside the art is none", () => {
    const holed = toneOf((x, y) =>
      x > 60 && x < 63 && y > 60 && y < 63 ? 255 : x > 20 && x < 150 && y > 20 && y < 150 ? 0 : 255,
    );
    expect(look(holed, { method: "line" }, { gapMm: 0.3 }).of("smallGaps")).toMatchObject({
      level: "look",
      value: 1,
    });
    const cover = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => (holed.gray.data[i] === 0 ? 255 : 0));
    expect(look({ ...holed, cover }, { method: "line" }, { gapMm: 0.3 }).of("smallGaps").level).toBe("fine");
  });
  test("marks of a least size are small nowhere", () => {
    const ramp = toneOf((x) => Math.round((x / SIDE) * 255));
    for (const way of [
      { method: "scatter", smallestMark: 3 },
      { method: "screen", linesPerInch: 25, smallestMark: 3, smallestGap: 3 },
    ]) {
      const { of } = look(ramp, way, { dotMm: 0.3, gapMm: 0.3 });
      expect(of("smallMarks").value).toBe(0);
      expect(of("smallGaps").value).toBe(0);
      expect(of("singleDots").value).toBe(0);
    }
    expect(look(ramp, { method: "scatter" }, { dotMm: 0.3 }).of("smallMarks").value).toBeGreaterThan(200);
  });
  test("a tint that runs to the edge is a haze; bare paper, and art that is cleared, are none", () => {
    const tinted = toneOf((x, y) => (Math.hypot(x - 96, y - 96) < 50 ? 90 : 251));
    const { of } = look(tinted, { method: "screen", linesPerInch: 25 });
    expect(of("haze")).toMatchObject({ level: "look", value: 1.6, unit: "%" });
    expect(of("haze").places).toHaveLength(1);
    expect(
      look(
        toneOf((x) => (x < 96 ? 90 : 255)),
        { method: "screen", linesPerInch: 25 },
      ).of("haze").level,
    ).toBe("fine");
  });
  test("too few tones for the ruling", () => {
    const tones = (linesPerInch: number) =>
      look(even(128), { method: "screen", linesPerInch }).of("toneSteps");
    expect(tones(25)).toMatchObject({ level: "fine", value: 104 });
    expect(tones(45)).toMatchObject({ level: "look", value: 32, unit: "tones" });
    expect(tones(45).detail).toContain("At 25 lines per inch it would have 100");
    expect(tones(120).level).toBe("stop");
  });
  test("readings: tone made, marked by region, lengths of runs", () => {
    const { readings } = look(
      toneOf((x) => (x < 96 ? 0 : 255)),
      { method: "scatter" },
    );
    expect(readings.regions).toEqual(Array.from({ length: 16 }, (_, i) => (i % 4 < 2 ? 100 : 0)));
    const striped = look(
      toneOf((x) => (x % 5 < 2 ? 0 : 255)),
      { method: "line" },
    );
    const marks = striped.readings.runsMarked as number[];
    const gaps = striped.readings.runsBare as number[];
    expect([marks[1], marks[0], gaps[2]]).toEqual([39 * SIDE, 0, 38 * SIDE]);
    expect(striped.readings.response).toBeUndefined();
  });
});

test("every method says what it does, and has a sample for the strip that compares them", () => {
  for (const { id, samples, summary, settings } of METHODS) {
    const said = summary(settings.parse({ method: id }) as never);
    expect(said.length).toBeGreaterThan(4);
    expect(samples.length).toBeGreaterThan(0);
  }
});
