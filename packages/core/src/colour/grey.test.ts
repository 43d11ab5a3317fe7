import { runToEnd } from "../maths/work";
import { seeded } from "../testing/pictures";
import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "./srgb";
import { coverOf, greyOf } from "./grey";

const one = (r: number, g: number, b: number) =>
  runToEnd(greyOf({ width: 1, height: 1, data: Uint8Array.from([r, g, b, 255]) })).data[0];

test("grey is Rec. 709 luma, rounded", () => {
  expect([one(0, 0, 0), one(255, 255, 255), one(255, 0, 0), one(0, 255, 0), one(0, 0, 255)]).toEqual([
    0, 255, 54, 182, 18,
  ]);
});

test("grey is right to the last unit for every colour there is", () => {
  const data = new Uint8Array(4 << 16);
  let wrong = 0;
  for (let r = 0; r < 256; r++) {
    for (let k = 0; k < 1 << 16; k++) data.set([r, k >> 8, k & 255, 255], 4 * k);
    const grey = runToEnd(greyOf({ width: 256, height: 256, data })).data;
    for (let k = 0; k < 1 << 16; k++)
      if (grey[k] !== Math.floor((2126 * r + 7152 * (k >> 8) + 722 * (k & 255) + 5000) / 10000)) wrong++;
  }
  expect(wrong).toBe(0);
});

test("a picture of any size is grey to its last pixel", () => {
  for (const width of [1, 15, 16, 17, 31, 33, 70001]) {
    const next = seeded(width);
    const data = Uint8Array.from({ length: 4 * width }, () => next() & 255);
    const { data: grey } = runToEnd(greyOf({ width, height: 1, data }));
    for (const i of [0, width >> 1, width - 1])
      expect(grey[i]).toBe(one(data[4 * i], data[4 * i + 1], data[4 * i + 2]));
  }
});

test("cover is null for whole pictures, the alpha plane otherwise", () => {
  const data = Uint8Array.from([1, 2, 3, 255, 4, 5, 6, 255]);
  expect(runToEnd(coverOf({ width: 2, height: 1, data }))).toBeNull();
  data[7] = 9;
  expect(Array.from(runToEnd(coverOf({ width: 2, height: 1, data }))!)).toEqual([255, 9]);
});

test("linear light follows the standard's formula and every code comes back", () => {
  for (let code = 0; code < 256; code++) {
    const v = code / 255;
    const linear = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    expect(LINEAR_OF_CODE[code]).toBeCloseTo(linear, 7);
    expect(CODE_OF_LINEAR[Math.round(LINEAR_OF_CODE[code] * CODE_STEPS)]).toBe(code);
  }
});
