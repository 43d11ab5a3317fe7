import { runToEnd } from "../maths/work";
import { type Gray } from "../raster/types";
import { componentsOf } from "../region/components";
import { painted, stroke, type Pt } from "../testing/drawing";
import { laidBridges } from "./bridges";
import { finer } from "./finer";
import { onWhitePaper } from "./paper";

const [W, H] = [60, 40];
const drawn = (strokes: readonly (readonly [Pt, Pt])[], wide: number): Gray =>
  painted(
    W,
    H,
    strokes.map(([a, b]) => ({ ring: stroke(a, b, wide), grey: 0 })),
  );
const inked = ({ width, height, data }: Gray) =>
  runToEnd(
    componentsOf(width, height, (y, row) => {
      for (let x = 0; x < width; x++) row[x] = +(data[y * width + x] < 128);
    }),
  );

test("a stroke of half a pixel is one piece, and of its own width", () => {
  for (const [a, b] of [
    [
      [6.2, 8.4],
      [54.1, 31.7],
    ],
    [
      [10.3, 35.2],
      [51.7, 12.6],
    ],
    [
      [5.5, 20.1],
      [55.5, 22.4],
    ],
  ] as const) {
    const picture = drawn([[a, b]], 0.5);
    const fine = runToEnd(finer(picture, 128, 0.85));
    runToEnd(laidBridges(fine, picture, 30, false));
    const pieces = inked(fine);
    expect(pieces).toHaveLength(1);
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
    expect(pieces[0].pixels / 16 / long).toBeGreaterThan(0.35);
    expect(pieces[0].pixels / 16 / long).toBeLessThan(0.8);
  }
});

test("between strokes beside each other nothing is laid, nor where there is no ink", () => {
  const beside = drawn(
    [0, 1, 2].map((k): [Pt, Pt] => [
      [8 - k, 8 + 3 * k],
      [50 - k, 26 + 3 * k],
    ]),
    0.8,
  );
  const fine = runToEnd(finer(beside, 128, 0.85));
  runToEnd(laidBridges(fine, beside, 30, false));
  expect(inked(fine)).toHaveLength(3);
  const apart = drawn(
    [
      [
        [8, 10],
        [26, 18],
      ],
      [
        [32, 20.6],
        [50, 28.6],
      ],
    ],
    0.8,
  );
  const two = runToEnd(finer(apart, 128, 0.85));
  runToEnd(laidBridges(two, apart, 30, false));
  expect(inked(two)).toHaveLength(2);
});

test("grains of a scan go; what is larger or dark stays", () => {
  const fine: Gray = { width: 40, height: 30, data: new Uint8Array(1200).fill(255) };
  const box = (x: number, y: number, w: number, h: number) => {
    for (let v = 0; v < h; v++) fine.data.fill(0, (y + v) * 40 + x, (y + v) * 40 + x + w);
  };
  box(3, 3, 2, 2);
  box(20, 10, 7, 7);
  const blank: Gray = { width: 10, height: 8, data: new Uint8Array(80).fill(255) };
  const cut: Gray = { width: 40, height: 32, data: new Uint8Array(1280).fill(255) };
  cut.data.set(fine.data);
  runToEnd(laidBridges(cut, blank, 30, true));
  expect(inked(cut).map((c) => c.pixels)).toEqual([49]);
  // A dot that is dark in the scan is no grain, however small.
  const dotted: Gray = { ...blank, data: Uint8Array.from(blank.data, (g, i) => (i === 23 ? 0 : g)) };
  const dot: Gray = { ...cut, data: new Uint8Array(1280).fill(255) };
  for (let y = 8; y < 12; y++) dot.data.fill(0, y * 40 + 12, y * 40 + 16);
  runToEnd(laidBridges(dot, dotted, 30, true));
  expect(inked(dot).map((c) => c.pixels)).toEqual([16]);
});

test("in a scan a bridge joins two pieces, and leads to no speck", () => {
  const line: Gray = {
    width: 12,
    height: 8,
    data: Uint8Array.from({ length: 96 }, (_, i) => (i >= 48 && i < 60 ? 120 : 255)),
  };
  const pieces = (until: number): Gray => {
    const fine: Gray = { width: 48, height: 32, data: new Uint8Array(48 * 32).fill(255) };
    for (let y = 16; y < 20; y++) {
      fine.data.fill(0, y * 48 + 6, y * 48 + 20);
      if (until > 36 || y < 18) fine.data.fill(0, y * 48 + 34, y * 48 + until);
    }
    return fine;
  };
  const two = pieces(46);
  runToEnd(laidBridges(two, line, 30, true));
  expect(inked(two)).toHaveLength(1);
  const speck = pieces(36);
  runToEnd(laidBridges(speck, line, 30, true));
  expect(inked(speck).map(({ x, width }) => [x, width])).toEqual([[6, 14]]);
});

test("white paper is given back as it is; on grey paper under uneven light the same ink is as dark everywhere", () => {
  const white = drawn(
    [
      [
        [5, 5],
        [50, 30],
      ],
    ],
    1.5,
  );
  expect(runToEnd(onWhitePaper(white))).toBe(white);
  const lit = {
    ...white,
    data: white.data.map((g, i) => Math.round((g * (240 - ((i % W) * 25) / W)) / 255)),
  };
  const { data } = runToEnd(onWhitePaper(lit));
  let worst = 0;
  for (let i = 0; i < data.length; i++) worst = Math.max(worst, Math.abs(data[i] - white.data[i]));
  expect(worst).toBeLessThan(14);
});

test("a square that is covered by ink takes the paper of the others", () => {
  const half = painted(W * 2, H * 2, [
    {
      ring: [
        [0, 0],
        [60, 0],
        [60, 80],
        [0, 80],
      ],
      grey: 30,
    },
    {
      ring: [
        [60, 0],
        [120, 0],
        [120, 80],
        [60, 80],
      ],
      grey: 220,
    },
  ]);
  const { data } = runToEnd(onWhitePaper(half));
  expect(data[40 * 120 + 10]).toBeLessThan(60);
  expect(data[40 * 120 + 110]).toBeGreaterThan(245);
});
