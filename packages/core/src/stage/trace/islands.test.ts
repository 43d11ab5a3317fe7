import { runToEnd } from "../../maths/work";
import { ringsOf } from "../../path/flatten";
import { countPaths } from "../../path/pathSet";
import { areaOf, ringArea } from "../../polygon/rings";
import { newGray, type Gray } from "../../raster/types";
import { traceBlack } from "./black";
import { traceSettings } from "./settings";

const SIDE = 40;
const SCALE = { perMm: 10, tolerance: 0.5, edge: 2, enlarged: 1 };

const drawn = (pixels: readonly (readonly [number, number])[], grey = 0): Gray => {
  const gray = newGray(SIDE, SIDE);
  gray.data.fill(255);
  for (const [x, y] of pixels) gray.data[y * SIDE + x] = grey;
  return gray;
};
const traced = (gray: Gray, settings: object, tolerance = SCALE.tolerance) =>
  runToEnd(traceBlack(gray, traceSettings.parse({ threshold: 128, ...settings }), { ...SCALE, tolerance }));

/** Every island of one to three pixels in a row, a column and a corner, with one of five. */
const ISLANDS: Record<string, [number, number][]> = {
  "1 x 1": [[10, 10]],
  "2 x 1": [10, 11].map((x) => [x, 10]),
  "3 x 1": [10, 11, 12].map((x) => [x, 10]),
  "1 x 2": [10, 11].map((y) => [10, y]),
  "1 x 3": [10, 11, 12].map((y) => [10, y]),
  corner: [
    [10, 10],
    [10, 11],
    [11, 11],
  ],
  "5 x 1": [10, 11, 12, 13, 14].map((x) => [x, 10]),
};

describe.each(Object.entries(ISLANDS))("an island of %s", (_, pixels) => {
  test.each([
    [0, 0.2],
    [0, 2],
    [90, 0.5],
  ])("as dark as %i, followed within %f px, is an outline that goes round it", (grey, tolerance) => {
    const { sets, dropped } = traced(drawn(pixels, grey), { smallestMm2: 0 }, tolerance);
    expect([countPaths(sets[0]), dropped.specks]).toEqual([1, 0]);
    const area = Math.abs(areaOf(ringsOf(sets[0], 0.001))) * 100;
    // Grey crosses the threshold so far from a pixel's middle; of one alone that makes a square on its tip.
    const reach = (128 - grey) / (255 - grey);
    expect(area).toBeGreaterThan(0.95 * 2 * reach * reach);
    expect(area).toBeLessThan(1.2 * pixels.length);
    const box = ringsOf(sets[0], 0.001)[0];
    for (let i = 0; i < box.length; i += 2) {
      expect(box[i] * 10).toBeGreaterThan(9);
      expect(box[i] * 10).toBeLessThan(16);
    }
  });

  test("smaller than what is wanted, it is counted as dropped", () => {
    const { sets, dropped } = traced(drawn(pixels), { smallestMm2: 0.2 });
    expect([countPaths(sets[0]), dropped.specks]).toEqual([0, 1]);
  });
});

test("holes of a pixel are outlines too, the other way round, or are counted as pinholes", () => {
  const gray = newGray(SIDE, SIDE);
  gray.data.fill(255);
  for (let y = 5; y < 35; y++) gray.data.fill(0, y * SIDE + 5, y * SIDE + 35);
  gray.data[20 * SIDE + 20] = 255;
  const open = traced(gray, { smallestMm2: 0, smallestHoleMm2: 0 });
  const signs = ringsOf(open.sets[0], 0.001).map((ring) => Math.sign(ringArea(ring)));
  expect([...signs].sort()).toEqual([-1, 1]);
  const { sets, dropped } = traced(gray, { smallestMm2: 0, smallestHoleMm2: 0.1 });
  expect([countPaths(sets[0]), dropped.pinholes]).toEqual([1, 1]);
});

test("of a chequerboard every square is there", () => {
  const squares: [number, number][] = [];
  for (let y = 2; y < 38; y++) for (let x = 2; x < 38; x++) if ((x + y) % 2 === 0) squares.push([x, y]);
  const { sets, dropped } = traced(drawn(squares), { smallestMm2: 0, smallestHoleMm2: 0 });
  expect(countPaths(sets[0]) + dropped.specks + dropped.pinholes).toBe(squares.length);
});
