import { runToEnd } from "../../maths/work";
import { seeded } from "../../testing/pictures";
import { cheapestCut, STEPS } from "./graphCut";

/** A random grid graph; `terminal` and `capacity` as cheapestCut takes them. */
function graph(width: number, height: number, seed: number, most: number) {
  const next = seeded(seed);
  const terminal = Int32Array.from({ length: width * height }, () => (next() % (2 * most + 1)) - most);
  const capacity = new Int32Array(width * height * 8);
  for (let i = 0; i < width * height; i++)
    STEPS.forEach(([dx, dy], d) => {
      const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
      if (d < 4 || x < 0 || y < 0 || x >= width || y >= height) return;
      const j = y * width + x;
      capacity[i * 8 + d] = capacity[j * 8 + 7 - d] = 1 + (next() % most);
    });
  return { terminal, capacity };
}

function costOfCut(
  side: ArrayLike<number>,
  width: number,
  terminal: Int32Array,
  capacity: Int32Array,
): number {
  let cost = 0;
  for (let i = 0; i < terminal.length; i++) {
    if (terminal[i] > 0 && side[i] === 0) cost += terminal[i];
    if (terminal[i] < 0 && side[i] === 1) cost -= terminal[i];
    STEPS.forEach(([dx, dy], d) => {
      if (capacity[i * 8 + d] > 0 && side[i] === 1 && side[i + dy * width + dx] === 0)
        cost += capacity[i * 8 + d];
    });
  }
  return cost;
}

test.each(Array.from({ length: 24 }, (_, k) => k + 1))(
  "no cut is cheaper: all of them tried (%d)",
  (seed) => {
    const [width, height] = [
      [4, 3],
      [3, 4],
      [6, 2],
      [2, 5],
    ][seed % 4];
    const { terminal, capacity } = graph(width, height, seed * 31, 3 + seed);
    const found = runToEnd(cheapestCut(width, height, terminal, capacity.slice()));
    let least = Infinity;
    for (let cut = 0; cut < 1 << (width * height); cut++) {
      const side = Array.from({ length: width * height }, (_, i) => (cut >> i) & 1);
      least = Math.min(least, costOfCut(side, width, terminal, capacity));
    }
    expect(costOfCut(found, width, terminal, capacity)).toBe(least);
  },
);

test.each([1, 2, 3])(
  "moving any single pixel to the other side costs no less, on a larger graph (%d)",
  (seed) => {
    const { terminal, capacity } = graph(40, 30, seed, 40);
    const found = runToEnd(cheapestCut(40, 30, terminal, capacity.slice()));
    const cost = costOfCut(found, 40, terminal, capacity);
    for (let i = 0; i < found.length; i += 7) {
      found[i] ^= 1;
      expect(costOfCut(found, 40, terminal, capacity)).toBeGreaterThanOrEqual(cost);
      found[i] ^= 1;
    }
  },
);
