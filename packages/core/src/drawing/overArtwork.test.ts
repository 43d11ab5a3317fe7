import { knotPathsOf } from "../path/pathSet";
import { as } from "../result/result";
import { admit } from "../route/plan";
import { readRoute, type Route } from "../route/route";
import { Runner } from "../route/runner";
import { NO_TURN } from "../turn/turn";
import { turnedOver } from "./turnedOver";

const [WIDTH, HEIGHT] = [80, 60];
const facts = { sha256: "b".repeat(64), width: WIDTH, height: HEIGHT, vector: true };
const route = (...stages: object[]): Route =>
  readRoute({
    ...{ format: "hard-line-route", version: 1, name: "A" },
    stages: [{ stage: "size", widthMm: 40, dotsPerInch: 254 }, ...stages],
  });
const pathsOf = async (given: Route) => {
  const results = await new Runner().run(given, {
    facts,
    pixels: async (width = WIDTH) => ({
      width,
      height: (width * 3) / 4,
      data: new Uint8Array(((width * width * 3) / 4) * 4).fill(255),
    }),
  });
  return as(results[results.length - 1].result, "paths");
};

/** A drawing of 160 x 120 mm, four times as large as the piece: a field with a bent side. */
const OWN = { d: "M16 12H144V108C100 90 60 90 16 108Z", widthMm: 160, heightMm: 120 };

test("a cut line along a drawing's own path is that path, curves and all, at the piece's size", async () => {
  const { sets } = await pathsOf(route({ stage: "cutLine", from: "drawing", drawing: OWN }));
  const [path] = knotPathsOf(sets[0]);
  expect(path.closed).toBe(true);
  // as often as there were knots, whichever comes first
  const places = path.knots.map((k) => k.at.map((v) => Math.round(v * 1000) / 1000).join());
  expect([...places].sort()).toEqual(["36,27", "36,3", "4,27", "4,3"]);
  const bent = path.knots.flatMap((k) => [k.in, k.out].filter((h) => h && Math.hypot(...h) > 0));
  expect(bent).toHaveLength(2);
  expect(Math.min(...bent.map((h) => Math.hypot(h![0], h![1])))).toBeCloseTo(Math.hypot(11, 4.5), 3);
});

test("with a border it goes round the path", async () => {
  const square = { d: "M40 40H80V80H40Z", widthMm: 160, heightMm: 120 };
  const { sets } = await pathsOf(
    route({ stage: "cutLine", from: "drawing", drawing: square, offsetMm: 2, join: "mitre" }),
  );
  const xs = knotPathsOf(sets[0])[0].knots.map((k) => k.at[0]);
  expect([Math.min(...xs), Math.max(...xs)]).toEqual([expect.closeTo(8, 2), expect.closeTo(22, 2)]);
});

test("a piece cut out of the drawing keeps the path where it lies on it", async () => {
  const cut = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "A" },
    stages: [
      {
        stage: "size",
        widthMm: 20,
        dotsPerInch: 254,
        shape: { kind: "rectangle", box: [0.25, 0.25, 0.5, 0.5] },
      },
      { stage: "cutLine", from: "drawing", drawing: { ...OWN, d: "M80 60H100V80H80Z" } },
    ],
  });
  const [path] = knotPathsOf((await pathsOf(cut)).sets[0]);
  // the middle of the drawing is the middle of the piece
  expect(path.knots.map((k) => k.at.map((v) => Math.round(v * 100) / 100).join()).sort()).toEqual([
    ...["10,12.5", "10,7.5", "15,12.5", "15,7.5"],
  ]);
});

test("a trace of a drawing's own paths has its sets, filled and lined, as they are named", async () => {
  const drawing = {
    sets: [
      { name: "art", colour: "#aa2030", d: "M16 12H80V60Z" },
      { name: "folds", colour: "#00ff00", use: "score", d: "M80 0V120" },
    ],
    ...{ widthMm: 160, heightMm: 120 },
  };
  const { sets, dropped } = await pathsOf(route({ stage: "trace", from: "drawing", drawing }));
  expect(sets.map(({ name, use, colour }) => [name, use, colour])).toEqual([
    ["art", "fill", 0xaa2030],
    ["folds", "score", 0x00ff00],
  ]);
  expect(knotPathsOf(sets[1])[0]).toMatchObject({
    closed: false,
    knots: [{ at: [20, 0] }, { at: [20, 30] }],
  });
  expect(dropped).toEqual({ specks: 0, pinholes: 0 });
});

test.each([
  [{ stage: "cutLine", from: "drawing" }, /drawing is .*; allowed: paths of a drawing/],
  [{ stage: "trace", from: "drawing" }, /drawing is .*; allowed: paths of a drawing/],
])("%j is refused without a drawing", (stage, reason) => {
  expect(() => admit(route(stage), facts)).toThrow(reason);
});

test.each([
  [{ stage: "cutLine", drawing: { ...OWN, d: "M0 0L9 9" } }, /closed/],
  [{ stage: "cutLine", drawing: { ...OWN, widthMm: 0 } }, /0.1/],
  [{ stage: "trace", drawing: { sets: [], widthMm: 9, heightMm: 9 } }, /sets/],
  [
    {
      stage: "trace",
      drawing: { sets: [{ name: "a", colour: "red", d: "M0 0L9 9" }], widthMm: 9, heightMm: 9 },
    },
    /#rrggbb/,
  ],
  [
    {
      stage: "trace",
      drawing: { sets: [{ name: "a", colour: "#ff0000", d: "up and down" }], widthMm: 9, heightMm: 9 },
    },
    /path data/,
  ],
])("settings that are no drawing are refused: %j", (stage, reason) => {
  expect(() => route(stage)).toThrow(reason);
});

test("paths over an artwork that is turned already lie on what they are drawn round", () => {
  const corner = { d: "M0 0H40V30Z", widthMm: 160, heightMm: 120 };
  const right = turnedOver(corner, { ...NO_TURN, turn: 90 });
  expect([right.widthMm, right.heightMm]).toEqual([120, 160]);
  // the upper left goes to the upper right; along becomes down
  expect(right.d).toBe("M120 0L120 40 90 40Z");
  const askew = turnedOver(corner, { ...NO_TURN, straighten: 90 / 2 });
  expect(askew.widthMm).toBeCloseTo((160 + 120) / Math.SQRT2, 1);
  const mirrored = turnedOver(corner, { ...NO_TURN, mirror: true });
  expect(mirrored.d).toBe("M160 0H120V30Z");
});
