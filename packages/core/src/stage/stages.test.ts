import { runToEnd } from "../maths/work";
import { countMarks } from "../raster/bits";
import { dotsFingerprint } from "../raster/fingerprint";
import { bitAt } from "../raster/types";
import { as, type Result } from "../result/result";
import { ByteCache } from "../route/byteCache";
import { readRoute } from "../route/route";
import { Runner } from "../route/runner";
import { artFrom } from "../testing/clearings";
import { asRgba, grayOf, randomGray } from "../testing/pictures";
import { runStage, settingsFor } from "../testing/running";
import { stageById, STAGES, type StageId } from "./stages";
import { histogramOf } from "./tone/histogram";

/** A picture as a stage takes it, with what stages made of it within reach. */
const run = (stage: StageId, on: Result, given: object = {}): Result => runStage(stage, on, given);
const picture = (on: Result) => as(on, "picture");
const toned = (on: Result) => as(on, "tone");
const dots = (on: Result) => {
  const { plates, threshold, cover } = as(on, "plates");
  return { bits: plates[0].bits, threshold, cover };
};
const says = (stage: StageId, given: object = {}): string =>
  stageById(stage).summary(settingsFor(stage, given));

test("every stage has a name of its own and words for what was decided", () => {
  expect(new Set(STAGES.map((s) => s.id)).size).toBe(STAGES.length);
  expect(() => stageById("varnish")).toThrow("there is no stage varnish");
  expect([
    says("size", { widthMm: 90 }),
    says("size", { heightMm: 12.25, dotsPerInch: 300, resample: "bicubic" }),
    says("size", { resample: "none" }),
    says("tone"),
    says("tone", {
      curve: [
        [0, 0],
        [0.5, 0.62],
        [1, 0.97],
      ],
      black: 0.02,
      sharpen: { amount: 0.5 },
    }),
    says("tone", {
      curve: [
        [0, 0],
        [0.5, 0.4],
        [1, 1],
      ],
    }),
    says("blackWhite", { method: "line", threshold: "auto" }),
    says("blackWhite", { kernel: "sierra-lite", strength: 0.9, serpentine: true, material: "burns-pale" }),
  ]).toEqual([
    "90 mm wide, 254 dots/in",
    "12.3 mm high, 300 dots/in, bicubic",
    "pixels as they are, 254 dots/in",
    "as it is",
    "middle +12, lightest 97 %, levels 2 to 100 %, sharpened 50 %",
    "middle −10",
    "Line at auto",
    "Sierra lite, strength 90 %, serpentine, burns pale",
  ]);
});

describe("size", () => {
  test("gives the picture as many pixels as the finish has dots", () => {
    const art = run("size", artFrom(asRgba(randomGray(60, 30, 1))), { widthMm: 10, dotsPerInch: 254 });
    expect(art.finish).toMatchObject({ widthPx: 100, heightPx: 50 });
    expect(picture(art).colour).toMatchObject({ width: 100, height: 50 });
  });

  test("with pixels as they are does not touch one of them", () => {
    const colour = asRgba(randomGray(60, 30, 1));
    expect(picture(run("size", artFrom(colour), { resample: "none" })).colour).toBe(colour);
  });
});

describe("tone", () => {
  const colour = asRgba(randomGray(40, 25, 4));

  test("plain, is the grey of the colour", () => {
    expect(toned(run("tone", artFrom(colour))).gray).toEqual(randomGray(40, 25, 4));
  });

  test("the curve has the last word over what sharpening throws up", () => {
    const edge = asRgba(grayOf(40, 10, (x) => (x < 20 ? 30 : 230)));
    const { gray } = toned(
      run("tone", artFrom(edge), {
        sharpen: { amount: 3, radiusMm: 0.3 },
        curve: [
          [0, 0],
          [1, 0.9],
        ],
      }),
    );
    expect(Math.max(...gray.data)).toBe(Math.round(255 * 0.9));
  });

  test("a moved curve finds the sharpened picture again, and gives what a fresh run gives", () => {
    const sharp = { sharpen: { amount: 1, radiusMm: 0.2 } };
    const art = artFrom(colour);
    const room = new ByteCache<unknown>(1 << 24);
    runStage("tone", art, sharp, room);
    const before = room.bytes;
    const again = toned(runStage("tone", art, { ...sharp, black: 0.2 }, room)).gray;
    expect(room.bytes).toBe(before); // nothing was sharpened anew
    expect(again).toEqual(toned(run("tone", art, { ...sharp, black: 0.2 })).gray);
    runStage("tone", art, { sharpen: { amount: 2, radiusMm: 0.2 } }, room);
    expect(room.bytes).toBeGreaterThan(before);
  });

  test("histograms count the art only", () => {
    const half = asRgba(
      grayOf(10, 10, () => 77),
      (x) => (x < 5 ? 255 : 0),
    );
    const counts = runToEnd(histogramOf(toned(run("tone", artFrom(half)))));
    expect([counts[77], counts.reduce((a, b) => a + b)]).toEqual([50, 50]);
  });
});

describe("black & white", () => {
  const art = artFrom(asRgba(randomGray(64, 48, 9)));

  test("burns pale marks exactly what burns dark leaves of the turned-round picture", () => {
    const turned = artFrom(
      asRgba({ ...randomGray(64, 48, 9), data: randomGray(64, 48, 9).data.map((g) => 255 - g) }),
    );
    const dark = dots(run("blackWhite", art, { kernel: "burkes" })).bits;
    expect(dots(run("blackWhite", turned, { kernel: "burkes", material: "burns-pale" })).bits).toEqual(dark);
  });

  test("auto tells the threshold it found, and marks as that threshold does", () => {
    const auto = dots(run("blackWhite", art, { method: "line", threshold: "auto" }));
    expect(auto.threshold).toBeGreaterThan(100);
    expect(dots(run("blackWhite", art, { method: "line", threshold: auto.threshold })).bits).toEqual(
      auto.bits,
    );
  });

  test("marks fade out with art that fades out", () => {
    const black = asRgba(
      grayOf(200, 200, () => 0),
      (x) => Math.round((x * 255) / 199),
    );
    const { bits } = dots(run("blackWhite", artFrom(black), { kernel: "stucki" }));
    const share = (from: number, to: number) => {
      let n = 0;
      for (let y = 0; y < 200; y++) for (let x = from; x < to; x++) n += bitAt(bits, x, y);
      return n / (200 * (to - from));
    };
    expect(share(0, 1)).toBe(0);
    expect(share(40, 60)).toBeCloseTo(0.25, 1);
    expect(share(140, 160)).toBeCloseTo(0.75, 1);
  });

  test("without Tone it takes the plain grey", () => {
    const toned = run("tone", art);
    expect(dots(run("blackWhite", toned, {})).bits).toEqual(dots(run("blackWhite", art, {})).bits);
  });
});

test("the same bytes on every machine: a route on a made picture has the fingerprint it always had", async () => {
  const picture = asRgba(grayOf(160, 120, (x, y) => (x * 3 + y * 2 + ((x * y) % 37)) & 255));
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "Fixed",
    stages: [
      { stage: "size", widthMm: 21.3, dotsPerInch: 300 },
      {
        stage: "tone",
        black: 0.03,
        curve: [
          [0, 0.02],
          [0.4, 0.51],
          [1, 0.98],
        ],
        sharpen: { radiusMm: 0.17, amount: 0.7 },
      },
      { stage: "blackWhite", kernel: "jarvis-judice-ninke", strength: 0.93, serpentine: true },
    ],
  });
  const source = {
    facts: { sha256: "x", width: 160, height: 120, vector: false },
    pixels: async () => picture,
  };
  const { bits } = dots((await new Runner().run(route, source))[3].result);
  expect([bits.width, bits.height, countMarks(bits)]).toEqual([252, 189, FIXED_MARKS]);
  expect(runToEnd(dotsFingerprint(bits))).toBe(FIXED_FINGERPRINT);
});
const FIXED_MARKS = 20617;
const FIXED_FINGERPRINT = "a7875aa8efcf271265a2bbbc210cbeb2eda469a782d8e59de785153620eb46aa";

describe("the piece's own shape", () => {
  const shades = asRgba(grayOf(200, 100, (x) => x));
  const shape = (given: object) =>
    picture(run("size", artFrom(shades), { widthMm: 10, dotsPerInch: 254, shape: given }));
  test("cuts the picture down to its box, and clears what lies outside", () => {
    const round = shape({ kind: "round", box: [0.25, 0, 0.5, 1] });
    expect(round.finish).toMatchObject({ widthPx: 100, heightPx: 100, widthMm: 10 });
    expect(round.frame).toEqual({ x: 0.25, y: 0, width: 0.5, height: 1 });
    const alpha = (x: number, y: number) => round.colour.data[(y * 100 + x) * 4 + 3];
    expect([alpha(50, 50), alpha(2, 2), alpha(97, 97), alpha(1, 50)]).toEqual([255, 0, 0, 255]);
    const area = round.colour.data.reduce((a, v, i) => a + ((i & 3) === 3 ? v : 0), 0) / 255;
    expect(area / (Math.PI * 2500)).toBeCloseTo(1, 3);
    expect(round.colour.data[(50 * 100 + 30) * 4]).toBe(80);
  });
  test("a rectangle is cut, a rounded one loses its corners only", () => {
    const all = shape({ kind: "rectangle", box: [0.1, 0.2, 0.8, 0.6] });
    expect([all.finish.widthPx, all.finish.heightPx]).toEqual([100, 38]);
    expect(all.colour.data.every((v, i) => (i & 3) !== 3 || v === 255)).toBe(true);
    const rounded = shape({ kind: "rounded", cornerMm: 1, box: [0, 0, 1, 1] });
    const alpha = (x: number, y: number) => rounded.colour.data[(y * 100 + x) * 4 + 3];
    expect([alpha(0, 0), alpha(99, 0), alpha(10, 0), alpha(0, 25)]).toEqual([0, 0, 255, 255]);
  });
  test("positions of later stages are still those of the whole artwork", () => {
    const round = shape({ kind: "rectangle", box: [0.5, 0, 0.5, 1] });
    const picked = picture(run("clear", round, { ops: [{ op: "pick", at: [0.75, 0.5], tolerance: 1 }] }));
    const gone = Array.from({ length: 100 }, (_, x) => picked.colour.data[(50 * 100 + x) * 4 + 3]);
    expect(gone[50]).toBeLessThan(255);
    expect([gone[10], gone[90]]).toEqual([255, 255]);
    expect(
      picture(run("clear", round, { ops: [{ op: "pick", at: [0.1, 0.5], tolerance: 100 }] })).colour.data,
    ).toEqual(round.colour.data);
  });
  test("a box that leaves the artwork is refused", () => {
    expect(() => settingsFor("size", { shape: { kind: "round", box: [0.6, 0, 0.5, 1] } })).toThrow(
      /shape.box.2 is 0.5; allowed: 0.4 or less/,
    );
    expect(() => settingsFor("size", { shape: { kind: "heart" } })).toThrow(
      /"whole", "round", "rectangle", "rounded", "path"/,
    );
    expect(says("size", { widthMm: 40, shape: { kind: "round" } })).toContain("round piece");
  });
});
