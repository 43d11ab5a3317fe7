import { runToEnd } from "../maths/work";
import { diffuse } from "../screen/diffuse";
import { KERNELS } from "../screen/kernels";
import { threshold } from "../screen/threshold";
import { asRgba, grayOf, randomGray } from "../testing/pictures";
import { countMarks, packRow, unpackRow } from "../raster/bits";
import { dotsFingerprint, fingerprint } from "../raster/fingerprint";
import { newBits } from "../raster/types";
import { viewTone, viewBits, viewGray, viewRgba } from "./view";

const whole = (p: { width: number; height: number }) => ({ x: 0, y: 0, width: p.width, height: p.height });

test("enlarged dots are plain squares", () => {
  const bits = runToEnd(
    threshold(
      grayOf(3, 2, (x, y) => ((x + y) % 2) * 255),
      128,
    ),
  );
  const view = viewBits(bits, whole(bits), 9, 6);
  for (let y = 0; y < 6; y++)
    for (let x = 0; x < 9; x++)
      expect(view.data[y * 9 + x]).toBe((((x / 3) | 0) + ((y / 3) | 0)) % 2 ? 255 : 0);
});

test("dot for dot, grey and colour come through untouched, with the outside white and clear", () => {
  const gray = randomGray(7, 5, 3);
  expect(viewGray(gray, whole(gray), 7, 5)).toEqual(gray);
  const shifted = viewGray(gray, { x: -2, y: 0, width: 7, height: 5 }, 7, 5);
  expect(Array.from(shifted.data.subarray(0, 3))).toEqual([255, 255, gray.data[0]]);
  const colour = asRgba(gray);
  expect(viewRgba(colour, whole(colour), 7, 5)).toEqual(colour);
  expect(viewRgba(colour, { x: 6, y: 4, width: 7, height: 5 }, 7, 5).data.filter((v) => v > 0).length).toBe(
    4 - (gray.data[34] ? 0 : 3),
  );
});

/** Spread of the inner part of a view; edges have less to average over. */
function spread({ width, height, data }: { width: number; height: number; data: Uint8Array }): number {
  const inner: number[] = [];
  for (let y = 2; y < height - 2; y++) for (let x = 2; x < width - 2; x++) inner.push(data[y * width + x]);
  return Math.max(...inner) - Math.min(...inner);
}

test.each([1.3, 1.7, 2, 2.5, 3.3, 4.7, 9.1])(
  "a fine regular pattern reduced %d times reads as its even tone, without moire",
  (scale) => {
    const bits = runToEnd(
      threshold(
        grayOf(400, 400, (x, y) => ((x + y) & 1) * 255),
        128,
      ),
    );
    const size = Math.round(400 / scale);
    const view = viewBits(bits, whole(bits), size, size);
    expect(spread(view)).toBeLessThanOrEqual(6);
    expect(Math.abs(view.data[(size >> 1) * size + (size >> 1)] - 128)).toBeLessThanOrEqual(4);
  },
);

test("scattered dots reduced show the tone they were made from", () => {
  const bits = runToEnd(
    diffuse(
      grayOf(600, 600, (x) => 40 + (x * 170) / 600),
      null,
      { kernel: KERNELS.stucki, strength: 1, serpentine: true },
    ),
  );
  const view = viewBits(bits, whole(bits), 40, 40);
  for (let x = 2; x < 38; x++)
    expect(Math.abs(view.data[20 * 40 + x] - (40 + ((x + 0.5) * 170) / 40))).toBeLessThan(9);
});

test("colour is averaged by cover: what is clear lends nothing", () => {
  const picture = asRgba(
    grayOf(4, 4, (x) => (x < 1 ? 50 : 255)),
    (x) => (x < 1 ? 255 : 0),
  );
  expect(Array.from(viewRgba(picture, whole(picture), 2, 2).data.subarray(0, 8))).toEqual([
    50, 50, 50, 128, 0, 0, 0, 0,
  ]);
});

test("rows of dots pack and unpack, and marks are counted without the padding", () => {
  const bits = newBits(13, 2);
  const row = Uint8Array.from([1, 0, 1, 1, 0, 0, 0, 1, 1, 0, 0, 1, 1]);
  packRow(row, bits, 1);
  const back = new Uint8Array(13);
  unpackRow(bits, 1, back);
  expect(back).toEqual(row);
  expect(countMarks(bits)).toBe(7);
  expect(Array.from(bits.data)).toEqual([0, 0, 0b10110001, 0b10011000]);
});

test("fingerprints are SHA-256; that of dots tells size and dots apart", () => {
  expect(fingerprint("abc")).toBe("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
  expect(runToEnd(dotsFingerprint(newBits(8, 2)))).not.toBe(runToEnd(dotsFingerprint(newBits(16, 1))));
  expect(runToEnd(dotsFingerprint(newBits(8, 2)))).toBe(runToEnd(dotsFingerprint(newBits(8, 2))));
});

test("smooth tones are seen as their means, enlarged as squares, and white outside", () => {
  const slope = grayOf(64, 48, (x, y) => 2 * x + y);
  const whole = { x: 0, y: 0, width: 64, height: 48 };
  const half = viewTone(slope, whole, 40, 30);
  for (let y = 0; y < 30; y++)
    for (let x = 0; x < 40; x++)
      expect(Math.abs(half.data[y * 40 + x] - (3.2 * x + 1.6 * y + 1.5))).toBeLessThan(2.6);
  const large = viewTone(slope, { x: 10, y: 10, width: 4, height: 4 }, 8, 8);
  expect(Array.from(large.data.subarray(0, 8))).toEqual([30, 30, 32, 32, 34, 34, 36, 36]);
  expect(viewTone(slope, { x: -8, y: 0, width: 8, height: 8 }, 4, 4).data.every((v) => v === 255)).toBe(true);
  expect(viewTone(slope, whole, 8, 6).data[0]).toBe(viewGray(slope, whole, 8, 6).data[0]);
});

test("a screen pixel that lies across the edge of tones shows what is of it in the picture", () => {
  const dark = grayOf(64, 48, () => 40);
  const seen = viewTone(dark, { x: 0, y: 0, width: 64.6, height: 48.6 }, 40, 30);
  expect(new Set(seen.data)).toEqual(new Set([40]));
});
