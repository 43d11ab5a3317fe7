import fc from "fast-check";
import { sorted } from "./sorted";
import { runToEnd } from "./work";

test("a list comes out as the engine's own sorting has it, alike ones in their order", () => {
  fc.assert(
    fc.property(fc.array(fc.nat(20), { maxLength: 12_000, size: "max" }), (numbers) => {
      const list = numbers.map((value, place) => ({ value, place }));
      const expected = [...list].sort((a, b) => a.value - b.value);
      runToEnd(sorted(list, (a, b) => a.value - b.value));
      expect(list).toEqual(expected);
    }),
    { numRuns: 20 },
  );
});

test("a long list pauses on the way", () => {
  const list = Array.from({ length: 50_000 }, (_, k) => (k * 7919) % 50_000);
  const work = sorted(list, (a, b) => a - b);
  let pauses = 0;
  while (!work.next().done) pauses++;
  expect(pauses).toBeGreaterThan(20);
  expect(list).toEqual(Array.from({ length: 50_000 }, (_, k) => k));
});
