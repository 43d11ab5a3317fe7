import fc from "fast-check";
import { runToEnd } from "../maths/work";
import { countMarks } from "../raster/bits";
import { bitAt, type Cover, type Gray } from "../raster/types";
import { grayOf, randomGray, seeded } from "../testing/pictures";
import { diffuse } from "./diffuse";
import { KERNELS, KERNEL_NAMES, type Kernel } from "./kernels";

/** Plain error diffusion into one picture of doubles, straight from its definition. Rows of 0/1, 1 = mark. */
function plainly(
  picture: Gray,
  cover: Cover,
  kernel: Kernel,
  strength: number,
  serpentine: boolean,
): number[][] {
  const { width, height } = picture;
  const value = Array.from({ length: height }, (_, y) =>
    Array.from(picture.data.subarray(y * width, (y + 1) * width)),
  );
  const isArt = (x: number, y: number) =>
    x >= 0 && x < width && y < height && (cover === null || cover[y * width + x] !== 0);
  const marks = value.map((row) => row.map(() => 0));
  for (let y = 0; y < height; y++) {
    const back = serpentine && y % 2 === 1;
    for (let n = 0; n < width; n++) {
      const x = back ? width - 1 - n : n;
      if (!isArt(x, y)) continue;
      const white = value[y][x] >= 128;
      marks[y][x] = white ? 0 : 1;
      const error = (value[y][x] - (white ? 255 : 0)) * strength;
      const give = (dx: number, dy: number, weight: number) => {
        const to = back ? x - dx : x + dx;
        if (weight > 0 && isArt(to, y + dy)) value[y + dy][to] += error * (weight / kernel.divisor);
      };
      kernel.ahead.forEach((w, i) => give(i + 1, 0, w));
      kernel.below.forEach((w, i) => give(i - 2, 1, w));
      kernel.below2.forEach((w, i) => give(i - 2, 2, w));
    }
  }
  return marks;
}

function rowsOf(
  picture: Gray,
  cover: Cover,
  kernel: Kernel,
  strength: number,
  serpentine: boolean,
): number[][] {
  const bits = runToEnd(diffuse(picture, cover, { kernel, strength, serpentine }));
  return Array.from({ length: picture.height }, (_, y) =>
    Array.from({ length: picture.width }, (_, x) => bitAt(bits, x, y)),
  );
}

describe("error diffusion", () => {
  test("worked by hand: a row of middle grey under Floyd and Steinberg", () => {
    // 100 -> mark, error 100; 100 + 43.75 = 143.75 -> white, error -111.25; 100 - 48.67 = 51.33 -> mark;
    // 100 + 22.46 = 122.46 -> mark
    expect(
      rowsOf(
        grayOf(4, 1, () => 100),
        null,
        KERNELS["floyd-steinberg"],
        1,
        false,
      ),
    ).toEqual([[1, 0, 1, 1]]);
  });

  test("worked by hand: 128 is white, 127 is a mark", () => {
    expect(
      rowsOf(
        grayOf(1, 1, () => 128),
        null,
        KERNELS.stucki,
        1,
        false,
      ),
    ).toEqual([[0]]);
    expect(
      rowsOf(
        grayOf(1, 1, () => 127),
        null,
        KERNELS.stucki,
        1,
        false,
      ),
    ).toEqual([[1]]);
  });

  test.each(KERNEL_NAMES)("%s hands on what its publication says and no more", (name) => {
    const { divisor, ahead, below, below2 } = KERNELS[name];
    const total = [...ahead, ...below, ...below2].reduce<number>((a, b) => a + b, 0);
    expect(total / divisor).toBe(name === "atkinson" ? 0.75 : 1);
  });

  test.each(KERNEL_NAMES)("%s equals the plain definition, mark for mark", (name) => {
    const kernel = KERNELS[name];
    const sizes = [
      [1, 1],
      [2, 3],
      [3, 2],
      [8, 8],
      [37, 29],
      [64, 40],
    ];
    sizes.forEach(([width, height], i) => {
      const picture = randomGray(width, height, 77 + i);
      const next = seeded(5 + i);
      const cover = Uint8Array.from({ length: width * height }, () =>
        next() % 4 === 0 ? 0 : 1 + (next() % 255),
      );
      for (const serpentine of [false, true]) {
        for (const strength of [1, 0.83, 0]) {
          expect(rowsOf(picture, null, kernel, strength, serpentine)).toEqual(
            plainly(picture, null, kernel, strength, serpentine),
          );
          expect(rowsOf(picture, cover, kernel, strength, serpentine)).toEqual(
            plainly(picture, cover, kernel, strength, serpentine),
          );
        }
      }
    });
  });

  test.each(KERNEL_NAMES)("%s equals the plain definition on a large soft picture", (name) => {
    const next = seeded(3);
    const picture = grayOf(301, 257, (x, y) => Math.min(255, ((x * 255) / 301 + y * 0.3 + (next() % 9)) | 0));
    expect(rowsOf(picture, null, KERNELS[name], 1, false)).toEqual(
      plainly(picture, null, KERNELS[name], 1, false),
    );
  });

  test("keeps the tone: share of marks follows the grey", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: 247 }),
        fc.constantFrom(...KERNEL_NAMES.filter((k) => k !== "atkinson")),
        (g, name) => {
          const bits = runToEnd(
            diffuse(
              grayOf(160, 160, () => g),
              null,
              { kernel: KERNELS[name], strength: 1, serpentine: true },
            ),
          );
          expect(Math.abs(countMarks(bits) / (160 * 160) - (255 - g) / 255)).toBeLessThan(0.02);
        },
      ),
      { numRuns: 60 },
    );
  });

  test("marks nothing outside the art, in either running direction", () => {
    const cover = Uint8Array.from({ length: 40 * 40 }, (_, i) => (i % 40 < 20 ? 0 : 255));
    const bits = runToEnd(
      diffuse(
        grayOf(40, 40, () => 0),
        cover,
        { kernel: KERNELS.sierra, strength: 1, serpentine: true },
      ),
    );
    expect(countMarks(bits)).toBe(20 * 40);
    for (let y = 0; y < 40; y++) for (let x = 0; x < 20; x++) expect(bitAt(bits, x, y)).toBe(0);
  });
});

describe("keeping edges", () => {
  const plain = { strength: 1, serpentine: true };
  test.each(KERNEL_NAMES)("next to nothing of it changes nothing: %s", (name) => {
    const picture = randomGray(41, 30, 5);
    const next = seeded(9);
    const cover = Uint8Array.from({ length: 41 * 30 }, () => (next() % 5 ? 255 : 0));
    const how = { ...plain, kernel: KERNELS[name] };
    const [a, b] = [0, 1e-12].map((edges) => runToEnd(diffuse(picture, cover, { ...how, edges })));
    expect(b.data).toEqual(a.data);
  });

  test("even tones come out as they are, and a fine line stands out from its ground", () => {
    const how = { ...plain, kernel: KERNELS["jarvis-judice-ninke"] };
    for (const g of [30, 90, 128, 200]) {
      const bits = runToEnd(
        diffuse(
          grayOf(120, 120, () => g),
          null,
          { ...how, edges: 2 },
        ),
      );
      expect(Math.abs(countMarks(bits) / 14400 - (255 - g) / 255)).toBeLessThan(0.02);
    }
    const lined = grayOf(120, 120, (x) => (x % 12 === 6 ? 165 : 190));
    const onLine = (edges: number) => {
      const bits = runToEnd(diffuse(lined, null, { ...how, edges }));
      let marks = 0;
      for (let y = 0; y < 120; y++) for (let x = 6; x < 120; x += 12) marks += bitAt(bits, x, y);
      return marks / 1200;
    };
    expect(onLine(2)).toBeGreaterThan(onLine(0) + 0.15);
  });
});
