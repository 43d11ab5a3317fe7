import { runToEnd } from "../maths/work";
import fc from "fast-check";
import { pathData, writePathsSvg } from "../format/svg";
import { flattened, lengthOf } from "./flatten";
import { partIn, pixelAt, toPixels, WHOLE_FRAME } from "./frame";
import { polygonOf, rectangleKnots, roundKnots } from "./outline";
import { boxOf, countPaths, pathSetOf, straightSet } from "./pathSet";

const look = { name: "cut", use: "through", colour: 0x1f45c4 } as const;
const circle = (radius: number) =>
  pathSetOf(look, [{ knots: roundKnots(0, 0, 2 * radius, 2 * radius), closed: true }]);

test("paths are packed one after another, straight pieces with their handles on their ends", () => {
  const set = pathSetOf(look, [
    { knots: rectangleKnots(1, 2, 10, 5), closed: true },
    { knots: [{ at: [0, 0] }], closed: true },
    {
      knots: [
        { at: [0, 0], out: [1, 0] },
        { at: [4, 4], in: [0, -1] },
      ],
      closed: false,
    },
  ]);
  expect(countPaths(set)).toBe(2); // a single point is no path
  expect(Array.from(set.starts)).toEqual([0, 13, 17]);
  expect(Array.from(set.closed)).toEqual([1, 0]);
  expect(Array.from(set.points.subarray(0, 8))).toEqual([1, 2, 1, 2, 11, 2, 11, 2]);
  expect(Array.from(set.points.subarray(26))).toEqual([0, 0, 1, 0, 4, 3, 4, 4]);
  expect(boxOf(set)).toEqual({ x: 0, y: 0, width: 11, height: 7 });
  expect(boxOf(pathSetOf(look, []))).toBeNull();
});

test("flattened, no point of the curve is further from its pieces than the tolerance", () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -40, max: 40 }), { minLength: 8, maxLength: 8 }),
      fc.constantFrom(0.5, 0.05, 0.005),
      ([ax, ay, bx, by, cx, cy, dx, dy], tolerance) => {
        const knots = [
          { at: [ax, ay], out: [bx - ax, by - ay] },
          { at: [dx, dy], in: [cx - dx, cy - dy] },
        ] as const;
        const set = pathSetOf(look, [{ knots, closed: false }]);
        const [{ points }] = flattened(set, tolerance);
        for (let s = 0; s <= 200; s++) {
          const [t, u] = [s / 200, 1 - s / 200];
          const at = (a: number, b: number, c: number, d: number) =>
            u * u * u * a + 3 * u * u * t * b + 3 * u * t * t * c + t * t * t * d;
          expect(distanceTo(points, at(ax, bx, cx, dx), at(ay, by, cy, dy))).toBeLessThanOrEqual(
            tolerance + 1e-9,
          );
        }
      },
    ),
    { numRuns: 60 },
  );
});

function distanceTo(points: Float64Array, x: number, y: number): number {
  let best = Infinity;
  for (let i = 0; i + 3 < points.length; i += 2) {
    const [px, py, dx, dy] = [
      points[i],
      points[i + 1],
      points[i + 2] - points[i],
      points[i + 3] - points[i + 1],
    ];
    const t = Math.max(0, Math.min(1, ((x - px) * dx + (y - py) * dy) / (dx * dx + dy * dy || 1)));
    best = Math.min(best, Math.hypot(px + t * dx - x, py + t * dy - y));
  }
  return best;
}

test("a finer tolerance takes more pieces, straight lines take one, and lengths come out", () => {
  const pieces = (tolerance: number) => flattened(circle(10), tolerance)[0].points.length / 2 - 1;
  expect(pieces(0.1)).toBeLessThan(pieces(0.001));
  expect(pieces(0.001) / pieces(0.1)).toBeCloseTo(10, -1); // by the square root
  expect(lengthOf(flattened(circle(10), 1e-4)[0])).toBeCloseTo(2 * Math.PI * 10, 1);
  const box = pathSetOf(look, [{ knots: rectangleKnots(0, 0, 30, 20), closed: true }]);
  expect(flattened(box, 1e-6)[0].points.length).toBe(10);
  expect(lengthOf(flattened(box, 1)[0])).toBe(100);
  expect(polygonOf(rectangleKnots(0, 0, 3, 2))).toHaveLength(4);
});

test("an SVG has the finish size in millimetres, lines as lines and names that cannot break out", () => {
  const set = pathSetOf({ ...look, name: 'a"<b' }, [
    { knots: rectangleKnots(1, 1, 4, 2), closed: true },
    { knots: roundKnots(0, 0, 3, 3), closed: true },
  ]);
  expect(pathData(set)).toMatch(/^M1 1L5 1L5 3L1 3L1 1ZM1\.5 0C2\.3284 0 3 0\.6716 3 1\.5C/);
  const text = new TextDecoder().decode(runToEnd(writePathsSvg([set, { ...set, use: "fill" }], 60.5, 40)));
  expect(text).toContain('width="60.5mm" height="40mm" viewBox="0 0 60.5 40"');
  expect(text).toContain('id="a&quot;&lt;b"');
  expect(text).toContain('fill-rule="evenodd"');
});

test("places of the artwork are found in a picture of a part of it, and parts in another picture", () => {
  const frame = { x: 0.25, y: 0.5, width: 0.5, height: 0.25 };
  const on = { source: { width: 200, height: 100 }, frame };
  expect(toPixels(on, [0.5, 0.625])).toEqual([100, 50]);
  expect([pixelAt(on, [0.25, 0.5]), pixelAt(on, [0.75, 0.75]), pixelAt(on, [0.2, 0.6])]).toEqual([
    [0, 0],
    [199, 99],
    null,
  ]);
  const piece = { finish: { widthPx: 200, heightPx: 100 }, frame };
  const artwork = { finish: { widthPx: 800, heightPx: 800 }, frame: WHOLE_FRAME };
  const part = { x: 10, y: 20, width: 50, height: 25 };
  expect(partIn(part, piece, artwork)).toEqual({ x: 220, y: 440, width: 100, height: 50 });
  expect(partIn(part, piece, piece)).toBe(part);
});

test("lines of straight pieces are the set that their corners as knots make", () => {
  const rings = [
    [1, 2, 5, 2, 5, 7],
    [0, 0, 3, 0, 3, 3, 0, 3],
  ].map((ring) => Float64Array.from(ring));
  const knots = rings.map((ring) => ({
    closed: true,
    knots: Array.from({ length: ring.length / 2 }, (_, k) => ({
      at: [ring[2 * k], ring[2 * k + 1]] as const,
    })),
  }));
  expect(straightSet(look, rings)).toEqual(pathSetOf(look, knots));
});
