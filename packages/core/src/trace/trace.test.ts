import { runToEnd } from "../maths/work";
import { coverOfPolygon } from "../path/cover";
import { polygonOf, roundKnots, type Knot } from "../path/outline";
import { type Gray } from "../raster/types";
import { artFrom } from "../testing/clearings";
import { asRgba, grayOf, randomGray } from "../testing/pictures";
import { contextFor, inspectStage, runStage, settingsFor } from "../testing/running";
import { ringsOf } from "../path/flatten";
import { evenOdd } from "../polygon/clip";
import { areaOf, ringArea } from "../polygon/rings";
import { readRoute } from "../route/route";
import { USUAL_LIMITS } from "../inspect/limits";
import { Runner } from "../route/runner";
import { stageById } from "../stage/stages";
import { type Paths } from "../result/result";
import { fitClosed } from "../fit/fit";
import { outlineAt, outlinesOf } from "./outlines";

type Pt = readonly [number, number];
const SIDE = 96;

const drawn = (...polygons: (readonly Pt[])[]): Gray => {
  const planes = polygons.map((p) =>
    runToEnd(
      coverOfPolygon(
        p.map(([x, y]): [number, number] => [x, y]),
        SIDE,
        SIDE,
      ),
    ),
  );
  const data = Uint8Array.from(
    { length: SIDE * SIDE },
    (_, i) => 255 - planes.reduce((sum, plane) => Math.abs(sum - plane[i]), 0),
  );
  return { width: SIDE, height: SIDE, data };
};
const regular = (n: number, r: number, turn: number): Pt[] =>
  Array.from({ length: n }, (_, k) => {
    const a = turn + (2 * Math.PI * k) / n;
    return [48.3 + r * Math.cos(a), 47.6 + r * Math.sin(a)] as const;
  });
const star = Array.from({ length: 10 }, (_, k): Pt => {
  const [a, r] = [0.3 + (Math.PI * k) / 5, k % 2 ? 16 : 40];
  return [48 + r * Math.cos(a), 48 + r * Math.sin(a)];
});
const handle = 16 * 0.5522847498;
const rounded = polygonOf([
  { at: [30, 14], in: [-handle, 0] },
  { at: [66, 14], out: [handle, 0] },
  { at: [82, 30], in: [0, -handle] },
  { at: [82, 66], out: [0, handle] },
  { at: [66, 82], in: [handle, 0] },
  { at: [30, 82], out: [-handle, 0] },
  { at: [14, 66], in: [0, handle] },
  { at: [14, 30], out: [0, -handle] },
]);

/** Points a tenth of a pixel apart. */
const dense = (polygon: readonly Pt[]): Pt[] =>
  polygon.flatMap((p, k) => {
    const q = polygon[(k + 1) % polygon.length];
    const n = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1]) / 0.1));
    return Array.from({ length: n }, (_, i): Pt => [
      p[0] + ((q[0] - p[0]) * i) / n,
      p[1] + ((q[1] - p[1]) * i) / n,
    ]);
  });

/** The 99th percentile of how far points lie from a closed line. */
function p99(points: readonly Pt[], line: readonly Pt[]): number {
  const off = points.map((p) => {
    let best = Infinity;
    for (let k = 0; k < line.length; k++) {
      const [a, b] = [line[k], line[(k + 1) % line.length]];
      const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
      const square = dx * dx + dy * dy;
      const t = square > 0 ? Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / square)) : 0;
      best = Math.min(best, (p[0] - a[0] - t * dx) ** 2 + (p[1] - a[1] - t * dy) ** 2);
    }
    return Math.sqrt(best);
  });
  return off.sort((a, b) => a - b)[Math.floor(0.99 * (off.length - 1))];
}

const traced = (picture: Gray, tolerance = 0.2): Knot[][] => {
  const { points, starts } = runToEnd(outlinesOf(picture, 128));
  return Array.from({ length: starts.length - 1 }, (_, k) =>
    runToEnd(fitClosed(points.subarray(2 * starts[k], 2 * starts[k + 1]), { tolerance, corners: 0.5 })),
  );
};

const SHAPES: [string, readonly Pt[], number][] = [
  ["circle", polygonOf(roundKnots(20.2, 19.7, 55, 55)), 4],
  ["small circle", polygonOf(roundKnots(40.2, 39.7, 11, 11)), 4],
  ["ellipse", polygonOf(roundKnots(15.2, 29.7, 65, 35)), 4],
  ["square, askew", regular(4, 34, 0.1), 4],
  ["square, upright", regular(4, 34, Math.PI / 4), 4],
  ["triangle", regular(3, 38, 0.4), 3],
  ["hexagon", regular(6, 36, 0.2), 6],
  ["octagon", regular(8, 36, 0.33), 8],
  ["star", star, 10],
  ["rounded square", rounded, 8],
];

test.each(SHAPES)(
  "a %s drawn small comes back within 0.15 of a pixel, in no more pieces than half again",
  (_name, shape, pieces) => {
    const found = traced(drawn(shape));
    expect(found).toHaveLength(1);
    const out = polygonOf(found[0]);
    expect(p99(dense(out), shape)).toBeLessThan(0.15);
    expect(p99(dense(shape), out)).toBeLessThan(0.15);
    expect(found[0].length).toBeLessThanOrEqual(1.5 * pieces);
  },
);

test("outlines go round what is dark clockwise and round holes the other way, and close", () => {
  const ring = drawn(polygonOf(roundKnots(10, 10, 76, 76)), polygonOf(roundKnots(30, 30, 36, 36)));
  const { points, starts } = runToEnd(outlinesOf(ring, 128));
  const areas = Array.from({ length: starts.length - 1 }, (_, k) =>
    ringArea(outlineAt({ points, starts }, k)),
  );
  expect(areas).toHaveLength(2);
  expect(areas[0] / (Math.PI * 38 * 38)).toBeCloseTo(1, 2);
  expect(areas[1] / (Math.PI * 18 * 18)).toBeCloseTo(-1, 2);
});

test("of any picture, dark pixels less holes are what the outlines go round", () => {
  for (const seed of [1, 2, 3]) {
    const noise = randomGray(40, 30, seed);
    const two = { ...noise, data: noise.data.map((g) => (g < 100 ? 0 : 255)) };
    const { points, starts } = runToEnd(outlinesOf(two, 128));
    // Between 0 and 255 the outline passes half-way: each corner of a pixel's square loses an eighth.
    let sum = 0;
    for (let k = 0; k + 1 < starts.length; k++) {
      sum += ringArea(outlineAt({ points, starts }, k));
      expect(starts[k + 1] - starts[k]).toBeGreaterThanOrEqual(4);
    }
    const dark = two.data.filter((g) => g === 0).length;
    expect(sum).toBeGreaterThan(0.4 * dark);
    expect(sum).toBeLessThan(dark);
  }
});

describe("the stage", () => {
  const picture = drawn(
    regular(4, 34, 0.1),
    polygonOf(roundKnots(40, 40, 16, 16)),
    polygonOf(roundKnots(4, 4, 3, 3)),
  );
  const run = (given: object, gray = picture) => runStage("trace", artFrom(asRgba(gray)), given) as Paths;
  test("gives filled outlines in millimetres, and drops what is too small, which is counted", () => {
    const all = run({ smallestMm2: 0, smallestHoleMm2: 0 });
    expect(all.sets[0].closed).toHaveLength(3);
    const large = run({ smallestMm2: 0.2, smallestHoleMm2: 0.2 });
    expect(large.sets[0].closed).toHaveLength(2);
    const { readings, checks } = inspectStage(
      "trace",
      large,
      { smallestMm2: 0.2 },
      USUAL_LIMITS,
      artFrom(asRgba(picture)),
    );
    expect(readings).toMatchObject({ paths: 2, segments: 8, specksDropped: 1, pinholesDropped: 0 });
    expect(checks.map((c) => c.level)).toEqual(["fine", "fine", "fine"]);
    expect(run({ smallestMm2: 0.2, smallestHoleMm2: 5 }).sets[0].closed).toHaveLength(1);
  });
  test("a hole of a shape that is dropped goes with it", () => {
    const ring = drawn(
      polygonOf(roundKnots(10, 10, 12, 12)),
      polygonOf(roundKnots(13, 13, 6, 6)),
      regular(4, 20, 0.1),
    );
    expect(run({ smallestMm2: 2, smallestHoleMm2: 0 }, ring).sets[0].closed).toHaveLength(1);
  });
  test("dark that reaches the edge is told as a frame", () => {
    const dark = grayOf(SIDE, SIDE, (x, y) => (Math.hypot(x - 48, y - 48) < 20 ? 255 : 0));
    const { checks } = inspectStage("trace", run({}, dark), {}, USUAL_LIMITS, artFrom(asRgba(dark)));
    expect(checks[0]).toMatchObject({ id: "tracedFrame", level: "look", value: 1 });
  });
  test("dots are traced as they are, and the SVG has the piece's size", async () => {
    const route = readRoute({
      ...{ format: "hard-line-route", version: 1, name: "A" },
      stages: [
        { stage: "blackWhite", method: "line" },
        { stage: "trace", from: "blackWhite", smallestMm2: 0.2 },
      ],
    });
    const colour = asRgba(picture);
    const facts = { sha256: "x", width: SIDE, height: SIDE, vector: false };
    const results = await new Runner().run(route, { facts, pixels: async () => colour });
    const paths = results[2].result as Paths;
    expect(paths.sets[0].closed).toHaveLength(2);
    const doing = async <T>(work: Generator<number, T, void>): Promise<T> => runToEnd(work);
    for await (const { name, bytes } of stageById("trace").files!(paths, {}, doing, "1042", [])) {
      expect(name).toMatch(/^trace\.(svg|dxf|plt|pdf)$/);
      if (!name.endsWith("svg")) continue;
      const text = new TextDecoder().decode(bytes);
      expect(text).toContain('width="9.6mm" height="9.6mm" viewBox="0 0 9.6 9.6"');
      expect(text).toContain('fill-rule="evenodd"');
    }
  });
  test("a first look, of straight pieces, shows the same shapes, and with edits it is as exact as they are", () => {
    const stage = stageById("trace");
    const art = artFrom(asRgba(picture));
    const draft = (given: object) => {
      const settings = settingsFor("trace", given);
      return runToEnd(stage.draft!({ tone: art }, settings, contextFor("trace", art, settings))) as Paths;
    };
    const area = ({ sets }: Paths) => areaOf(evenOdd(ringsOf(sets[0], 0.001)));
    const settings = { smallestMm2: 0.2, smallestHoleMm2: 0.2 };
    const [quick, exact] = [draft(settings), run(settings)];
    expect(quick.sets[0].closed).toHaveLength(2);
    expect(area(quick) / area(exact)).toBeCloseTo(1, 2);
    const edits = [{ edit: "circle", at: [0.1, 0.9], diameterMm: 1 }];
    expect(draft({ ...settings, edits }).sets[0].points).toEqual(run({ ...settings, edits }).sets[0].points);
  });
});
