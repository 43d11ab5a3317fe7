import { runToEnd } from "../maths/work";
import { rectangleKnots, roundKnots } from "../path/outline";
import { boxOf, pathSetOf, type KnotPath } from "../path/pathSet";
import { type Check, type Readings } from "../inspect/check";
import { partsOf } from "../polygon/around";
import { areaOf, ringArea, ringBox } from "../polygon/rings";
import { type Rgba } from "../raster/types";
import { runStage, inspectStage, deliveredBy } from "../testing/running";
import { artFrom } from "../testing/clearings";
import { asRgba, grayOf } from "../testing/pictures";
import { readRoute } from "../route/route";
import { USUAL_LIMITS } from "../inspect/limits";
import { Runner } from "../route/runner";
import { type Paths, type Picture } from "../result/result";
import { readSvgDrawing } from "../drawing/readSvg";
import { pathData, writePathsSvg } from "../format/svg";
import { ringsOf } from "../path/flatten";
import { artBase, pieceBase, tracedBase, type Base } from "./base";
import { cutAround, type CutWish } from "./cutLine";
import { printOf } from "./print";

const filled = (...paths: KnotPath[]): Base =>
  runToEnd(
    tracedBase({
      sets: [pathSetOf({ name: "trace", use: "fill", colour: 0 }, paths)],
    } as unknown as Paths),
  );
const shape = (...knots: KnotPath["knots"][]): Base =>
  filled(...knots.map((k) => ({ knots: k, closed: true })));
const PLAIN: CutWish = {
  gaps: { fillSmallerThanMm2: 0, keep: [], fill: [] },
  parts: { keep: "all", smallestMm2: 0, bridgeMm: 0 },
  ...{ smoothMm: 0, offsetMm: 0, join: "round", tab: null, way: "clockwise" },
};
const cut = (base: Base, wish: Partial<CutWish>) => runToEnd(cutAround(base, { ...PLAIN, ...wish }));

describe("gaps", () => {
  const plate = shape(
    rectangleKnots(0, 0, 40, 40),
    roundKnots(4, 4, 10, 10),
    rectangleKnots(24, 6, 5, 5),
    rectangleKnots(30, 30, 2, 2),
  );
  test("are listed by area, filled under one, and each by its place whatever its area", () => {
    const { gaps, rings } = cut(plate, {
      gaps: { fillSmallerThanMm2: 30, keep: [[31, 31]], fill: [[9, 9]] },
    });
    expect(gaps.map((g) => [Math.round(g.areaMm2), g.filled])).toEqual([
      [79, true],
      [25, true],
      [4, false],
    ]);
    expect(areaOf(rings)).toBeCloseTo(1600 - 4, 1);
    expect(gaps[2].box).toEqual({ xMm: 30, yMm: 30, widthMm: 2, heightMm: 2 });
  });
  test("what lay in a gap that is filled becomes part of it", () => {
    const nested = shape(
      rectangleKnots(0, 0, 40, 40),
      rectangleKnots(5, 5, 20, 20),
      rectangleKnots(10, 10, 5, 5),
    );
    expect(cut(nested, { gaps: { ...PLAIN.gaps, fillSmallerThanMm2: 500 } }).rings).toHaveLength(1);
    expect(cut(nested, {}).rings).toHaveLength(3);
  });
});

test("what a border closes in, meeting itself, is a gap as well", () => {
  // A horseshoe whose mouth of 3 mm is shut by a border of 2.
  const shoe = shape(
    [
      [0, 0],
      [30, 0],
      [30, 30],
      [16.5, 30],
      [16.5, 25],
      [25, 25],
      [25, 5],
      [5, 5],
      [5, 25],
      [13.5, 25],
      [13.5, 30],
      [0, 30],
    ].map(([x, y]) => ({ at: [x, y] as const })),
  );
  const open = cut(shoe, { offsetMm: 2 });
  expect(open.gaps.map((g) => [Math.round(g.areaMm2), g.filled])).toEqual([[257, false]]); // 16 x 16, and what is left of the mouth between two arcs
  expect(open.rings).toHaveLength(2);
  const filled = cut(shoe, { offsetMm: 2, gaps: { ...PLAIN.gaps, fill: [[15, 15]] } });
  expect(filled.rings).toHaveLength(1);
});

test("where nothing moves it, the curves of an outline stay as they are, run as an area's edge is", () => {
  const knots = roundKnots(5, 5, 20, 12);
  const { paths, rings } = cut(shape(rectangleKnots(0, 0, 40, 40), knots), {});
  expect(paths[0].knots.map((k) => k.at).sort()).toEqual(knots.map((k) => k.at).sort());
  expect(rings.map((r) => Math.sign(ringArea(r)))).toEqual([-1, 1]); // the hole first, the other way round
});

test("inside is cut before outside, neighbours one after another, and the whole the other way when wished", () => {
  const base = shape(
    rectangleKnots(60, 0, 10, 10),
    rectangleKnots(0, 0, 40, 40),
    rectangleKnots(5, 5, 20, 20),
    rectangleKnots(10, 10, 5, 5),
  );
  const { rings } = cut(base, {});
  expect(rings.map((r) => Math.round(Math.abs(ringArea(r))))).toEqual([25, 400, 1600, 100]);
  const other = pathSetOf(
    { name: "a", use: "kiss", colour: 0 },
    cut(base, { way: "counterclockwise" }).paths,
  );
  expect(ringArea(other.points.subarray(0, 26))).toBeLessThan(0);
});

describe("a tab", () => {
  const disc = shape(roundKnots(0, 0, 40, 40));
  test("has hole and ring of the sizes wished, at the top, and a neck as strong as its wall", () => {
    const { rings, tabAt } = cut(disc, { tab: { holeMm: 3, ringMm: 8, at: "top" } });
    expect(partsOf(rings)).toHaveLength(1);
    const hole = rings.find((r) => ringArea(r) < 0)!;
    expect(ringBox(hole).width).toBeCloseTo(3, 2);
    expect(tabAt![0]).toBeCloseTo(20, 1);
    expect(tabAt![1]).toBeCloseTo(-(1.5 + 1.25), 1);
    expect(ringBox(rings[1]).y).toBeCloseTo(tabAt![1] - 4, 1);
  });
  test("goes where it is dragged to, square to the outline", () => {
    const { tabAt, rings } = cut(disc, { tab: { holeMm: 4, ringMm: 10, at: [45, 20] } });
    expect(tabAt![0]).toBeCloseTo(40 + 2 + 1.5, 1);
    expect(tabAt![1]).toBeCloseTo(20, 1);
    // Shoulders: more than ring and disc alone, whose joint would have a sharp inner corner.
    const lens = areaOf(rings) + Math.PI * 4 - Math.PI * 400;
    expect(lens).toBeGreaterThan(Math.PI * 25 * 0.7);
  });
  test("there is none where there is no piece", () => {
    expect(
      cut({ rings: [], curves: new Map() }, { tab: { holeMm: 3, ringMm: 8, at: "top" } }).tabAt,
    ).toBeNull();
  });
});

/** A disc with soft edges. */
const discArt = (side: number, radius: number): Rgba =>
  asRgba(
    grayOf(side, side, () => 60),
    (x, y) =>
      Math.max(
        0,
        Math.min(255, Math.round(255 * (radius - Math.hypot(x + 0.5 - side / 2, y + 0.5 - side / 2) + 0.5))),
      ),
  );

test.each([
  [1.5, 0],
  [2.5, 0.8],
  [-1, 0],
])("round art, moved by %d mm, has the area of the exact buffer within 0.2 %%", (offsetMm, smoothMm) => {
  const base = runToEnd(artBase(discArt(300, 120), 128, artFrom(discArt(300, 120))));
  const { rings } = cut(base, { offsetMm, smoothMm });
  expect(Math.abs(areaOf(rings) / (Math.PI * (12 + offsetMm) ** 2) - 1)).toBeLessThan(0.002);
});

test("the piece's own shape gives a line of its own size", () => {
  const { rings } = cut(runToEnd(pieceBase([{ knots: rectangleKnots(0, 0, 30, 20), closed: true }])), {
    offsetMm: -1,
  });
  expect(areaOf(rings)).toBeCloseTo(28 * 18, 3);
});

test("a drawing taken as the piece's shape comes back as the cut line, within a micrometre", async () => {
  const drawn = pathSetOf({ name: "die", use: "through", colour: 0 }, [
    { knots: roundKnots(1, 1, 37.777, 21.3), closed: true },
    { knots: rectangleKnots(8, 6, 5.005, 4), closed: true },
  ]);
  const { sets } = readSvgDrawing(new TextDecoder().decode(runToEnd(writePathsSvg([drawn], 40, 24))));
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "Die" },
    stages: [
      { stage: "size", widthMm: 40, dotsPerInch: 254, shape: { kind: "path", d: pathData(sets[0]) } },
      { stage: "cutLine", from: "shape" },
    ],
  });
  const colour = asRgba(grayOf(200, 120, () => 90));
  const facts = { sha256: "x", width: 200, height: 120, vector: false };
  const results = await new Runner().run(route, { facts, pixels: async () => colour });
  const [line] = (results.at(-1)!.result as Paths).sets;
  const [a, b] = [drawn, line].map((set) =>
    ringsOf(set, 0.0005)
      .map((r) => Math.abs(ringArea(r)))
      .sort((p, q) => p - q),
  );
  expect(b).toEqual(a.map((v) => expect.closeTo(v, 2)));
  const extent = boxOf(line)!;
  expect(Math.abs(extent.x - 1) + Math.abs(extent.width - 37.777)).toBeLessThan(0.001);
  // Outside the drawn shape, and in its hole, the picture is cleared.
  const { data } = (results[1].result as Picture).colour;
  const alpha = (xMm: number, yMm: number) =>
    data[4 * (Math.floor(yMm * 10) * 400 + Math.floor(xMm * 10)) + 3];
  expect([alpha(0.5, 0.5), alpha(10, 8), alpha(20, 12)]).toEqual([0, 0, 255]);
  expect(() => runStage("size", artFrom(colour), { shape: { kind: "path", d: "nonsense" } })).toThrow(
    /path data in mm/,
  );
});

describe("what is printed to the line", () => {
  const art = discArt(100, 30);
  const { finish: size } = artFrom(art);
  const edge = cut(runToEnd(artBase(art, 128, artFrom(art))), { offsetMm: 3 }).rings;
  test("is cut to it on a canvas that holds all of it", () => {
    const far = edge.map((r) => r.map((v, k) => (k % 2 ? v : v - 8)));
    const { picture, xMm } = runToEnd(printOf(art, far, { kind: "colour", colour: 0xfffffe }, size));
    expect(xMm).toBeCloseTo(-9, 0);
    expect(picture.width).toBe(120);
    const at = (x: number, y: number) =>
      Array.from(picture.data.subarray(4 * (y * picture.width + x), 4 * (y * picture.width + x) + 4));
    expect(at(3, 60)).toEqual([255, 255, 254, 255]); // beyond the picture the border's colour
    expect(at(0, 0)[3]).toBe(0);
    expect(at(115, 60).slice(0, 3)).toEqual([60, 60, 60]); // the art
  });
  test("its edge's colour goes on under the border", () => {
    const { picture } = runToEnd(printOf(art, edge, { kind: "edge" }, size));
    const opaque = Array.from({ length: picture.width * picture.height }, (_, i) => i).filter(
      (i) => picture.data[4 * i + 3] === 255,
    );
    expect(opaque.length / (Math.PI * 60 ** 2)).toBeCloseTo(1, 1);
    expect(opaque.every((i) => picture.data[4 * i] === 60)).toBe(true);
    const bare = runToEnd(printOf(art, edge, { kind: "nothing" }, size)).picture;
    expect(bare.data[4 * (5 * bare.width + 60) + 3]).toBe(0);
  });
});

describe("the stage", () => {
  const art = artFrom(discArt(300, 100));
  const checksOf = (settings: object, limits = {}) => {
    const paths = runStage("cutLine", art, settings) as Paths;
    const { checks, readings } = inspectStage(
      "cutLine",
      paths,
      settings,
      { ...USUAL_LIMITS, ...limits },
      art,
    );
    const byId: Record<string, Check> = Object.fromEntries(checks.map((c) => [c.id, c]));
    return { readings, ...byId } as typeof byId & { readings: Readings };
  };
  test("holds the line against what material and machine bear", () => {
    const fine = checksOf({ offsetMm: 2 });
    for (const id of ["wholePaths", "cutCorners", "cutNecks", "cutHoles", "looseParts", "artOutside"])
      expect(fine[id].level).toBe("fine");
    expect(fine.readings).toMatchObject({ points: 4, gapsFilled: 0, neck: "none" });
    expect(checksOf({ offsetMm: 2 }, { sheetMm: 20 }).cutLength.level).toBe("stop");
    expect(checksOf({ tab: { holeMm: 2, ringMm: 3 } }).cutNecks).toMatchObject({
      level: "look",
      value: expect.closeTo(0.5, 1),
    });
    expect(checksOf({ tab: {} }).cutNecks.level).toBe("fine");
    // The ring round the hole is made as wide as the material bears.
    const { repair } = checksOf({ tab: { holeMm: 2, ringMm: 3 } }).cutNecks;
    expect(checksOf(repair!.change).cutNecks.level).toBe("fine");
  });
  test("small holes are told, and can be filled at once", () => {
    const holed = artFrom(
      asRgba(
        grayOf(200, 200, () => 0),
        (x, y) => (Math.hypot(x - 100, y - 100) < 80 && Math.hypot(x - 90, y - 90) > 4 ? 255 : 0),
      ),
    );
    const paths = runStage("cutLine", holed, {}) as Paths;
    const { checks } = inspectStage("cutLine", paths, {}, USUAL_LIMITS, holed);
    const holes = checks.find((c) => c.id === "cutHoles")!;
    expect(holes).toMatchObject({ level: "look", value: 1 });
    const mended = runStage("cutLine", holed, holes.repair!.change) as Paths;
    expect(mended.cut!.gaps).toMatchObject([{ filled: true }]);
    expect(mended.sets[0].closed).toHaveLength(1);
  });
  test("hands over the line in four formats, and the print when it is wished", async () => {
    const settings = { offsetMm: 2, weedBoxMm: 4, kind: "kiss", print: {} };
    const files = await deliveredBy("cutLine", runStage("cutLine", art, settings), settings);
    expect(Object.keys(files)).toEqual([
      "cut.svg",
      "cut.dxf",
      "cut.plt",
      "cut.pdf",
      "print.png",
      "print.pdf",
    ]);
    const svg = new TextDecoder().decode(files["cut.svg"]);
    expect(svg).toContain('id="cut" data-use="kiss"');
    expect(svg).toContain('id="weed box"');
    expect(svg).not.toContain("print");
  });
  test("corners too sharp are smoothed by as much as the blade holds", () => {
    const star = artFrom(
      asRgba(
        grayOf(200, 200, () => 0),
        (x, y) => (Math.abs(x - 100) ** 0.6 + Math.abs(y - 100) ** 0.6 < 80 ** 0.6 ? 255 : 0),
      ),
    );
    const found = (settings: object) => {
      const paths = runStage("cutLine", star, settings) as Paths;
      const { checks } = inspectStage("cutLine", paths, settings, { ...USUAL_LIMITS, cornerMm: 0.4 }, star);
      return checks.find((c) => c.id === "cutCorners")!;
    };
    const sharp = found({});
    expect(sharp).toMatchObject({ level: "look", repair: { change: { smoothMm: 0.4 } } });
    expect(found(sharp.repair!.change).value).toBeGreaterThan(sharp.value);
  });
  test("refuses a ring that is no wider than its hole", () => {
    expect(() => runStage("cutLine", art, { tab: { holeMm: 5, ringMm: 5 } })).toThrow(/5.5 or more/);
  });
});
