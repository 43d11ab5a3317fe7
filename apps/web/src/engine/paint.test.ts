import { newBits, type Art } from "@hardline/core";
import { paint } from "./paint";

const finish = { widthPx: 2, heightPx: 1, widthMm: 2, heightMm: 1, dotsPerInch: 25.4 };
const bits = newBits(2, 1);
bits.data[0] = 0b10000000;
const art: Art = {
  facts: { sha256: "", width: 4, height: 2, vector: false },
  finish,
  frame: null,
  cleared: null,
  colour: { width: 2, height: 1, data: Uint8Array.from([1, 2, 3, 255, 4, 5, 6, 128]) },
  toned: {
    gray: { width: 2, height: 1, data: Uint8Array.from([10, 200]) },
    cover: Uint8Array.from([255, 128]),
  },
  dots: { bits, cover: Uint8Array.from([255, 0]) },
};
const pane = {
  part: { x: 0, y: 0, width: 2, height: 1 },
  width: 2,
  height: 1,
  mark: 0x102030,
  base: 0xa0b0c0,
};

test("dots are shown in the colours of the material; nothing where there is no art", () => {
  expect(Array.from(paint(art, { ...pane, stage: "blackWhite" }))).toEqual([
    0x10, 0x20, 0x30, 255, 0xa0, 0xb0, 0xc0, 0,
  ]);
});

test("tone is shown as grey, as solid as the art is", () => {
  expect(Array.from(paint(art, { ...pane, stage: "tone" }))).toEqual([10, 10, 10, 255, 200, 200, 200, 128]);
});

test("the artwork, with pixels of its own size, fills the same place", () => {
  const larger = {
    width: 4,
    height: 2,
    data: Uint8Array.from({ length: 32 }, (_, i) => ((i >> 2) % 4 < 2 ? 50 : 250)),
  };
  const out = paint({ ...art, colour: larger }, { ...pane, stage: "artwork" });
  expect(Array.from(out)).toEqual([50, 50, 50, 50, 250, 250, 250, 250]);
});
