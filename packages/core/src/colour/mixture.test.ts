import fc from "fast-check";
import { freed, mixture } from "./mixture";

const colour = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: 0, max: 255 }))) as fc.Arbitrary<number[]>;

test("of a mixture its share is told, and its art comes back", () => {
  fc.assert(
    fc.property(colour, colour, fc.double({ min: 0.02, max: 1, noNaN: true }), (art, back, share) => {
      fc.pre(Math.hypot(...art.map((v, k) => v - back[k])) > 5);
      const mixed = art.map((v, k) => share * v + (1 - share) * back[k]);
      const told = mixture(mixed, art, back);
      expect(told.share).toBeCloseTo(share, 6);
      expect(told.off).toBeLessThan(1e-6);
      mixed.forEach((v, k) => expect(freed(v, back[k], share)).toBeCloseTo(art[k], 6));
    }),
  );
});

test("what lies beside the line is told by how far, as a share of the line", () => {
  const told = mixture([50, 30, 0], [100, 0, 0], [0, 0, 0]);
  expect([told.share, told.whole]).toEqual([0.5, 10000]);
  expect(told.off).toBeCloseTo(0.3, 12);
  expect(mixture([9, 9, 9], [8, 8, 8], [8, 8, 8]).whole).toBe(0);
});
