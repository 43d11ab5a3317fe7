import fc from "fast-check";
import { runToEnd } from "../maths/work";
import { seeded } from "../testing/pictures";
import { componentsOf } from "./components";
import { NOWHERE, squaredDistanceTo } from "./distance";
import { openBySquare } from "./opening";

const randomMask = (width: number, height: number, seed: number, oneIn: number) => {
  const next = seeded(seed);
  return Uint8Array.from({ length: width * height }, () => (next() % oneIn === 0 ? 0 : 1));
};
const rowsOf = (mask: Uint8Array, width: number) => (y: number, row: Uint8Array) =>
  row.set(mask.subarray(y * width, (y + 1) * width));

/** Flood fill from every pixel not yet seen; pixels, box. */
function flooded(mask: Uint8Array, width: number, height: number) {
  const seen = new Set<number>();
  const found: { pixels: number; x: number; y: number; width: number; height: number }[] = [];
  for (let start = 0; start < mask.length; start++) {
    if (!mask[start] || seen.has(start)) continue;
    const stack = [start];
    seen.add(start);
    const xs: number[] = [];
    const ys: number[] = [];
    while (stack.length) {
      const i = stack.pop()!;
      const [x, y] = [i % width, Math.floor(i / width)];
      xs.push(x);
      ys.push(y);
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          const n = ny * width + nx;
          if (nx < 0 || ny < 0 || nx >= width || ny >= height || !mask[n] || seen.has(n)) continue;
          seen.add(n);
          stack.push(n);
        }
    }
    const [x, y] = [Math.min(...xs), Math.min(...ys)];
    found.push({ pixels: xs.length, x, y, width: Math.max(...xs) - x + 1, height: Math.max(...ys) - y + 1 });
  }
  return found;
}

test("components equal a flood fill from every pixel", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 24 }),
      fc.integer({ min: 1, max: 24 }),
      fc.integer({ min: 1, max: 1e6 }),
      fc.constantFrom(2, 3, 5),
      (w, h, seed, oneIn) => {
        const mask = randomMask(w, h, seed, oneIn);
        const ours = runToEnd(componentsOf(w, h, rowsOf(mask, w)));
        ours.forEach((c) => expect(mask[c.seed[1] * w + c.seed[0]]).toBe(1));
        expect(ours.map(({ pixels, x, y, width, height }) => ({ pixels, x, y, width, height }))).toEqual(
          flooded(mask, w, h),
        );
      },
    ),
  );
});

test("components below the smallest size are left out", () => {
  const mask = Uint8Array.from([1, 0, 1, 1, 0, 0, 1, 1]);
  expect(runToEnd(componentsOf(4, 2, rowsOf(mask, 4), 2)).map((c) => c.pixels)).toEqual([4]);
});

test("opening keeps exactly what squares of set pixels cover", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 20 }),
      fc.integer({ min: 1, max: 20 }),
      fc.integer({ min: 1, max: 1e6 }),
      fc.integer({ min: 1, max: 5 }),
      (w, h, seed, side) => {
        const mask = randomMask(w, h, seed, 9);
        const wanted = new Uint8Array(w * h);
        for (let y = 0; y + side <= h; y++)
          for (let x = 0; x + side <= w; x++) {
            const cells = Array.from(
              { length: side * side },
              (_, k) => (y + Math.floor(k / side)) * w + x + (k % side),
            );
            if (cells.every((i) => mask[i])) cells.forEach((i) => (wanted[i] = 1));
          }
        const opened = Uint8Array.from(mask);
        runToEnd(openBySquare(opened, w, h, side));
        expect(Array.from(opened)).toEqual(Array.from(side <= 1 ? mask : wanted));
      },
    ),
  );
});

test("distances beyond what fits are the farthest, neither less nor of the other sign", () => {
  const width = 60000;
  const mask = new Uint8Array(width * 2);
  mask[0] = 1;
  const out = runToEnd(squaredDistanceTo(mask, width, 2));
  for (const x of [0, 1, 20000, 32767]) expect(out[x]).toBe(x * x);
  for (const x of [32769, 46340, 46341, 59999]) expect(out[x]).toBe(NOWHERE - 1);
  const tall = runToEnd(squaredDistanceTo(mask, 2, width));
  for (const y of [0, 1, 20000]) expect(tall[y * 2]).toBe(y * y);
  for (const y of [40000, 46341, 59999]) expect(tall[y * 2]).toBe(NOWHERE - 1);
});
