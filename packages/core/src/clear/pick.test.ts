import { runToEnd } from "../maths/work";
import { labDistance, oklabOf } from "../colour/oklab";
import { NOWHERE, squaredDistanceTo } from "../region/distance";
import { seeded } from "../testing/pictures";
import { type Rgba } from "../raster/types";
import { pictureOf } from "../testing/clearings";
import { pick } from "./pick";

/** A picture of few colours in blotches, so that regions wind about. */
function blotches(width: number, height: number, seed: number, colours: number): Rgba {
  const next = seeded(seed);
  const palette = Array.from({ length: colours }, () => next() & 0xffffff);
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    const c = palette[next() % colours];
    data.set([c & 255, (c >> 8) & 255, (c >> 16) & 255, 255], i * 4);
  }
  return { width, height, data };
}

/** The same by the letter: every pixel measured, neighbours queued one by one. */
function reference({ width, height, data }: Rgba, x: number, y: number, tolerance: number, joined: boolean) {
  const lab = (i: number) => oklabOf(data[i * 4], data[i * 4 + 1], data[i * 4 + 2]);
  const centre = lab(y * width + x);
  const like = Array.from({ length: width * height }, (_, i) => labDistance(lab(i), centre) <= tolerance);
  if (!joined) return Uint8Array.from(like.map(Number));
  const mask = new Uint8Array(width * height);
  const queue = [[x, y]];
  while (queue.length) {
    const [px, py] = queue.shift()!;
    const i = py * width + px;
    if (px < 0 || py < 0 || px >= width || py >= height || mask[i] || !like[i]) continue;
    mask[i] = 1;
    queue.push([px - 1, py], [px + 1, py], [px, py - 1], [px, py + 1]);
  }
  return mask;
}

test("OKLab of white, black and the primaries as published", () => {
  const near = (r: number, g: number, b: number, l: number, a: number, bb: number) => {
    const lab = oklabOf(r, g, b);
    expect(Math.max(Math.abs(lab.l - l), Math.abs(lab.a - a), Math.abs(lab.b - bb))).toBeLessThan(0.01);
  };
  near(255, 255, 255, 100, 0, 0);
  near(0, 0, 0, 0, 0, 0);
  near(255, 0, 0, 62.796, 22.486, 12.585);
  near(0, 255, 0, 86.644, -23.389, 17.95);
  near(0, 0, 255, 45.201, -3.246, -31.153);
});

test.each([1, 2, 3, 4, 5, 6, 7, 8])("equals a straightforward fill on a random picture (%d)", (seed) => {
  const [width, height] = [23 + seed * 5, 41 - seed];
  const picture = blotches(width, height, seed * 77, 3 + (seed % 3));
  const next = seeded(seed);
  for (let k = 0; k < 6; k++) {
    const [x, y] = [next() % width, next() % height];
    const tolerance = [0, 5, 11, 20, 35, 60][k];
    for (const joined of [true, false]) {
      const { mask, pixels } = runToEnd(pick(picture, x, y, tolerance, joined));
      expect(mask).toEqual(reference(picture, x, y, tolerance, joined));
      expect(pixels).toBe(mask.reduce((a, b) => a + b, 0));
    }
  }
});

test("corners do not join", () => {
  const data = new Uint8Array(16).fill(255);
  data.fill(0, 4, 7); // black at top right
  data.fill(0, 8, 11); // and at bottom left
  expect(Array.from(runToEnd(pick({ width: 2, height: 2, data }, 0, 0, 5, true)).mask)).toEqual([1, 0, 0, 0]);
  expect(Array.from(runToEnd(pick({ width: 2, height: 2, data }, 0, 0, 5, false)).mask)).toEqual([
    1, 0, 0, 1,
  ]);
});

test("tolerance 100 from mid grey takes everything; 0 takes the very colour", () => {
  const picture = blotches(20, 20, 5, 6);
  expect(runToEnd(pick(picture, 3, 3, 100, false)).pixels).toBe(400);
  const own = picture.data.subarray(0, 3);
  const same = runToEnd(pick(picture, 0, 0, 0, false)).mask;
  for (let i = 0; i < 400; i++)
    expect(same[i]).toBe(Number(own.every((v, k) => v === picture.data[i * 4 + k])));
});

describe("distance", () => {
  test.each([1, 2, 3, 4, 5, 6])("equals looking at every pixel (%d)", (seed) => {
    const next = seeded(seed + 40);
    const [width, height] = [17 + (next() % 30), 9 + (next() % 30)];
    const mask = Uint8Array.from({ length: width * height }, () =>
      next() % (3 * seed * seed) === 0 ? 1 : 0,
    );
    const nearest = new Int32Array(mask.length);
    const found = runToEnd(squaredDistanceTo(mask, width, height, nearest));
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        let best = NOWHERE;
        mask.forEach((set, j) => {
          if (!set) return;
          const [dx, dy] = [(j % width) - x, Math.floor(j / width) - y];
          best = Math.min(best, dx * dx + dy * dy);
        });
        expect(found[i]).toBe(best);
        if (best === NOWHERE) expect(nearest[i]).toBe(-1);
        else {
          expect(mask[nearest[i]]).toBe(1);
          const [dx, dy] = [(nearest[i] % width) - x, Math.floor(nearest[i] / width) - y];
          expect(dx * dx + dy * dy).toBe(best);
        }
      }
  });

  test("nothing set is nowhere", () => {
    expect(runToEnd(squaredDistanceTo(new Uint8Array(12), 4, 3)).every((d) => d === NOWHERE)).toBe(true);
  });
});

test("black on clear black: the click takes what is clear, or what is black, not both", () => {
  const picture = pictureOf(30, 20, (x, y) => [0, 0, 0, x > 8 && x < 20 && y > 5 && y < 14 ? 255 : 0]);
  const outside = runToEnd(pick(picture, 2, 2, 10, true));
  const inside = runToEnd(pick(picture, 12, 9, 10, true));
  expect(inside.pixels).toBe(11 * 8);
  expect(outside.pixels).toBe(600 - 11 * 8);
  expect([outside.mask[9 * 30 + 12], inside.mask[2 * 30 + 2]]).toEqual([0, 0]);
  expect(runToEnd(pick(picture, 12, 9, 10, false)).pixels).toBe(11 * 8);
});
