import { runToEnd } from "../maths/work";
import fc from "fast-check";
import { unpackRow } from "../raster/bits";
import { bitAt } from "../raster/types";
import { grayOf, randomGray } from "../testing/pictures";
import { otsuThreshold, threshold } from "./threshold";

describe("fixed threshold", () => {
  test("marks exactly what is darker", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 255 }),
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 9 }),
        (t, w, h) => {
          const picture = randomGray(w, h, t * 1000 + w);
          const bits = runToEnd(threshold(picture, t));
          for (let y = 0; y < h; y++)
            for (let x = 0; x < w; x++) expect(bitAt(bits, x, y)).toBe(picture.data[y * w + x] < t ? 1 : 0);
        },
      ),
    );
  });

  test("leaves the padding of each row empty", () => {
    expect(
      Array.from(
        runToEnd(
          threshold(
            grayOf(9, 2, () => 0),
            128,
          ),
        ).data,
      ),
    ).toEqual([255, 128, 255, 128]);
  });
});

/** Otsu's criterion as within-group variance, which is least where variance between is greatest. */
function leastWithin(values: number[]): number {
  let best = Infinity;
  let found = 0;
  for (let t = 1; t < 256; t++) {
    const groups = [values.filter((v) => v < t), values.filter((v) => v >= t)];
    if (groups.some((g) => g.length === 0)) continue;
    const within = groups.reduce((sum, g) => {
      const mean = g.reduce((a, b) => a + b) / g.length;
      return sum + g.reduce((a, v) => a + (v - mean) ** 2, 0);
    }, 0);
    if (within < best - 1e-6) {
      best = within;
      found = t;
    }
  }
  return found;
}

describe("Otsu's threshold", () => {
  test("worked by hand: two values are parted just above the darker", () => {
    expect(
      runToEnd(
        otsuThreshold(
          grayOf(4, 1, (x) => (x < 2 ? 10 : 200)),
          null,
        ),
      ),
    ).toBe(11);
  });

  test("equals the least variance within the groups", () => {
    for (let seed = 1; seed <= 20; seed++) {
      const picture = randomGray(13, 7, seed);
      expect(runToEnd(otsuThreshold(picture, null))).toBe(leastWithin(Array.from(picture.data)));
    }
  });

  test("looks at the art only, and has an answer for an even picture", () => {
    const picture = grayOf(6, 1, (x) => [10, 10, 90, 90, 255, 255][x]);
    expect(runToEnd(otsuThreshold(picture, Uint8Array.from([9, 9, 9, 9, 0, 0])))).toBe(11);
    expect(
      runToEnd(
        otsuThreshold(
          grayOf(3, 3, () => 77),
          null,
        ),
      ),
    ).toBe(128);
  });
});

test.each([16, 20, 17, 8, 7])("rows of %i pixels, most of them white, are marked as one by one", (width) => {
  const height = 23;
  // Behind an odd byte too, where rows begin at no whole word.
  for (const before of [0, 1]) {
    const data = new Uint8Array(before + width * height).subarray(before);
    for (let i = 0; i < data.length; i++) data[i] = (i * 7919) % 13 < 9 ? 255 : (i * 104729) % 256;
    for (const level of [1, 128, 255]) {
      const bits = runToEnd(threshold({ width, height, data }, level));
      const row = new Uint8Array(width);
      for (let y = 0; y < height; y++) {
        unpackRow(bits, y, row);
        expect([...row]).toEqual(Array.from(data.subarray(y * width, (y + 1) * width), (g) => +(g < level)));
      }
    }
  }
});
