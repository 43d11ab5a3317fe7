import { runToEnd } from "../maths/work";
import { componentsOf } from "../region/components";
import { asItIs } from "../result/finish";
import { type Paths, type Tone } from "../result/result";
import { runStage } from "../testing/running";
import { grayOf } from "../testing/pictures";
import { newGray, type Gray } from "../raster/types";
import { FINE, finer } from "./finer";

const SIDE = 60;

/** A stroke of a width from one place to another, each pixel as dark as so much of it is covered: 64 points a pixel. */
function stroke(wide: number, from: readonly [number, number], to: readonly [number, number]): Gray {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const whole = dx * dx + dy * dy;
  return grayOf(SIDE, SIDE, (x, y) => {
    let inside = 0;
    for (let n = 0; n < 64; n++) {
      const [px, py] = [x + ((n & 7) + 0.5) / 8 - from[0], y + ((n >> 3) + 0.5) / 8 - from[1]];
      const t = Math.min(1, Math.max(0, (px * dx + py * dy) / whole));
      inside += Math.hypot(px - t * dx, py - t * dy) < wide / 2 ? 1 : 0;
    }
    return 255 - Math.round((255 * inside) / 64);
  });
}
const inkOf = ({ data }: Gray): number => data.reduce((n, v) => n + (v < 128 ? 1 : 0), 0) / FINE / FINE;
const partsOf = ({ width, height, data }: Gray): number => {
  const rowAt = (y: number, row: Uint8Array): void => {
    for (let x = 0; x < width; x++) row[x] = data[y * width + x] < 128 ? 1 : 0;
  };
  return runToEnd(componentsOf(width, height, rowAt)).length;
};

test.each([
  [0.5, [8.3, 12.7], [52.1, 47.4], 6],
  [0.5, [8.3, 30.2], [52.1, 33.9], 6],
  [0.8, [30.4, 6.2], [33.1, 54.8], 1],
  [1.3, [9.1, 50.2], [50.6, 11.7], 1],
  [2, [9.1, 30.2], [50.6, 31.7], 1],
] as const)(
  "a stroke of %f px comes out with the ink that it has, from %p to %p in %i parts at most",
  (wide, from, to, most) => {
    const given = stroke(wide, from, to);
    const found = runToEnd(finer(given, 128, 0.85));
    const ink = given.data.reduce((sum, v) => sum + (255 - v) / 255, 0);
    expect(partsOf(found)).toBeLessThanOrEqual(most);
    expect(inkOf(found) / ink).toBeGreaterThan(0.9);
    expect(inkOf(found) / ink).toBeLessThan(1.12);
  },
);

/** What a lens makes of it: each pixel gives a share to those beside it, along rows and then along columns. */
function lensed(gray: Gray, share: number): Gray {
  const across = (from: Gray, step: number): Gray =>
    grayOf(SIDE, SIDE, (x, y) => {
      const i = y * SIDE + x;
      const at = (j: number) => from.data[j] ?? 255;
      return Math.round((1 - 2 * share) * at(i) + share * (at(i - step) + at(i + step)));
    });
  return across(across(gray, 1), SIDE);
}

test.each([
  [0.7, [8.3, 12.7], [52.1, 47.4], 3],
  [1, [30.4, 6.2], [33.1, 54.8], 3],
  [1.4, [9.1, 50.2], [50.6, 11.7], 1],
] as const)(
  "a stroke of %f px that a lens has spread comes out as wide as it was",
  (wide, from, to, most) => {
    const drawn = stroke(wide, from, to);
    const seen = lensed(drawn, 0.18);
    const ink = drawn.data.reduce((sum, v) => sum + (255 - v) / 255, 0);
    const told = runToEnd(finer(seen, 128, 0.85, 0.18));
    const untold = runToEnd(finer(seen, 128, 0.85));
    const truth = runToEnd(finer(drawn, 128, 0.85));
    const wrong = ({ data }: Gray): number =>
      data.reduce((n, v, i) => n + (v < 128 !== truth.data[i] < 128 ? 1 : 0), 0);
    expect(partsOf(told)).toBeLessThanOrEqual(most); // bridges join them
    expect(inkOf(told) / ink).toBeGreaterThan(0.9);
    expect(inkOf(told) / ink).toBeLessThan(1.16);
    expect(wrong(told)).toBeLessThan(0.6 * wrong(untold));
  },
);

test("even paper and even ink stay as they are, and squares meet without a seam", () => {
  const plain = runToEnd(finer(newGray(150, 70), 128, 1));
  expect(new Set(plain.data)).toEqual(new Set([0]));
  // A stroke over the joint between two squares of 64 pixels, and the same one inside one square.
  const line = (at: number) =>
    runToEnd(
      finer(
        grayOf(120, 60, (x, y) => (x === at && y > 9 && y < 50 ? 150 : 255)),
        128,
        0.85,
      ),
    );
  const [inside, over] = [line(30), line(64)];
  expect(inkOf(inside)).toBeGreaterThan(15);
  expect(inkOf(over)).toBeCloseTo(inkOf(inside), 3);
  expect(partsOf(over)).toBe(partsOf(inside));
});

const toned = (gray: Gray): Tone => ({ kind: "tone", gray, cover: null, ...asItIs(gray) });

test("traced with thin strokes it is in millimetres as without, and faint strokes are there", () => {
  const gray = stroke(0.6, [8.3, 12.7], [52.1, 47.4]);
  const given = { toleranceMm: 0.03, smallestMm2: 0, smallestHoleMm2: 0 };
  const [without, withThem] = [0, 0.85].map(
    (thin) => runStage("trace", toned(gray), { ...given, thin }) as Paths,
  );
  expect(without.sets[0].closed.length).not.toBe(1); // in pieces, or not there
  expect(withThem.sets[0].closed.length).toBe(1);
  const xs = withThem.sets[0].points.filter((_, k) => k % 2 === 0);
  expect(Math.min(...xs)).toBeCloseTo(0.8, 1);
  expect(Math.max(...xs)).toBeCloseTo(5.24, 1);
});

test("of a large picture they are refused, with what is allowed", () => {
  const gray = newGray(900, 700);
  expect(() => runStage("trace", toned(gray), { thin: 0.5 })).toThrow(
    /thin.*0 for pictures of more than 0\.5 megapixels; this one has 0\.6/s,
  );
});
