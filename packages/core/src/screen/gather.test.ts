import { runToEnd } from "../maths/work";
import { componentsOf } from "../region/components";
import { openBySquare } from "../region/opening";
import { seeded } from "../testing/pictures";
import { gatherSmall } from "./gather";

const SIDE = 256;
const small = (mask: Uint8Array, kind: 0 | 1, side: number): number => {
  const own = mask.map((m) => +(m === kind));
  const wide = own.slice();
  runToEnd(openBySquare(wide, SIDE, SIDE, side));
  const rowAt = (y: number, row: Uint8Array) => {
    for (let x = 0, i = y * SIDE; x < SIDE; x++, i++) row[x] = own[i] + wide[i];
  };
  return runToEnd(componentsOf(SIDE, SIDE, rowAt)).filter((c) => c.strong === 0).length;
};
const area = (mask: Uint8Array): number => mask.reduce((a, b) => a + b, 0);

/** Dots in a grid that noise has cut to pieces. */
function broken(share: number, seed: number): Uint8Array {
  const next = seeded(seed);
  return Uint8Array.from({ length: SIDE * SIDE }, (_, i) => {
    const [x, y] = [(i % SIDE) % 9, Math.floor(i / SIDE) % 9];
    const noise = ((next() % 1000) / 1000 - 0.5) * 6;
    return +(Math.hypot(x - 4, y - 4) < share + noise * +(next() % 4 === 0));
  });
}

test.each([2, 3, 4])(
  "nothing too small is left, and the tone of every neighbourhood is kept: %d dots",
  (share) => {
    const mask = broken(share, 5 + share);
    const before = mask.slice();
    expect(small(mask, 1, 3)).toBeGreaterThan(50);
    runToEnd(gatherSmall(mask, SIDE, SIDE, null, 3, 2));
    expect(small(mask, 1, 3)).toBe(0);
    expect(small(mask, 0, 2)).toBe(0);
    expect(Math.abs(area(mask) - area(before)) / (SIDE * SIDE)).toBeLessThan(0.008);
    for (let v = 0; v < 2; v++)
      for (let u = 0; u < 2; u++) {
        const quarter = (m: Uint8Array) =>
          m.filter((_, i) => Math.floor((i % SIDE) / 128) === u && i >> 15 === v);
        expect(Math.abs(area(quarter(mask)) - area(quarter(before))) / 16384).toBeLessThan(0.01);
      }
  },
);

test("outside the art nothing is put, and a gap that runs out of it is none", () => {
  const mask = broken(3, 3);
  const cover = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => (i % SIDE < 128 ? 255 : 0));
  for (let i = 0; i < mask.length; i++) if (cover[i] === 0) mask[i] = 0;
  runToEnd(gatherSmall(mask, SIDE, SIDE, cover, 3, 2));
  expect(mask.some((m, i) => m === 1 && cover[i] === 0)).toBe(false);
});

test("what is wide enough stays as it is", () => {
  const mask = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => +((i % SIDE) % 8 < 4));
  const before = mask.slice();
  runToEnd(gatherSmall(mask, SIDE, SIDE, null, 3, 3));
  expect(mask).toEqual(before);
});
