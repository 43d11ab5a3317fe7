import { BLUE_NOISE_ORDER, BLUE_NOISE_SIDE } from "./blueNoiseTile";
import { BLUE_NOISE } from "./blueNoise";
import { voidAndCluster } from "./voidAndCluster";

const SIDE = 32;
const rank = voidAndCluster(SIDE);

test("every place in the order is taken once", () => {
  expect([...rank].sort((a, b) => a - b)).toEqual(Array.from({ length: SIDE * SIDE }, (_, k) => k));
  expect([...voidAndCluster(1)]).toEqual([0]);
  expect([...voidAndCluster(3)].sort()).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
});

/** How far each of the first marks is from the nearest other, over the tile's edges. */
function nearest(order: Int32Array, side: number, count: number): number[] {
  const marks = Array.from(order.keys()).filter((i) => order[i] < count);
  const apart = (a: number, b: number) => Math.min(Math.abs(a - b), side - Math.abs(a - b));
  return marks.map((i) =>
    Math.min(
      ...marks
        .filter((j) => j !== i)
        .map((j) => Math.hypot(apart(i % side, j % side), apart(Math.floor(i / side), Math.floor(j / side)))),
    ),
  );
}

test.each([20, 51, 102])("the first %d marks lie as far apart as so many can, nearly", (count) => {
  const even = SIDE / Math.sqrt(count); // of a square grid
  const gaps = nearest(rank, SIDE, count);
  expect(Math.min(...gaps)).toBeGreaterThan(0.6 * even);
  // Random marks come to half of it.
  expect(gaps.reduce((a, b) => a + b, 0) / gaps.length).toBeGreaterThan(0.75 * even);
});

test("the tile that was built has every place once, as even, its thresholds as even as 255 can be", () => {
  const count = BLUE_NOISE_SIDE ** 2;
  const order = new Int32Array(count).fill(-1);
  for (let k = 0; k < count; k++) order[parseInt(BLUE_NOISE_ORDER.slice(4 * k, 4 * k + 4), 16)] = k;
  expect(order.every((k) => k >= 0)).toBe(true);
  const gaps = nearest(order, BLUE_NOISE_SIDE, 164);
  expect(Math.min(...gaps)).toBeGreaterThan(0.6 * 10);
  const counts = new Array<number>(256).fill(0);
  for (const t of BLUE_NOISE.thresholds) counts[t]++;
  expect(counts[0]).toBe(0);
  for (let t = 1; t <= 255; t++) expect(Math.abs(counts[t] - count / 255)).toBeLessThanOrEqual(1);
});
