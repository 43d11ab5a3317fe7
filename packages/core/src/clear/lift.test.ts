import { codesOf } from "../colour/oklab";
import { runToEnd } from "../maths/work";
import { alphaAt, clearingFrom, pictureOf } from "../testing/clearings";
import { seeded } from "../testing/pictures";
import { liftInk, liftLevels, paperAt } from "./lift";
import { lightOn, lightRow, paperColour } from "./paper";

const WHITE = { paper: "#ffffff", light: "even" } as const;

/** Soft black strokes of every strength: cover 0..1 at a place. */
const drawing = (x: number, y: number): number => {
  const stroke = (d: number, half: number, soft: number) =>
    Math.max(0, Math.min(1, (half - Math.abs(d)) / soft + 0.5));
  const ring = stroke(Math.hypot(x - 60, y - 50) - 30, 3, 2);
  const line = stroke(x * 0.6 - y * 0.8 + 12, 1.2, 1);
  const solid = Math.max(0, Math.min(1, (14 - Math.hypot(x - 95, y - 80)) / 3));
  return Math.max(ring, line, solid);
};

test("a black drawing lifted off white and laid on a dark cloth is the drawing on that cloth", () => {
  const paper = pictureOf(120, 100, (x, y) => {
    const v = 255 * (1 - drawing(x, y));
    return [v, v, v];
  });
  const clearing = clearingFrom(paper);
  runToEnd(liftInk(clearing, { kept: 0.2, gone: 0.95, ...WHITE }));
  const cloth = [16, 18, 20];
  let [sum, worst] = [0, 0];
  for (let i = 0; i < 12000; i++) {
    const truth = 1 - drawing(i % 120, Math.floor(i / 120));
    const alpha = clearing.data[i * 4 + 3] / 255;
    for (let k = 0; k < 3; k++) {
      const error = Math.abs(clearing.data[i * 4 + k] * alpha + cloth[k] * (1 - alpha) - cloth[k] * truth);
      sum += error;
      worst = Math.max(worst, error);
    }
  }
  expect(sum / 36000).toBeLessThanOrEqual(0.3);
  expect(worst).toBeLessThanOrEqual(4);
});

test("cover is whole up to kept, nothing from gone, a straight line between", () => {
  const steps = pictureOf(256, 1, (x) => [x, x, x]);
  const clearing = clearingFrom(steps);
  runToEnd(liftInk(clearing, { kept: 0.4, gone: 0.8, ...WHITE }));
  for (let g = 0; g < 256; g++) {
    const wanted = Math.max(0, Math.min(1, (0.8 - g / 255) / 0.4));
    expect(Math.abs(alphaAt(clearing, g, 0) - 255 * wanted)).toBeLessThanOrEqual(0.51);
  }
});

test("an even tone darker than kept keeps its colour to the bit; a soft edge loses the paper", () => {
  const [red, wash] = [
    [150, 20, 24],
    [120, 116, 112],
  ] as const;
  const picture = pictureOf(60, 20, (x) => {
    if (x < 20) return red;
    if (x < 40) return wash;
    const share = Math.min(1, Math.max(0, (x - 40) / 8));
    return [0, 1, 2].map((k) => [10, 10, 12][k] * (1 - share) + 255 * share) as [number, number, number];
  });
  const clearing = clearingFrom(picture);
  runToEnd(liftInk(clearing, { kept: 0.6, gone: 0.95, ...WHITE }));
  const at = (x: number) => Array.from(clearing.data.subarray((10 * 60 + x) * 4, (10 * 60 + x) * 4 + 4));
  expect(at(10)).toEqual([...red, 255]);
  expect(at(30)).toEqual([...wash, 255]);
  for (const x of [42, 44, 46]) expect(Math.max(...at(x).slice(0, 3))).toBeLessThanOrEqual(14); // ink, not grey
});

test("what is held stays, and what was clear stays clear", () => {
  const picture = pictureOf(4, 1, (x) => [250, 250, 250, x === 3 ? 0 : 255]);
  const clearing = clearingFrom(picture, { held: Uint8Array.of(0, 255, 0, 0) });
  runToEnd(liftInk(clearing, { kept: 0.5, gone: 0.9, ...WHITE }));
  expect([0, 1, 2, 3].map((x) => alphaAt(clearing, x, 0))).toEqual([0, 255, 0, 0]);
});

test("the paper's colour is what lies about a click, in the light a lift makes of it", () => {
  const even = pictureOf(40, 30, (x) => (x < 20 ? [240, 232, 214] : [236, 200, 180]));
  expect(paperAt(even, 8, 8, "even")).toBe("#f0e8d6");
  expect(paperAt(even, 32, 8, "even")).toBe("#ecc8b4");
  expect(paperAt(even, 0, 29, "even")).toBe("#f0e8d6");
  expect([paperAt(even, 40, 8, "even"), paperAt(even, 8, -1, "even")]).toEqual([null, null]);
  // A lamp on one side: wherever the sheet is clicked on, it is one paper.
  const lit = pictureOf(
    400,
    300,
    (x) => [240, 232, 214].map((v) => v * (1 - (0.4 * x) / 400)) as [number, number, number],
  );
  const [near, far] = [40, 360].map((x) => codesOf(paperAt(lit, x, 150, "uneven")!));
  expect(Math.max(...near.map((v, k) => Math.abs(v - far[k])))).toBeLessThanOrEqual(6);
  expect(codesOf(paperAt(lit, 360, 150, "even")!)[0]).toBeLessThan(170);
});

test("the paper's colour is found among ink and grain", () => {
  const next = seeded(9);
  const picture = pictureOf(200, 150, (x, y) => {
    const g = (next() % 7) - 3;
    return (x + y) % 11 < 2 ? [40 + g, 36 + g, 44 + g] : [236 + g, 228 + g, 206 + g];
  });
  const paper = paperColour(picture);
  [236, 228, 206].forEach((v, k) => expect(Math.abs(paper[k] - v)).toBeLessThanOrEqual(1));
  expect(paperColour(pictureOf(8, 8, () => [255, 255, 255]))).toEqual([255, 255, 255]);
});

describe("unevenly lit paper", () => {
  const lamp = (x: number, y: number) => 1 - 0.5 * (x / 400) - 0.15 * (y / 300);
  const inked = (x: number, y: number) => (x % 40 < 3 || y % 50 < 3 ? 0.12 : 1);
  const next = seeded(4);
  const picture = pictureOf(400, 300, (x, y) => {
    const v = 240 * lamp(x, y) * inked(x, y) + (next() % 5) - 2;
    return [v, v * 0.98, v * 0.92];
  });

  test("the light is found to within three percent, ink or not", () => {
    const light = runToEnd(lightOn(picture));
    const row = new Float64Array(400);
    let worst = 0;
    for (let y = 20; y < 280; y += 13) {
      lightRow(light, 400, 300, y, row);
      const middle = row[200] / lamp(200, y);
      for (let x = 20; x < 380; x++) worst = Math.max(worst, Math.abs(row[x] / lamp(x, y) / middle - 1));
    }
    expect(worst).toBeLessThan(0.04);
  });

  test("divided out, paper goes and ink stays wherever the lamp stands", () => {
    const { kept, gone } = liftLevels(picture);
    const clearing = clearingFrom(picture);
    runToEnd(liftInk(clearing, { kept, gone, paper: "auto", light: "uneven" }));
    for (const [x, y] of [
      [10, 10],
      [390, 290],
      [210, 130],
      [385, 15],
    ])
      expect(alphaAt(clearing, x, y)).toBe(0);
    for (const [x, y] of [
      [1, 20],
      [361, 280],
      [201, 120],
      [321, 30],
    ])
      expect(alphaAt(clearing, x, y)).toBe(255);
  });
});

describe("paper found, light and all", () => {
  const next = seeded(12);
  /** A solid disc of a third of the sheet and a thin line, under a lamp with a shadow at one side, with grain. */
  const inked = (x: number, y: number): number => {
    const disc = Math.min(1, Math.max(0, 105 - Math.hypot(x - 150, y - 150) + 0.5));
    const line = Math.min(1, Math.max(0, 2 - Math.abs(y - 40 - x * 0.1) + 0.5));
    return Math.max(disc, line);
  };
  const lamp = (x: number): number =>
    (1 - 0.35 * (x / 400)) * (x > 260 ? 1 - 0.2 * Math.min(1, (x - 260) / 130) : 1);
  const picture = pictureOf(400, 300, (x, y) => {
    const v = (236 - 206 * inked(x, y)) * lamp(x) + (next() % 7) - 3;
    return [v, v * 0.99, v * 0.95];
  });

  test("a large solid is whole, a thin line is, and nothing is left of the paper", () => {
    const clearing = clearingFrom(picture);
    runToEnd(liftInk(clearing, { ...liftLevels(picture), paper: "auto", light: "auto" }));
    let [lost, haze, off] = [0, 0, 0];
    for (let y = 0; y < 300; y++)
      for (let x = 0; x < 400; x++) {
        const [truth, is] = [inked(x, y), alphaAt(clearing, x, y) / 255];
        off += Math.abs(truth - is);
        if (truth === 1 && is < 0.9) lost++;
        if (truth === 0 && is > 0) haze++;
      }
    expect(off / 120000).toBeLessThan(0.004);
    expect(lost / 120000).toBeLessThan(0.0005);
    expect(haze / 120000).toBeLessThan(0.01);
  });

  test("ends that are to be found are those that the reading proposes, to the bit", () => {
    const [found, proposed, half] = [clearingFrom(picture), clearingFrom(picture), clearingFrom(picture)];
    const levels = liftLevels(picture);
    runToEnd(liftInk(found, { kept: "auto", gone: "auto", paper: "auto", light: "auto" }));
    runToEnd(liftInk(proposed, { ...levels, paper: "auto", light: "auto" }));
    expect(found.data).toEqual(proposed.data);
    // One end by hand, below where the other would lie: the found one gives way.
    const gone = levels.kept / 2;
    const byHand = clearingFrom(picture);
    runToEnd(liftInk(half, { kept: "auto", gone, paper: "auto", light: "auto" }));
    runToEnd(liftInk(byHand, { kept: gone - 0.01, gone, paper: "auto", light: "auto" }));
    expect(half.data).toEqual(byHand.data);
    expect(half.data).not.toEqual(found.data);
  });

  test("even paper is left even, to the bit", () => {
    const even = pictureOf(60, 40, (x) => (x < 20 ? [20, 20, 20] : [250, 250, 250]));
    const [auto, plain] = [clearingFrom(even), clearingFrom(even)];
    runToEnd(liftInk(auto, { kept: 0.2, gone: 0.95, paper: "auto", light: "auto" }));
    runToEnd(liftInk(plain, { kept: 0.2, gone: 0.95, paper: "auto", light: "even" }));
    expect(auto.data).toEqual(plain.data);
  });
});

describe("a hand's shadow on the paper", () => {
  const next = seeded(9);
  /** Half of the light is gone in a round core; the shadow's edge is soft over fifty pixels. */
  const lamp = (x: number, y: number): number => {
    const inside = (125 - Math.hypot(x - 380, y - 250)) / 50;
    return 1 - 0.5 * Math.min(1, Math.max(0, inside + 0.5));
  };
  const lines = (x: number, y: number): number =>
    Math.min(1, Math.max(0, 2.5 - Math.abs(((x + 2 * y) % 90) - 45) / 2.2));
  const solid = (x: number, y: number): number => (x > 40 && x < 200 && y > 60 && y < 320 ? 1 : 0);
  const inked = (x: number, y: number): number => Math.max(lines(x, y), solid(x, y));
  const picture = pictureOf(600, 420, (x, y) => {
    const v = (238 - 205 * inked(x, y)) * lamp(x, y) + (next() % 7) - 3;
    return [v, v * 0.99, v * 0.97];
  });

  test("is followed into its core: paper goes there too, and ink and solid shapes stay", () => {
    const clearing = clearingFrom(picture);
    runToEnd(liftInk(clearing, { kept: "auto", gone: "auto", paper: "auto", light: "auto" }));
    let [haze, bare, lost, whole] = [0, 0, 0, 0];
    for (let y = 0; y < 420; y++)
      for (let x = 0; x < 600; x++) {
        const [truth, is] = [inked(x, y), alphaAt(clearing, x, y)];
        if (truth === 0 && ++bare && is > 25) haze++;
        if (truth === 1 && ++whole && is < 230) lost++;
      }
    expect(haze / bare).toBeLessThan(0.004);
    expect(lost / whole).toBeLessThan(0.004);
  });
});
