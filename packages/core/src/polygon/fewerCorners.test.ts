import fc from "fast-check";
import { fewerCorners } from "./fewerCorners";

const ringOf = (...corners: readonly (readonly [number, number])[]): Float64Array =>
  Float64Array.from(corners.flat());

/** How far a point lies from a straight piece. */
function off(px: number, py: number, ring: Float64Array, k: number): number {
  const count = ring.length / 2;
  const [ax, ay] = [ring[2 * k], ring[2 * k + 1]];
  const [bx, by] = [ring[2 * ((k + 1) % count)], ring[2 * ((k + 1) % count) + 1]];
  const [dx, dy] = [bx - ax, by - ay];
  const long = dx * dx + dy * dy;
  const t = long === 0 ? 0 : Math.min(1, Math.max(0, ((px - ax) * dx + (py - ay) * dy) / long));
  return Math.hypot(px - ax - t * dx, py - ay - t * dy);
}

test("a square whose sides have corners between keeps four, and a step of its own size stays", () => {
  const side = (from: number, to: number): number[] =>
    Array.from({ length: 10 }, (_, k) => from + ((to - from) * k) / 10);
  const square = ringOf(
    ...side(0, 10).map((x): [number, number] => [x, 0]),
    ...side(0, 10).map((y): [number, number] => [10, y]),
    ...side(10, 0).map((x): [number, number] => [x, 10]),
    ...side(10, 0).map((y): [number, number] => [0, y]),
  );
  expect([...fewerCorners(square, 0.01)]).toEqual([0, 0, 10, 0, 10, 10, 0, 10]);
  const step = ringOf([0, 0], [4, 0], [4, 1], [5, 1], [5, 0], [10, 0], [10, 10], [0, 10]);
  expect([...fewerCorners(step, 0.2)]).toEqual([...step]);
});

test("what is left out of a circle lies within the distance, and most of it is left out", () => {
  const circle = Float64Array.from({ length: 2000 }, (_, i) =>
    i % 2 === 0 ? 50 * Math.cos((Math.PI * i) / 1000) : 50 * Math.sin((Math.PI * (i - 1)) / 1000),
  );
  const less = fewerCorners(circle, 0.1);
  // An arc whose sagitta is a tenth: some 50 pieces would do, the walk may need twice as many.
  expect(less.length / 2).toBeGreaterThanOrEqual(48);
  expect(less.length / 2).toBeLessThan(110);
});

test("corners kept are corners given, in their order, and every one left out lies within the distance of the line", () => {
  const place = fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 }));
  fc.assert(
    fc.property(
      fc.array(place, { minLength: 3, maxLength: 60 }),
      fc.constantFrom(0.3, 1, 3),
      (corners, within) => {
        const ring = ringOf(...corners);
        const less = fewerCorners(ring, within);
        let at = 0;
        for (let k = 0; k < less.length / 2; k++) {
          while (
            at < ring.length / 2 &&
            (ring[2 * at] !== less[2 * k] || ring[2 * at + 1] !== less[2 * k + 1])
          )
            at++;
          expect(at).toBeLessThan(ring.length / 2);
          at++;
        }
        for (let k = 0; k < ring.length / 2; k++) {
          const nearest = Math.min(
            ...Array.from({ length: less.length / 2 }, (_, n) => off(ring[2 * k], ring[2 * k + 1], less, n)),
          );
          expect(nearest).toBeLessThanOrEqual(within + 1e-9);
        }
      },
    ),
  );
});
