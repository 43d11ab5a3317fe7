import { runToEnd } from "../maths/work";
import { newRgba, type Rgba } from "../raster/types";
import { findColours } from "./clusters";
import { separateFlat } from "./flat";
import { labOf } from "./glareLab";
import { labDistance } from "../colour/oklab";

const SIDE = 120;

/** A picture whose colour is told for each pixel. */
function picture(colourAt: (x: number, y: number) => readonly number[]): Rgba {
  const out = newRgba(SIDE, SIDE);
  for (let y = 0, o = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++, o += 4) out.data.set([...colourAt(x, y), 255], o);
  return out;
}
const between = (a: readonly number[], b: readonly number[], share: number): number[] =>
  a.map((v, c) => Math.round(v + (b[c] - v) * share));
const soft = (away: number, wide: number): number => Math.min(1, Math.max(0, 0.5 + away / wide));
const [WHITE, BLACK] = [
  [255, 255, 255],
  [20, 20, 22],
];
const marks = (plane: Uint8Array, left = 0, right = SIDE): number =>
  plane.reduce((n, v, i) => n + (v < 128 && i % SIDE >= left && i % SIDE < right ? 1 : 0), 0);

test.each([1, 2, 3, 5])(
  "the rim of a dark disc on white, %i px soft, is none of two greys that are inks too",
  (wide) => {
    const greys = [
      [110, 110, 112],
      [185, 185, 186],
    ];
    const art = picture((x, y) => {
      if (x > 90) return greys[y < 60 ? 0 : 1];
      return between(BLACK, WHITE, soft(Math.hypot(x - 44.3, y - 58.8) - 30, wide));
    });
    const wish = { inks: ["#141416", "#6e6e70", "#b9b9ba"], garment: "#ffffff", tolerance: 2 };
    const [dark, ...others] = runToEnd(separateFlat(art, wish));
    for (const plane of others) expect(marks(plane, 0, 85)).toBe(0);
    // The disc is as large as it was drawn, half its rim in and half out.
    const area = dark.reduce((sum, v) => sum + (255 - v) / 255, 0);
    expect(Math.abs(area / (Math.PI * 900) - 1)).toBeLessThan(0.006);
  },
);

test("a thin line of a third ink between two areas that cannot explain it stays", () => {
  const [red, blue, yellow] = [
    [200, 16, 46],
    [30, 80, 170],
    [245, 205, 40],
  ];
  const art = picture((x) => (x < 60 ? red : x < 62 ? yellow : blue));
  const wish = { inks: ["#c8102e", "#1e50aa", "#f5cd28"], garment: "#ffffff", tolerance: 2 };
  const [, , line] = runToEnd(separateFlat(art, wish));
  expect(marks(line)).toBe(2 * SIDE);
});

/** What a JPEG does to a thin dark line on red: luma stays, the differences of colour are means of four columns. */
const bled = (luma: number, red: number): number[] =>
  [luma + 1.402 * red, luma - 0.714 * red, luma].map((v) => Math.min(255, Math.max(0, Math.round(v))));

test("a dark line on a saturated colour keeps its width, though the colour bleeds into it", () => {
  // Red has luma 76 and a difference of 100; the line is 2 px wide on the grid of four that are averaged.
  const isLine = (x: number): boolean => x % 12 === 5 || x % 12 === 6;
  const art = picture((x) => {
    const block = x - (x % 4);
    const of = [0, 1, 2, 3].filter((n) => !isLine(block + n)).length / 4;
    return bled(isLine(x) ? 8 : 76, 100 * of);
  });
  const wish = { inks: ["#d8054c", "#080808"], garment: "#ffffff", tolerance: 2 };
  const [, dark] = runToEnd(separateFlat(art, wish));
  const share = dark.reduce((sum, v) => sum + (255 - v) / 255, 0) / SIDE / SIDE;
  expect(share).toBeGreaterThan((0.65 * 2) / 12);
  expect(marks(dark)).toBe(2 * 10 * SIDE);
});

test("noise near black is nearer than two inks are", () => {
  expect(labDistance(labOf(1, 1, 1), labOf(10, 10, 10))).toBeLessThan(2);
  expect(labDistance(labOf(0, 0, 0), labOf(255, 255, 255))).toBeCloseTo(
    100 - 100 * Math.cbrt(0.01 / 1.01),
    3,
  );
});

test("an ink that is in thin strokes alone is found; ringing about an edge is none", () => {
  const noise = (x: number, y: number): number => ((x * 7 + y * 13) % 5) - 2;
  const outlined = picture((x, y) => {
    const away = Math.abs(Math.hypot(x - 60, y - 60) - 35);
    if (away < 0.8) return [14, 12, 16];
    return [Math.hypot(x - 60, y - 60) < 35 ? 0 : 255, Math.hypot(x - 60, y - 60) < 35 ? 150 : 255, 200].map(
      (v) => Math.min(255, Math.max(0, v + noise(x, y))),
    );
  });
  const { colours } = runToEnd(findColours(outlined, "auto", ["#ffffff"]));
  const dark = colours.filter(({ colour }) => Number.parseInt(colour.slice(3, 5), 16) < 60);
  expect(dark).toHaveLength(1);
  // Rings of 20 on either side of an edge, as a strongly packed JPEG has them.
  const ringing = picture((x) => {
    const base = x < 60 ? 60 : 190;
    const away = x - 59.5;
    const ring = Math.abs(away) < 8 ? -Math.sign(away) * 20 * Math.cos(away) : 0;
    return [base + ring, base + ring, base + ring].map((v) => Math.round(v));
  });
  expect(runToEnd(findColours(ringing, "auto", ["#ffffff"])).colours).toHaveLength(2);
});

test("four pixels looked at together come out as one by one, whatever the width", () => {
  const inks = ["#c8102e", "#203e66", "#f2c230"];
  const colours = [
    [200, 16, 46],
    [32, 62, 102],
    [242, 194, 48],
    [255, 255, 255],
    [116, 39, 74],
  ];
  const blocks = Array.from({ length: 40 }, (_, k) => [
    ...[(k * 37) % 60, (k * 23) % 50, 3 + ((k * 7) % 19), 2 + ((k * 11) % 13)],
    k % colours.length,
  ]);
  // The same picture, and with three columns more: then no four of a row lie in one word, nor over each other.
  const drawn = (width: number): Uint8Array[] => {
    const art = newRgba(width, 60);
    art.data.fill(255);
    for (const [left, top, wide, high, c] of blocks)
      for (let y = top; y < Math.min(60, top + high); y++)
        for (let x = left; x < Math.min(72, left + wide); x++) {
          const half = x % 29 === 0 && y % 3 === 0;
          art.data.set([...colours[c], half ? 128 : 255], 4 * (y * width + x));
        }
    return runToEnd(separateFlat(art, { inks, garment: "#ffffff", tolerance: 2 }));
  };
  const [even, odd] = [drawn(80), drawn(83)];
  even.forEach((plane, k) => {
    for (let y = 0; y < 60; y++)
      expect(odd[k].subarray(83 * y, 83 * y + 72)).toEqual(plane.subarray(80 * y, 80 * y + 72));
    expect(plane.some((v) => v === 0)).toBe(true);
  });
});
