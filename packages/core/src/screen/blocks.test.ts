import fc from "fast-check";
import { runToEnd } from "../maths/work";
import { countMarks } from "../raster/bits";
import { bitAt } from "../raster/types";
import { grayOf, randomGray } from "../testing/pictures";
import { inBlocks, outOfBlocks } from "./blocks";
import { threshold } from "./threshold";

test("blocks have the mean grey of their dots, the last one of each row and column what is left over", () => {
  const picture = grayOf(7, 5, (x, y) => 10 * x + y);
  const { gray, cover } = runToEnd(inBlocks(picture, null, 2));
  expect([gray.width, gray.height, cover]).toEqual([3, 2, null]);
  expect(gray.data[0]).toBe(Math.round((0 + 10 + 1 + 11) / 4));
  // columns 4 to 6, rows 2 to 4
  expect(gray.data[5]).toBe(53);
});

test("a block counts as art only when all of it is", () => {
  const cover = new Uint8Array(16).fill(255);
  cover[5] = 0;
  expect([...runToEnd(inBlocks(randomGray(4, 4, 1), cover, 2)).cover!]).toEqual([0, 255, 255, 255]);
});

test("every dot becomes a square", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 5 }),
      fc.integer({ min: 1, max: 1e6 }),
      (width, height, side, seed) => {
        const { gray } = runToEnd(inBlocks(randomGray(width, height, seed), null, side));
        const small = runToEnd(threshold(gray, 128));
        const bits = runToEnd(outOfBlocks(small, side, width, height));
        for (let y = 0; y < height; y++)
          for (let x = 0; x < width; x++) {
            const at = [
              Math.min(small.width - 1, Math.floor(x / side)),
              Math.min(small.height - 1, Math.floor(y / side)),
            ];
            expect(bitAt(bits, x, y)).toBe(bitAt(small, at[0], at[1]));
          }
        if (width % side === 0 && height % side === 0)
          expect(countMarks(bits)).toBe(countMarks(small) * side * side);
      },
    ),
    { numRuns: 30 },
  );
});
