import fc from "fast-check";
import { runToEnd } from "../maths/work";
import { countMarks } from "../raster/bits";
import { bitAt } from "../raster/types";
import { markByMask } from "../screen/mask";
import { grayOf, randomGray, seeded } from "../testing/pictures";
import { beatsOf, overtones, ruledScreen } from "./moire";
import { scattered, SOLID } from "../screen/dotting";
import { plateDots } from "./plateDots";
import { lightOf, printedLight } from "./model";
import { choke, moveEdge, shapeOf, squaredInside, trapped } from "./moveEdge";
import { laidOver } from "./seen";
import { underbaseOf } from "./underbase";

const [W, H] = [40, 30];

/** Discs and bars, printed full or bare. */
function shapes(seed: number): Uint8Array {
  const next = seeded(seed);
  const discs = Array.from({ length: 4 }, () => [next() % W, next() % H, 2 + (next() % 7)]);
  return grayOf(W, H, (x, y) => (discs.some(([u, v, r]) => Math.hypot(x - u, y - v) <= r) ? 0 : 255)).data;
}

/** Distance from a pixel's middle to the nearest one that is of a kind, looked for among all. */
function farFrom(plane: Uint8Array, i: number, printed: boolean): number {
  let least = Infinity;
  for (let j = 0; j < plane.length; j++)
    if (plane[j] < 128 === printed)
      least = Math.min(least, Math.hypot((i % W) - (j % W), Math.floor(i / W) - Math.floor(j / W)));
  return least;
}

test("edges move by the exact distance, to either side, against a search through all pixels", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 1e6 }),
      fc.double({ min: 0.3, max: 6, noNaN: true }),
      (seed, by) => {
        const plane = shapes(seed);
        const [out, inn] = [runToEnd(moveEdge(plane, W, H, by)), runToEnd(moveEdge(plane, W, H, -by))];
        for (let i = 0; i < plane.length; i += 7) {
          const [to, from] = [farFrom(plane, i, true) - by, farFrom(plane, i, false) - by];
          if (Math.abs(to - 0.5) > 0.01) expect(out[i] < 128).toBe(to < 0.5);
          if (Math.abs(from - 0.5) > 0.01) expect(inn[i] < 128).toBe(from > 0.5);
        }
      },
    ),
    { numRuns: 25 },
  );
});

test("a spread plate carries on the tone beside it, and nothing moves by nothing", () => {
  const plane = grayOf(12, 1, (x) => (x < 4 ? 100 : 255)).data;
  expect(Array.from(runToEnd(moveEdge(plane, 12, 1, 2)))).toEqual([
    100,
    100,
    100,
    100,
    100,
    100,
    ...Array(6).fill(255),
  ]);
  expect(runToEnd(moveEdge(plane, 12, 1, 0))).toBe(plane);
});

test("the lighter plate reaches under the darker where they meet, and not onto the cloth", () => {
  const light = grayOf(20, 1, (x) => (x >= 4 && x < 10 ? 0 : 255)).data;
  const dark = grayOf(20, 1, (x) => (x >= 10 && x < 16 ? 0 : 255)).data;
  const [wider, same] = runToEnd(trapped([light, dark], [80, 30], 20, 1, 3));
  expect(Array.from(wider, (v) => (v < 128 ? 1 : 0)).join("")).toBe("00001111111110000000");
  expect(same).toBe(dark);
  expect(runToEnd(trapped([light, dark], [80, 80], 20, 1, 3))).toEqual([light, dark]);
});

test("white lies under every ink as strong as that ink wants it, pulled in, and not where it is seen itself", () => {
  const red = grayOf(24, 1, (x) => (x >= 2 && x < 10 ? 0 : 255)).data;
  const black = grayOf(24, 1, (x) => (x >= 10 && x < 14 ? 0 : 255)).data;
  const own = grayOf(24, 1, (x) => (x >= 14 && x < 20 ? 0 : 255)).data;
  const over = [
    { plane: red, under: 1 },
    { plane: black, under: 0.25 },
  ];
  const white = runToEnd(
    underbaseOf(over, own, 0.8, 24, 2, function* (shape) {
      return yield* squaredInside(yield* shape(), 24, 1);
    }),
  );
  const amount = Array.from(white, (v) => Math.round(((255 - v) / 255) * 100));
  expect(amount.slice(0, 5)).toEqual([0, 0, 0, 0, 80]); // pulled in by two from where red begins
  expect(amount.slice(4, 10)).toEqual(Array(6).fill(80));
  expect(amount.slice(10, 14)).toEqual(Array(4).fill(20));
  expect(amount.slice(14)).toEqual([100, 100, 100, 100, 100, 100, 0, 0, 0, 0]); // seen white is whole to its edge
});

test("choke leaves what is far inside as it is", () => {
  const plane = shapes(3).map((v) => (v === 0 ? 60 : 255));
  const shape = runToEnd(shapeOf(plane));
  const pulled = runToEnd(choke(plane, shape, W, H, 1));
  for (let i = 0; i < plane.length; i++) expect(pulled[i]).toBeGreaterThanOrEqual(plane[i]);
  expect(pulled.some((v) => v === 60)).toBe(true);
});

test("dots at the finish's own resolution are those of the mask; at a finer one shares stay and edges are smooth", () => {
  const tone = randomGray(50, 40, 8);
  const { mask } = scattered(0.1, 2, 254);
  expect(runToEnd(plateDots(tone, 1, { mask, side: 1 })).data).toEqual(runToEnd(markByMask(tone, mask)).data);
  const even = grayOf(80, 80, () => 255 - 77);
  for (const side of [1, 2, 3]) {
    const dots = runToEnd(plateDots(even, 4, scattered((side * 25.4) / 1016, 1, 1016)));
    expect([dots.width, dots.height]).toEqual([320, 320]);
    expect(countMarks(dots) / 320 / 320).toBeCloseTo(77 / 255, 1);
  }
  // A slanted edge whose pixels are covered in part: its dots lie within one of the true line.
  const slanted = grayOf(40, 40, (x, y) =>
    Math.round(255 * Math.min(1, Math.max(0, x + 0.5 - (10 + 0.4 * (y + 0.5)) + 0.5))),
  );
  const fine = runToEnd(plateDots(slanted, 4, SOLID));
  for (let y = 8; y < 152; y++) {
    let x = 0;
    while (bitAt(fine, x, y)) x++;
    expect(Math.abs(x / 4 - (10 + (0.4 * (y + 0.5)) / 4))).toBeLessThan(0.3);
  }
});

test("each plate scatters by itself: two tints meet as often as chance has it", () => {
  const even = grayOf(256, 256, () => 128);
  const [a, b] = [0, 1].map((k) => runToEnd(plateDots(even, 1, scattered(0.1, k, 254))));
  let both = 0;
  for (let y = 0; y < 256; y++) for (let x = 0; x < 256; x++) both += bitAt(a, x, y) & bitAt(b, x, y);
  expect(both / 65536).toBeGreaterThan(0.2);
  expect(both / 65536).toBeLessThan(0.3);
});

test("a print laid over by shares is what the model says, colour by colour", () => {
  const inks = [0xffffff, 0xc8102e, 0x009ee0].map((c, k) => ({ light: lightOf(c), opacity: [1, 0.6, 0][k] }));
  const next = seeded(2);
  const shares = inks.map(() => ({ data: Uint8Array.from({ length: 60 }, () => next() & 255) }));
  const seen = runToEnd(laidOver(shares, inks, lightOf(0x1a2340), 60, 1));
  const out = new Float64Array(3);
  for (let i = 0; i < 60; i++) {
    printedLight(
      lightOf(0x1a2340),
      inks,
      shares.map((s) => (255 - s.data[i]) / 255),
      out,
    );
    for (let c = 0; c < 3; c++) {
      const code = 255 * (out[c] <= 0.0031308 ? 12.92 * out[c] : 1.055 * out[c] ** (1 / 2.4) - 0.055);
      expect(Math.abs(seen.data[4 * i + c] - code)).toBeLessThan(0.6);
    }
  }
});

test("beats have the length that the difference of frequencies gives", () => {
  const screen = (angle: number, lines = 50.8) => ruledScreen(`at ${angle}`, lines, angle); // two lines a millimetre
  // Five degrees apart: 1 / (2 * 2 sin 2.5).
  const [beat] = beatsOf([[screen(20), screen(25)]], 100);
  expect(beat.mm).toBeCloseTo(1 / (4 * Math.sin((2.5 * Math.PI) / 180)), 6);
  expect(beatsOf([[screen(15), screen(45)]], 100)).toEqual([]); // a rosette is no beat
  expect(beatsOf([[screen(22.5), screen(112.5)]], 100)[0].mm).toBe(Infinity); // a quarter turn on, they lie on each other
  // Ten lines a millimetre of mesh against the fourth overtone of 2.4: off by 0.4.
  const mesh = { name: "mesh", perMm: 10, angle: 0, orders: 1 };
  expect(beatsOf([[overtones(screen(0, 2.4 * 25.4)), mesh]], 100)[0].mm).toBeCloseTo(2.5, 6);
});
