import fc from "fast-check";
import { runToEnd } from "../maths/work";
import { grayOf, randomGray } from "../testing/pictures";
import { monotoneCurve, type CurvePoint } from "./curve";
import { applyTable, toneTable } from "./levels";
import { sharpen } from "./sharpen";

const points = fc.uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 8 }).chain((xs) =>
  fc.tuple(...xs.map(() => fc.integer({ min: 0, max: 100 }))).map((ys): CurvePoint[] => {
    const sorted = [...xs].sort((a, b) => a - b);
    return sorted.map((x, i) => [x / 100, ys[i] / 100]);
  }),
);

describe("curve", () => {
  test("two points make a straight line", () => {
    expect(
      Array.from(
        monotoneCurve(
          [
            [0, 0],
            [1, 1],
          ],
          5,
        ),
      ),
    ).toEqual([0, 0.25, 0.5, 0.75, 1]);
  });

  test("worked by hand: the middle of a bend", () => {
    // slopes 1.2 and 0.8, tangents 1.2, 1, 0.8; at a quarter: Hermite with h = 1/2, t = 1/2
    expect(
      monotoneCurve(
        [
          [0, 0],
          [0.5, 0.6],
          [1, 1],
        ],
        5,
      )[1],
    ).toBeCloseTo(0.3 + ((1.2 - 1) * 0.5) / 8, 12);
  });

  test("goes through its points, never leaves the span of two neighbours, and is level beyond the ends", () => {
    fc.assert(
      fc.property(points, (curve) => {
        const values = monotoneCurve(curve, 101);
        curve.forEach(([x, y]) => expect(values[Math.round(x * 100)]).toBeCloseTo(y, 9));
        for (let k = 0; k <= 100; k++) {
          const i = curve.findIndex(([x]) => x > k / 100 + 1e-12);
          const [a, b] =
            i < 0
              ? [curve.at(-1)!, curve.at(-1)!]
              : i === 0
                ? [curve[0], curve[0]]
                : [curve[i - 1], curve[i]];
          expect(values[k]).toBeGreaterThanOrEqual(Math.min(a[1], b[1]) - 1e-9);
          expect(values[k]).toBeLessThanOrEqual(Math.max(a[1], b[1]) + 1e-9);
        }
      }),
    );
  });
});

describe("levels", () => {
  test("change nothing when nothing is set", () => {
    expect(
      Array.from(
        toneTable({
          black: 0,
          white: 1,
          curve: [
            [0, 0],
            [1, 1],
          ],
        }),
      ),
    ).toEqual(Array.from({ length: 256 }, (_, g) => g));
  });

  test("stretch between black and white", () => {
    const table = toneTable({
      black: 0.2,
      white: 0.6,
      curve: [
        [0, 0],
        [1, 1],
      ],
    });
    expect([table[51], table[102], table[153], table[10], table[240]]).toEqual([0, 128, 255, 0, 255]);
  });

  test("a table is applied to every pixel, odd counts and odd starts too", () => {
    const table = Uint8Array.from({ length: 256 }, (_, g) => 255 - g);
    for (const [width, height] of [
      [1, 1],
      [5, 3],
      [4, 4],
    ]) {
      const picture = randomGray(width, height, 9);
      expect(Array.from(runToEnd(applyTable(picture, table)).data)).toEqual(
        Array.from(picture.data, (g) => 255 - g),
      );
    }
    const within = { width: 3, height: 1, data: Uint8Array.from([0, 1, 2, 3]).subarray(1) };
    expect(Array.from(runToEnd(applyTable(within, table)).data)).toEqual([254, 253, 252]);
  });
});

describe("sharpen", () => {
  test("leaves an even picture and amount 0 alone", () => {
    const even = grayOf(9, 9, () => 90);
    expect(Array.from(runToEnd(sharpen(even, null, 1.3, 2)).data)).toEqual(Array.from(even.data));
    const picture = randomGray(5, 5, 1);
    expect(runToEnd(sharpen(picture, null, 1, 0))).toBe(picture);
  });

  test("equals the picture minus a plain two-dimensional Gaussian, to the rounding", () => {
    const picture = randomGray(23, 17, 4);
    const sigma = 0.9;
    const reach = Math.ceil(3 * sigma);
    const out = runToEnd(sharpen(picture, null, sigma, 0.7));
    const at = (x: number, y: number) =>
      picture.data[Math.min(16, Math.max(0, y)) * 23 + Math.min(22, Math.max(0, x))];
    for (let y = 0; y < 17; y++)
      for (let x = 0; x < 23; x++) {
        let sum = 0;
        let weights = 0;
        for (let dy = -reach; dy <= reach; dy++)
          for (let dx = -reach; dx <= reach; dx++) {
            const w = Math.exp(-(dx * dx + dy * dy) / (2 * sigma * sigma));
            sum += w * at(x + dx, y + dy);
            weights += w;
          }
        const g = at(x, y);
        const wanted = Math.min(255, Math.max(0, g + 0.7 * (g - sum / weights)));
        expect(Math.abs(out.data[y * 23 + x] - wanted)).toBeLessThan(0.51);
      }
  });

  test("cleared pixels lend nothing: their value does not matter", () => {
    const cover = Uint8Array.from({ length: 400 }, (_, i) => (i % 20 < 10 ? 255 : 0));
    const dark = grayOf(20, 20, (x, y) => (x < 10 ? 100 + ((x * y) % 30) : 0));
    const pale = grayOf(20, 20, (x, y) => (x < 10 ? 100 + ((x * y) % 30) : 255));
    const [a, b] = [dark, pale].map((p) => runToEnd(sharpen(p, cover, 2, 1)).data);
    for (let i = 0; i < 400; i++) if (cover[i]) expect(a[i]).toBe(b[i]);
  });
});
