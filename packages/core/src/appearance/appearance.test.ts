import { runToEnd } from "../maths/work";
import { newBits, type Bits } from "../raster/types";
import { GRAINS } from "../material/material";
import { USUAL_MATERIALS } from "../material/usual";
import { asItIs } from "../result/finish";
import { type Plates } from "../result/result";
import { grainAt } from "./grain";
import { grayRamp, onMaterial } from "./onMaterial";
import { spreadMarks } from "./spread";

const bitsOf = (size: number, at: (x: number, y: number) => boolean): Bits => {
  const bits = newBits(size, size);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) if (at(x, y)) bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
  return bits;
};
/** Area that is marked, in dots. */
const marked = (bits: Bits, spread: number): number =>
  runToEnd(spreadMarks(bits, spread)).data.reduce((sum, bare) => sum + 1 - bare / 255, 0);

test.each([0, 0.1, 0.25, 0.5, 1])("a single mark grows to a square with round corners: %d of a dot", (r) => {
  const one = bitsOf(9, (x, y) => x === 4 && y === 4);
  expect(Math.abs(marked(one, r) - (1 + 4 * r + Math.PI * r * r))).toBeLessThan(0.08 + 0.1 * r);
});

test("where spread marks meet, what both cover counts once; solid stays solid, bare stays bare", () => {
  const pair = bitsOf(9, (x, y) => (x === 3 || x === 5) && y === 4);
  expect(marked(pair, 0.5)).toBeLessThan(2 * (1 + 2 + Math.PI / 4));
  expect(marked(pair, 0.5)).toBeGreaterThan(2 * (1 + 2 + Math.PI / 4) - 0.5);
  expect(
    marked(
      bitsOf(9, () => true),
      0.4,
    ),
  ).toBe(81);
  expect(
    marked(
      bitsOf(9, () => false),
      0.4,
    ),
  ).toBe(0);
});

test("grain is even on the whole, the same each time, and none where there is none", () => {
  for (const grain of GRAINS) {
    const values = Array.from({ length: 4000 }, (_, k) =>
      grainAt(grain, (k % 80) * 0.9, Math.floor(k / 80) * 0.7),
    );
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    expect(Math.abs(mean)).toBeLessThan(0.2);
    expect(Math.max(...values.map(Math.abs))).toBeLessThanOrEqual(1.2);
    expect(new Set(values).size).toBeGreaterThan(grain === "none" ? 0 : 500);
    expect(grainAt(grain, 3.2, 1.7)).toBe(grainAt(grain, 3.2, 1.7));
  }
});

test("marks have the material's colours, the part in view alone is looked at", () => {
  const slate = { ...USUAL_MATERIALS.find((m) => m.key === "coated-metal")!, spreadMm: 0 };
  const bits = bitsOf(16, (x) => x >= 8);
  const plates: Plates = {
    kind: "plates",
    ...asItIs({ width: 16, height: 16 }),
    plates: [{ name: "bitmap", ink: 0, bits }],
    cover: null,
  };
  const part = { x: 4, y: 6, width: 8, height: 4 };
  const { data } = runToEnd(onMaterial(plates, { part, width: 8, height: 4, base: 0 }, slate));
  const at = (x: number) => [...data.slice(4 * x, 4 * x + 4)];
  expect(at(0)).toEqual([0x20, 0x24, 0x2a, 255]);
  expect(at(7)).toEqual([0xd5, 0xd7, 0xda, 255]);
});

test("a ramp goes from bare to marked", () => {
  const { gray } = grayRamp(100, 2, 20);
  expect([gray.data[0], gray.data[99]]).toEqual([254, 1]);
});
