import { seeded } from "../testing/pictures";
import { lightOf, printedLight, type Layer, type Light } from "./model";
import { AmountSolver } from "./solve";

const ink = (colour: number, opacity = 1): Layer => ({ light: lightOf(colour), opacity });
const SETS: readonly [string, number, Layer[]][] = [
  ["three opaque on white", 0xffffff, [ink(0xc8102e), ink(0x1b2f5a), ink(0xf2c230)]],
  ["three opaque on black", 0x000000, [ink(0xc8102e), ink(0x2f7fc1), ink(0xffffff)]],
  ["four on red", 0xb01020, [ink(0xffffff), ink(0x1b2f5a), ink(0xf2c230)]],
  ["see-through over white on black", 0x101012, [ink(0xffffff), ink(0x009ee0, 0), ink(0xe2007a, 0)]],
];

/** What is seen of each layer: what lies on it is taken off. Under a full layer an amount cannot be told. */
const seenOf = (amounts: ArrayLike<number>): number[] =>
  Array.from(amounts, (a, k) =>
    Array.from(amounts)
      .slice(k + 1)
      .reduce((left, over) => left * (1 - over), a),
  );

test.each(SETS)("%s: known amounts are found again", (_, garment, layers) => {
  const next = seeded(7);
  const [out, back] = [new Float64Array(3), new Float64Array(3)];
  const solver = new AmountSolver({ garment: lightOf(garment), layers });
  let sum = 0;
  const N = 300;
  for (let n = 0; n < N; n++) {
    const known = layers.map(() => Math.max(0, ((next() & 255) / 255) * 1.2 - 0.2));
    printedLight(lightOf(garment), layers, known, out);
    const target: Light = [out[0], out[1], out[2]];
    const found = new Float64Array(layers.length);
    solver.solve(target, found);
    printedLight(lightOf(garment), layers, found, back);
    for (let c = 0; c < 3; c++) expect(Math.abs(back[c] - out[c])).toBeLessThan(0.006);
    const [was, is] = [seenOf(known), seenOf(found)];
    was.forEach((v, k) => (sum += Math.abs(v - is[k])));
  }
  expect(sum / N / layers.length).toBeLessThan(0.01);
});

test("the cloth's own colour takes no ink at all, whatever the inks", () => {
  for (const [, garment, layers] of SETS) {
    const amounts = new Float64Array(layers.length);
    new AmountSolver({ garment: lightOf(garment), layers }).solve(lightOf(garment), amounts);
    expect(Array.from(amounts)).toEqual(layers.map(() => 0));
  }
});

test("amounts that are given stay, and no more ink is laid than is allowed", () => {
  const layers = [ink(0x009ee0, 0), ink(0xe2007a, 0), ink(0xffed00, 0), ink(0x1d1d1b, 0)];
  const given = [undefined, undefined, undefined, () => 0.5];
  const amounts = new Float64Array(4);
  new AmountSolver({ garment: [1, 1, 1], layers, given, total: 2.4 }).solve([0.001, 0.001, 0.001], amounts);
  expect(amounts[3]).toBe(0.5);
  expect(amounts.reduce((a, b) => a + b, 0)).toBeCloseTo(2.4, 9);
});
