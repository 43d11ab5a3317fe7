import fc from "fast-check";
import { runToEnd } from "../maths/work";
import { ringsOf } from "../path/flatten";
import { pathSetOf } from "../path/pathSet";
import { bendsOf } from "../fit/bends";
import { common, evenOdd, joined, simplified, without } from "./clip";
import { fitRings } from "../fit/fitRings";
import { thinnestNeck } from "./necks";
import { closed, offset, opened } from "./offset";
import { bridged, keptParts, smoothed } from "./parts";
import { partsOf } from "./around";
import { areaOf, circleRing, isInside, reversedRing, ringArea, ringBox, type Ring } from "./rings";

const box = (x: number, y: number, width: number, height: number): Ring =>
  Float64Array.from([x, y, x + width, y, x + width, y + height, x, y + height]);
const look = { name: "cut", use: "through", colour: 0 } as const;

describe("areas", () => {
  test("of rings, circles and holes are as by hand; parts know their holes", () => {
    expect(ringArea(box(1, 2, 3, 4))).toBe(12);
    expect(ringArea(reversedRing(box(1, 2, 3, 4)))).toBe(-12);
    for (const radius of [0.5, 5, 80])
      expect(ringArea(circleRing(3, 4, radius)) / (Math.PI * radius ** 2)).toBeCloseTo(1, 4);
    const nested = evenOdd([box(0, 0, 20, 20), box(2, 2, 16, 16), box(5, 5, 4, 4), box(40, 0, 5, 5)]);
    expect(areaOf(nested)).toBeCloseTo(400 - 256 + 16 + 25, 6);
    expect(
      partsOf(nested)
        .map((p) => p.holes.length)
        .sort(),
    ).toEqual([0, 0, 1]);
    expect([isInside(nested, 1, 1), isInside(nested, 3, 3), isInside(nested, 6, 6)]).toEqual([
      true,
      false,
      true,
    ]);
  });
  test("joined, common and without add up", () => {
    fc.assert(
      fc.property(fc.tuple(...[0, 0, 0, 0].map(() => fc.integer({ min: 1, max: 30 }))), ([x, y, w, h]) => {
        const [a, b] = [[box(0, 0, 20, 20)], [circleRing(x, y, w), box(h, 1, 3, 40)]];
        const whole = joined(b, []);
        const both = areaOf(common(a, whole));
        expect(areaOf(joined(a, whole))).toBeCloseTo(400 + areaOf(whole) - both, 3);
        expect(areaOf(without(a, whole))).toBeCloseTo(400 - both, 3);
      }),
      { numRuns: 40 },
    );
  });
});

describe("an area moved out or in", () => {
  const square = [box(0, 0, 10, 10)];
  test.each([
    ["round", 100 + 4 * 10 * 2 + Math.PI * 4],
    ["mitre", 196],
    ["bevel", 100 + 80 + 8],
  ] as const)("has the area of the exact buffer: %s", (join, area) => {
    expect(areaOf(offset(square, 2, join)) / area).toBeCloseTo(1, 3);
    expect(areaOf(offset(square, -2, join))).toBeCloseTo(36, 4);
  });
  test("holes shrink as the outside grows, and vanish", () => {
    const ring = without([circleRing(0, 0, 20)], [circleRing(0, 0, 5)]);
    expect(areaOf(offset(ring, 3)) / (Math.PI * (23 ** 2 - 2 ** 2))).toBeCloseTo(1, 3);
    expect(offset(ring, 6)).toHaveLength(1);
    expect(offset(square, -6)).toHaveLength(0);
  });
  test("a sharp mitre is cut off at four times the offset", () => {
    const spike = [Float64Array.from([0, 0, 40, 1, 0, 2])];
    expect(ringBox(offset(spike, 1, "mitre")[0]).width).toBeLessThan(40 + 1 + 4.01 + 0.3);
  });
});

describe("smoothing by a disc", () => {
  const body = [box(0, 0, 40, 20)];
  test("takes spikes and shallow dents away and keeps the size", () => {
    const hair = joined(body, [box(20, -2, 0.3, 3)]);
    const dent = without(hair, [box(8, 18.9, 0.8, 2)]);
    const smooth = runToEnd(smoothed(dent, 1));
    expect(areaOf(smooth) / (800 - (4 - Math.PI))).toBeCloseTo(1, 3);
    expect(ringBox(smooth[0]).y).toBeCloseTo(-0.011, 2);
    const bends = runToEnd(bendsOf(pathSetOf(look, runToEnd(fitRings(smooth)))));
    expect(bends.every((b) => b.radiusMm > 0.8)).toBe(true);
  });
  test("keeps a limb thinner than the disc, such as a feeler", () => {
    const feeler = joined(body, [box(20, -12, 0.6, 13)]);
    expect(ringBox(runToEnd(smoothed(feeler, 1))[0]).y).toBeCloseTo(-12, 1);
    // A disc reaches a little into the feeler's foot: 1 - sqrt(1 - 0.3²).
    expect(ringBox(opened(feeler, 1)[0]).y).toBeCloseTo(-0.046, 2);
    expect(areaOf(closed(feeler, 1))).toBeGreaterThan(areaOf(feeler));
  });
});

describe("parts", () => {
  const three = [box(0, 0, 10, 10), box(10.8, 2, 6, 6), box(30, 0, 2, 2)];
  test("are kept by size, or the largest alone", () => {
    expect(areaOf(keptParts(three, "all", 5))).toBe(136);
    expect(areaOf(keptParts(three, "largest", 0))).toBe(100);
  });
  test("nearer than a distance they become one, and nothing else is filled", () => {
    const dented = without(three, [box(4, 0, 0.5, 5)]);
    const one = runToEnd(bridged(dented, 1));
    expect(partsOf(one)).toHaveLength(2);
    // The bridge is the gap of 0.8 mm along 6 mm, with a little beyond; the slit of the first part stays.
    expect(areaOf(one) - areaOf(dented)).toBeGreaterThan(0.8 * 5.5);
    expect(areaOf(one) - areaOf(dented)).toBeLessThan(0.8 * 7);
    expect(partsOf(runToEnd(bridged(three, 0.5)))).toHaveLength(3);
  });
});

test("the thinnest neck is found between two parts, or between a hole and the outside", () => {
  const dumbbell = joined([circleRing(0, 0, 10), circleRing(30, 0, 10)], [box(0, -0.85, 30, 1.7)]);
  const neck = runToEnd(thinnestNeck(dumbbell, 4))!;
  expect(neck.widthMm).toBeCloseTo(1.7, 1);
  expect(neck.box.x + neck.box.width / 2).toBeCloseTo(15, 0);
  const wall = runToEnd(thinnestNeck(without([circleRing(0, 0, 10)], [circleRing(5, 0, 4.2)]), 4))!;
  expect(wall.widthMm).toBeCloseTo(0.8, 1);
  expect(wall.box.x).toBeCloseTo(9.2, 1);
  expect(runToEnd(thinnestNeck([circleRing(0, 0, 10)], 4))).toBeNull();
});

describe("polygons as curves", () => {
  const shapes: readonly (readonly [string, Ring[], number, number])[] = [
    ["a circle", [circleRing(10, 10, 7)], 4, 0],
    ["a square with round corners", offset([box(0, 0, 20, 20)], 3), 8, 0],
    ["a square", [box(0, 0, 20, 20)], 4, 4],
    ["a ring", without([circleRing(0, 0, 20)], [circleRing(0, 0, 9)]), 8, 0],
  ];
  test.each(shapes)("%s has few pieces, the same area and the same corners", (_, rings, pieces, corners) => {
    const set = pathSetOf(look, runToEnd(fitRings(rings)));
    expect((set.points.length / 2 - set.closed.length) / 3).toBeLessThanOrEqual(pieces * 1.5);
    const again = ringsOf(set, 0.001);
    expect(areaOf(again) / areaOf(rings)).toBeCloseTo(1, 3);
    expect(again.map((r) => Math.sign(ringArea(r)))).toEqual(rings.map((r) => Math.sign(ringArea(r))));
    expect(runToEnd(bendsOf(set)).filter((b) => b.turnDegrees > 0)).toHaveLength(corners);
  });
  test("fewer corners stray no further than is said", () => {
    const few = simplified([circleRing(0, 0, 10)], 0.1);
    expect(few[0].length).toBeLessThan(circleRing(0, 0, 10).length / 2);
    expect(areaOf(few) / (100 * Math.PI)).toBeGreaterThan(0.98);
  });
});
