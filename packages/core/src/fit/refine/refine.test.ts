import fc from "fast-check";
import { runToEnd } from "../../maths/work";
import { coverOfRings } from "../../path/cover";
import { polygonOf, roundKnots } from "../../path/outline";
import { type Gray } from "../../raster/types";
import { outlineAt, outlinesOf } from "../../trace/outlines";
import { fitClosed } from "../fit";
import { changed } from "./changes";
import { Cover, type Outline } from "./cover";
import { fitDrawn } from "./refine";
import { settled } from "./settle";

type Point = readonly [number, number];
const FIT = { tolerance: 0.2, corners: 0.5 };
const SIDE = 80;

/** Black on white, each pixel as dark as the share of it that the rings go round. */
function drawn(rings: readonly (readonly Point[])[], dark = 0, light = 255): Gray {
  const cover = runToEnd(
    coverOfRings(
      rings.map((ring) => Float64Array.from(ring.flat())),
      SIDE,
      SIDE,
    ),
  );
  const data = Uint8Array.from(cover, (c) => Math.round(light - ((light - dark) * c) / 255));
  return { width: SIDE, height: SIDE, data };
}

function linesIn(gray: Gray, threshold = 128): Float64Array[] {
  const found = runToEnd(outlinesOf(gray, threshold));
  return Array.from({ length: found.starts.length - 1 }, (_, k) => outlineAt(found, k));
}

const fittedAlone = (lines: readonly Float64Array[]): Outline[] =>
  lines.map((points) => runToEnd(fitClosed(points, FIT)));
const traced = (gray: Gray, threshold = 128): Outline[] =>
  runToEnd(fitDrawn(linesIn(gray, threshold), gray, threshold, FIT));

/** How far each of some places is from the nearest knot. */
const away = (places: readonly Point[], knots: Outline): number[] =>
  places.map(([x, y]) => Math.min(...knots.map(({ at }) => Math.hypot(at[0] - x, at[1] - y))));

const turned = (points: readonly Point[], degrees: number): Point[] => {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return points.map(([x, y]) => [40.3 + x * c - y * s, 39.6 + x * s + y * c]);
};

test("the foot of a letter, two pixels thick, has its four corners and no more", () => {
  const foot = turned(
    [
      [-3, -25],
      [3, -25],
      [3, 18],
      [14, 18],
      [14, 20.2],
      [-14, 20.2],
      [-14, 18],
      [-3, 18],
    ],
    0,
  );
  const gray = drawn([foot]);
  const [knots] = traced(gray);
  expect(knots).toHaveLength(8);
  expect(Math.max(...away(foot, knots))).toBeLessThan(0.1);
  // By the points alone two corners so near to each other are one.
  expect(Math.max(...away(foot, fittedAlone(linesIn(gray))[0]))).toBeGreaterThan(0.3);
});

test("polygons by chance come out with their own corners, in whatever greys they are drawn", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 3, max: 7 }),
      fc.double({ min: 0, max: 6, noNaN: true }),
      fc.double({ min: 22, max: 34, noNaN: true }),
      fc.constantFrom([0, 255] as const, [40, 216] as const),
      (sides, turn, radius, [dark, light]) => {
        const corners = Array.from({ length: sides }, (_, k): Point => {
          const a = turn + (2 * Math.PI * k) / sides;
          return [40.2 + radius * Math.cos(a), 39.7 + radius * Math.sin(a)];
        });
        const [knots] = traced(drawn([corners], dark, light));
        expect(knots).toHaveLength(sides);
        expect(Math.max(...away(corners, knots))).toBeLessThan(0.1);
      },
    ),
    { numRuns: 30, seed: 12 },
  );
});

test("a ring stays round, inside and outside, within a twentieth of a pixel", () => {
  const outer = polygonOf(roundKnots(10.3, 11.2, 58, 58));
  const inner = polygonOf(roundKnots(24.3, 25.2, 30, 30)).reverse();
  const outlines = traced(drawn([outer, inner]));
  expect(outlines).toHaveLength(2);
  for (const [knots, radius] of [
    [outlines[0], 29],
    [outlines[1], 15],
  ] as const)
    for (const [x, y] of polygonOf(knots))
      expect(Math.abs(Math.hypot(x - 39.3, y - 40.2) - radius)).toBeLessThan(0.05);
});

describe("what is not drawn as cover stays as the points have it, bit for bit", () => {
  const shape = turned(
    [
      [-20, -20],
      [22, -18],
      [17, 21],
      [-16, 19],
    ],
    17,
  );
  const gray = drawn([shape]);
  const blurred = (): Gray => {
    const data = gray.data.slice();
    for (let y = 2; y < SIDE - 2; y++)
      for (let x = 2; x < SIDE - 2; x++) {
        let sum = 0;
        for (let v = -2; v <= 2; v++) for (let u = -2; u <= 2; u++) sum += gray.data[(y + v) * SIDE + x + u];
        data[y * SIDE + x] = sum / 25;
      }
    return { ...gray, data };
  };
  test.each([
    ["dots", { ...gray, data: gray.data.map((g) => (g < 128 ? 0 : 255)) }, 128],
    ["a blurred edge", blurred(), 128],
    ["a threshold that asks for thinner outlines", gray, 60],
  ] as const)("%s", (_, picture, threshold) => {
    expect(traced(picture, threshold)).toEqual(fittedAlone(linesIn(picture, threshold)));
  });
  test("but the shape itself does not", () => {
    expect(traced(gray)).not.toEqual(fittedAlone(linesIn(gray)));
  });
});

test("a square that lies off by part of a pixel goes where the picture has it, and what may not move stays", () => {
  const square: Point[] = [
    [20.25, 20.5],
    [59.75, 20.5],
    [59.75, 60],
    [20.25, 60],
  ];
  const cover = new Cover(drawn([square]), { dark: 0, light: 255 });
  const off: Outline = square.map(([x, y]) => ({ at: [x - 0.2, y + 0.15] as const }));
  runToEnd(cover.draw([off]));
  const [there] = runToEnd(settled([off], cover, () => true, 4));
  expect(Math.max(...away(square, there))).toBeLessThan(0.01);
  runToEnd(cover.draw([off]));
  const [held] = runToEnd(settled([off], cover, (_, k) => k !== 2, 4));
  expect(held[2]).toEqual(off[2]);
});

describe("changes of an outline", () => {
  const square: Outline = [{ at: [0, 0] }, { at: [10, 0] }, { at: [10, 10] }, { at: [0, 10] }];
  const place = [0, 0] as const;
  const change = { outline: 0, t: 0.5, place } as const;

  test("several at once stand where they are said to, over the end as well", () => {
    const { list, places } = changed(square, [
      { ...change, kind: "between", knot: 3 },
      { ...change, kind: "left", knot: 1 },
    ]);
    expect(list.map(({ at }) => at)).toEqual([
      [0, 0],
      [10, 10],
      [0, 10],
      [0, 5],
    ]);
    expect(places).toEqual([2, 0]);
  });

  test("the first knot left out is looked at on the piece from the last", () => {
    const { list, places } = changed(square, [{ ...change, kind: "left", knot: 0 }]);
    expect(list.map(({ at }) => at)).toEqual([
      [10, 0],
      [10, 10],
      [0, 10],
    ]);
    expect(places).toEqual([2]);
  });

  test("a curve in two parts runs as before; made straight it has no handles", () => {
    const round = roundKnots(0, 0, 20, 20);
    const { list } = changed(round, [{ ...change, kind: "between", knot: 1, t: 0.3 }]);
    expect(list).toHaveLength(5);
    for (const [x, y] of polygonOf(list))
      expect(Math.abs(Math.hypot(x - 10, y - 10) - 10)).toBeLessThan(0.01);
    const straight = changed(round, [{ ...change, kind: "straight", knot: 3 }]).list;
    expect([straight[3].out, straight[0].in, straight[0].out]).toEqual([undefined, undefined, round[0].out]);
  });

  test("a corner in two parts begins on both its sides", () => {
    const { list } = changed(square, [{ ...change, kind: "parted", knot: 1 }]);
    expect(list.slice(1, 3).map(({ at }) => at)).toEqual([
      [9.2, 0],
      [10, 0.8],
    ]);
  });
});
