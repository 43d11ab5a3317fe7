import fc from "fast-check";
import { runToEnd } from "../maths/work";
import { bitAt, type Cover, type Gray } from "../raster/types";
import { grayOf, randomGray, seeded } from "../testing/pictures";
import { localThreshold } from "./localThreshold";
import { threshold } from "./threshold";

/** The formula as it is published, each window summed anew. */
function plainly({ width, height, data }: Gray, cover: Cover, window: number, k: number): number[] {
  const half = window >> 1;
  return Array.from(data, (g, i) => {
    if (cover && cover[i] === 0) return 0;
    const around: number[] = [];
    const [x, y] = [i % width, Math.floor(i / width)];
    for (let v = Math.max(0, y - half); v <= Math.min(height - 1, y + half); v++)
      for (let u = Math.max(0, x - half); u <= Math.min(width - 1, x + half); u++)
        if (!cover || cover[v * width + u] !== 0) around.push(data[v * width + u]);
    const mean = around.reduce((a, b) => a + b, 0) / around.length;
    const deviation = Math.sqrt(around.reduce((a, b) => a + (b - mean) ** 2, 0) / around.length);
    const over = g - mean * (1 + k * (deviation / 128 - 1));
    return Math.abs(over) < 1e-9 ? -1 : +(over < 0); // on the threshold to the last digit either is right
  });
}

test("marks what the published formula marks, at edges, in narrow pictures and beside cleared ground", () => {
  const cases = fc.record({
    seed: fc.integer({ min: 1, max: 1e6 }),
    width: fc.integer({ min: 1, max: 40 }),
    height: fc.integer({ min: 1, max: 30 }),
    window: fc.constantFrom(3, 5, 9, 15, 41, 101),
    k: fc.constantFrom(0.05, 0.2, 0.5),
    cleared: fc.boolean(),
  });
  fc.assert(
    fc.property(cases, ({ seed, width, height, window, k, cleared }) => {
      const picture = randomGray(width, height, seed);
      const next = seeded(seed + 7);
      const cover = cleared ? Uint8Array.from({ length: width * height }, () => next() & 1) : null;
      const bits = runToEnd(localThreshold(picture, cover, { window, k }));
      plainly(picture, cover, window, k).forEach((mark, i) => {
        if (mark >= 0) expect(bitAt(bits, i % width, Math.floor(i / width))).toBe(mark);
      });
    }),
    { numRuns: 60 },
  );
});

test("ink on paper whose light falls to a third is read where no one threshold can", () => {
  const isInk = (x: number, y: number) => y % 12 < 3 && x % 20 < 16;
  const light = (x: number) => 240 - (160 * x) / 400;
  const page = grayOf(400, 120, (x, y) => Math.round(light(x) * (isInk(x, y) ? 0.55 : 1)));
  const wrong = (mark: (x: number, y: number) => number) => {
    let count = 0;
    for (let y = 0; y < 120; y++) for (let x = 0; x < 400; x++) count += +(mark(x, y) !== +isInk(x, y));
    return count / (400 * 120);
  };
  const local = runToEnd(localThreshold(page, null, { window: 41, k: 0.2 }));
  expect(wrong((x, y) => bitAt(local, x, y))).toBeLessThan(0.005);
  const fixed = [100, 130, 160].map((t) => runToEnd(threshold(page, t)));
  for (const bits of fixed) expect(wrong((x, y) => bitAt(bits, x, y))).toBeGreaterThan(0.1);
});
