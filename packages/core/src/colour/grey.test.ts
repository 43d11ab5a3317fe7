import { finish } from "../maths/work";
import fc from "fast-check";
import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "./srgb";
import { coverOf, greyOf } from "./grey";

const one = (r: number, g: number, b: number) =>
  finish(greyOf({ width: 1, height: 1, data: Uint8Array.from([r, g, b, 255]) })).data[0];

test("grey is Rec. 709 luma, rounded", () => {
  expect([one(0, 0, 0), one(255, 255, 255), one(255, 0, 0), one(0, 255, 0), one(0, 0, 255)]).toEqual([
    0, 255, 54, 182, 18,
  ]);
});

test("grey is right to the last unit for any colour, in whole numbers", () => {
  const code = fc.integer({ min: 0, max: 255 });
  fc.assert(
    fc.property(code, code, code, (r, g, b) => {
      const tenThousandths = BigInt(2126 * r + 7152 * g + 722 * b);
      expect(BigInt(one(r, g, b))).toBe((tenThousandths + 5000n) / 10000n);
    }),
    { numRuns: 3000 },
  );
});

test("cover is null for whole pictures, the alpha plane otherwise", () => {
  const data = Uint8Array.from([1, 2, 3, 255, 4, 5, 6, 255]);
  expect(finish(coverOf({ width: 2, height: 1, data }))).toBeNull();
  data[7] = 9;
  expect(Array.from(finish(coverOf({ width: 2, height: 1, data }))!)).toEqual([255, 9]);
});

test("linear light follows the standard's formula and every code comes back", () => {
  for (let code = 0; code < 256; code++) {
    const v = code / 255;
    const linear = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    expect(LINEAR_OF_CODE[code]).toBeCloseTo(linear, 7);
    expect(CODE_OF_LINEAR[Math.round(LINEAR_OF_CODE[code] * CODE_STEPS)]).toBe(code);
  }
});
