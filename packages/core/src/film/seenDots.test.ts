import { runToEnd } from "../maths/work";
import { coverOfPolygon } from "../path/cover";
import { bitAt, newBits, newRgba, type Rgba } from "../raster/types";
import { asItIs } from "../result/finish";
import { type Picture, type Plates } from "../result/result";
import { runStage } from "../testing/running";
import { seeded } from "../testing/pictures";
import { lightOf, printedLight } from "./model";
import { proofIn, proofOf, seenPrint } from "./seen";

const SIDE = 90;
const COLOURS = ["#c8102e", "#f2c230", "#1d4f91", "#1a1a1c", "#2f8f4e", "#ffffff"];

/** Made-up flat art with soft edges: shapes of a few inks over one another on clear ground. */
function drawing(seed: number, inks: number): Picture {
  const next = seeded(seed);
  const upTo = (most: number): number => (most * (next() & 0xffff)) / 0x10000;
  const colour: Rgba = newRgba(SIDE, SIDE);
  for (let k = 0; k < 9; k++) {
    const [cx, cy, r] = [upTo(SIDE), upTo(SIDE), 12 + upTo(26)];
    const corners = 3 + Math.floor(upTo(6));
    const from = upTo(7);
    const points = Array.from({ length: corners }, (_, n): [number, number] => {
      const turn = from + (2 * Math.PI * n) / corners;
      return [cx + r * Math.cos(turn), cy + r * Math.sin(turn)];
    });
    const cover = runToEnd(coverOfPolygon(points, SIDE, SIDE));
    const rgb = lightOfHex(COLOURS[k % inks]);
    for (let i = 0, o = 0; i < cover.length; i++, o += 4) {
      const over = cover[i] / 255;
      const alpha = over + (1 - over) * (colour.data[o + 3] / 255);
      if (alpha === 0) continue;
      for (let c = 0; c < 3; c++)
        colour.data[o + c] = Math.round((rgb[c] * over + colour.data[o + c] * (alpha - over)) / alpha);
      colour.data[o + 3] = Math.round(255 * alpha);
    }
  }
  return { kind: "picture", ...asItIs({ width: SIDE, height: SIDE }), colour, cleared: null };
}
const lightOfHex = (hex: string): number[] => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16));

/** The dots of a square averaged one by one, in linear light, as sRGB codes. */
function averaged(
  { plates, print }: Plates,
  left: number,
  top: number,
  side: number,
  garment: number,
): number[] {
  const layers = plates.map(({ ink }, k) => ({ light: lightOf(ink), opacity: print!.inks[k].opacity }));
  const sum = [0, 0, 0];
  const out = new Float64Array(3);
  for (let y = top; y < top + side; y++)
    for (let x = left; x < left + side; x++) {
      printedLight(
        lightOf(garment),
        layers,
        plates.map(({ bits }) => bitAt(bits, x, y)),
        out,
      );
      for (let c = 0; c < 3; c++) sum[c] += out[c] / side / side;
    }
  return sum.map((v) => 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055));
}

function worst(plates: Plates, seen: Rgba, side: number, garment: number): number {
  let most = 0;
  for (let y = 0; y < seen.height; y++)
    for (let x = 0; x < seen.width; x++) {
      const own = averaged(plates, side * x, side * y, side, garment);
      for (let c = 0; c < 3; c++)
        most = Math.max(most, Math.abs(own[c] - seen.data[4 * (y * seen.width + x) + c]));
    }
  return most;
}

const films = (seed: number, more: object): Plates => {
  const inks = 2 + (seed % 5);
  const chosen = COLOURS.slice(0, inks).map((colour, k) => ({ name: `ink${k}`, colour }));
  return runStage("films", drawing(seed, inks), { separate: "flat", inks: chosen, ...more }) as Plates;
};

test.each(Array.from({ length: 20 }, (_, k) => k + 1))(
  "drawing %i: from afar its solid inks are seen as their dots averaged, without a seam",
  (seed) => {
    const times = 1 + (seed % 3);
    const plates = films(seed, { printerDotsPerInch: 254 * times });
    expect(worst(plates, runToEnd(proofOf(plates)), times, 0xffffff)).toBeLessThanOrEqual(2);
    const part = { x: 0, y: 0, width: SIDE * times, height: SIDE * times };
    const view = { part, width: SIDE / 3, height: SIDE / 3 };
    const seen = runToEnd(seenPrint(plates, view, { garment: 0x1b2a4a }));
    expect(worst(plates, seen, 3 * times, 0x1b2a4a)).toBeLessThanOrEqual(2);
  },
);

test("a part between the dots' own grid is averaged with its shares of dots", () => {
  const plates = films(3, {});
  const part = { x: 7.25, y: 11.5, width: 40, height: 40 };
  const seen = runToEnd(seenPrint(plates, { part, width: 16, height: 16 }));
  // Two and a half dots a pixel: of 4 x 4 quarters of a dot each, counted one by one.
  const layers = plates.plates.map(({ ink }, k) => ({
    light: lightOf(ink),
    opacity: plates.print!.inks[k].opacity,
  }));
  const out = new Float64Array(3);
  for (const [u, v] of [
    [0, 0],
    [5, 9],
    [15, 15],
  ]) {
    let light = 0;
    for (let n = 0; n < 100; n++) {
      const x = Math.floor(part.x + 2.5 * u + 0.125 + 0.25 * (n % 10));
      const y = Math.floor(part.y + 2.5 * v + 0.125 + 0.25 * Math.floor(n / 10));
      printedLight(
        [1, 1, 1],
        layers,
        plates.plates.map(({ bits }) => bitAt(bits, x, y)),
        out,
      );
      light += out[0] / 100;
    }
    const code = 255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055);
    expect(Math.abs(seen.data[4 * (v * 16 + u)] - code)).toBeLessThanOrEqual(1);
  }
});

test("hidden plates are left out, and plates that are off are seen off", () => {
  const plates = films(2, {});
  const names = plates.plates.map((p) => p.name);
  const part = { x: 0, y: 0, width: SIDE, height: SIDE };
  const none = runToEnd(seenPrint(plates, { part, width: 30, height: 30, hidden: names }));
  expect(none.data.every((v) => v === 255)).toBe(true);
  const [first, ...others] = names;
  const alone = { part, width: 30, height: 30, hidden: [first, ...others.slice(1)] };
  const there = runToEnd(seenPrint(plates, alone));
  // The second plate is off by a golden turn's part: 1 mm is ten dots.
  const off = runToEnd(seenPrint(plates, alone, { shiftMm: 1 }));
  expect(off.data).not.toEqual(there.data);
  const inked = ({ data }: Rgba): number => data.reduce((n, v, i) => n + (i % 4 === 1 && v < 250 ? 1 : 0), 0);
  expect(Math.abs(inked(off) - inked(there))).toBeLessThan(60);
});

test("a proof is as large as asked, of a first look too", () => {
  const plates = films(4, {});
  const { width, height } = runToEnd(proofIn(plates, 31, 17));
  expect([width, height]).toEqual([31, 17]);
});

test("of very many dots one for each of the finish's pixels is looked at, and there is no seam either", () => {
  const [times, side] = [3, 2000];
  const tones = [0, 1].map((k) => ({
    ...{ width: side, height: side },
    data: Uint8Array.from({ length: side * side }, (_, i) =>
      (i % side) + (Math.floor(i / side) >> 2) < 1200 === (k === 0) ? 0 : 255,
    ),
  }));
  const bits = newBits(side * times, side * times);
  const plates: Plates = {
    ...{ kind: "plates", ...asItIs({ width: side * times, height: side * times }), cover: null },
    plates: [0xc8102e, 0x1d4f91].map((ink, k) => ({ name: `ink${k}`, ink, bits })),
    print: {
      ...{ garment: 0xffffff, tones, whiteSeen: null, reason: null, chosen: [], art: newRgba(1, 1) },
      inks: tones.map(() => ({ opacity: 1, role: "ink", solid: true })),
    },
  };
  const part = { x: 0, y: 0, width: side * times, height: side * times };
  const { data } = runToEnd(seenPrint(plates, { part, width: 100, height: 100 }));
  // Cloth would make green light; of both inks there is little.
  for (let o = 0; o < data.length; o += 4) expect(data[o + 1]).toBeLessThan(0x50);
});
