import { WHOLE_FRAME } from "@hardline/core/path/frame";
import { type Picture } from "@hardline/core/result/result";
import { paintCleared, paintPick } from "./paintCleared";

const finish = { widthPx: 6, heightPx: 5, widthMm: 6, heightMm: 5, dotsPerInch: 25.4 };
const whole = { x: 0, y: 0, width: 6, height: 5 };
const picture = (alpha: (x: number, y: number) => number) =>
  Uint8Array.from({ length: 120 }, (_, i) =>
    (i & 3) === 3 ? alpha((i >> 2) % 6, Math.floor((i >> 2) / 6)) : 90,
  );
const art = (data: Uint8Array, plane?: Uint8Array): Picture => ({
  kind: "picture",
  finish,
  frame: WHOLE_FRAME,
  colour: { width: 6, height: 5, data },
  cleared: { background: [], through: [], gaps: plane ? [{ op: 1, gaps: [], plane }] : [] },
});
const at = (data: ArrayLike<number>, x: number, y: number) =>
  Array.from({ length: 4 }, (_, k) => data[(y * 6 + x) * 4 + k]);
const INK = [0x15, 0x18, 0x1d, 255];

test("what was cleared has an ink edge of one pixel, on its own side", () => {
  const data = picture((x) => (x < 3 ? 0 : 255));
  paintCleared(data, art(data.slice()), whole, 6, 5, "art");
  expect(at(data, 2, 2)).toEqual(INK);
  expect(at(data, 3, 2)).toEqual([90, 90, 90, 255]);
  expect(at(data, 1, 2)[3]).toBe(0);
});

test("cover alone is grey, white where whole; the faintest tint is shown whole", () => {
  const alpha = (x: number) => [0, 1, 25, 26, 200, 255][x];
  const cover = picture(alpha);
  paintCleared(cover, art(cover.slice()), whole, 6, 5, "cover");
  expect([0, 1, 4, 5].map((x) => at(cover, x, 2))).toEqual([0, 1, 200, 255].map((v) => [v, v, v, 255]));
  const tint = picture(alpha);
  paintCleared(tint, art(tint.slice()), whole, 6, 5, "tint");
  expect(at(tint, 1, 2)).toEqual(at(tint, 2, 2));
  expect(at(tint, 1, 2)[3]).toBe(255);
  expect(at(tint, 1, 2)).not.toEqual(at(tint, 3, 2));
  expect(at(tint, 0, 2)[3]).toBe(0);
});

test("islands of the gaps in hand are outlined, taken and left each in its way", () => {
  const plane = Uint8Array.from({ length: 30 }, (_, i) => (i % 6 === 2 ? 1 : i % 6 === 4 ? 2 : 0));
  const data = picture(() => 255);
  paintCleared(data, art(data.slice(), plane), whole, 6, 5, "art", 1);
  const blue = (x: number) => [1, 2, 3].filter((y) => at(data, x, y)[2] === 0xc4).length;
  expect([blue(2), blue(3)]).toEqual([3, 0]);
  expect(blue(4)).toBeGreaterThan(0);
  expect(blue(4)).toBeLessThan(3);
  const other = picture(() => 255);
  paintCleared(other, art(other.slice(), plane), whole, 6, 5, "art", 0);
  expect(other).toEqual(picture(() => 255));
});

test("a click's area is paled and hatched with an ink edge, and nothing else is touched", () => {
  const mask = Uint8Array.from({ length: 30 }, (_, i) => (i % 6 > 0 && i % 6 < 5 ? 1 : 0));
  const out = paintPick(mask, 6, 5);
  expect(at(out, 1, 2)).toEqual(INK);
  expect(at(out, 0, 2)).toEqual([0, 0, 0, 0]);
  expect(at(out, 2, 2)[3]).toBe(130);
});
