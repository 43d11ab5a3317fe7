import { runToEnd } from "../../maths/work";
import { alphaAt, clearingFrom, pictureOf } from "../../testing/clearings";
import { randomRgba, seeded } from "../../testing/pictures";
import { colourModel, costOf, strangeness } from "./colourModel";
import { cutOut } from "./cutOut";
import { guidedLines, spread } from "./guided";
import { NearColours } from "./nearColours";
import { scaleOf } from "./scale";

const stroke = (points: [number, number][], sizeMm = 0.6) => ({ points, sizeMm, softness: 0 });

describe("cutting out", () => {
  const disc = (x: number, y: number) => Math.min(1, Math.max(0, 40 - Math.hypot(x - 80, y - 60) + 0.5));
  const next = seeded(3);
  const picture = pictureOf(160, 120, (x, y) => {
    const a = disc(x, y);
    const g = (next() % 7) - 3;
    return [60 + 140 * a + g, 110 - 40 * a + g, 150 - 110 * a + g];
  });
  const wish = {
    keep: [
      stroke([
        [0.45, 0.5],
        [0.55, 0.5],
      ]),
    ],
    away: [
      stroke([
        [0.05, 0.05],
        [0.95, 0.05],
      ]),
    ],
  };

  test("follows the subject's edge from one scribble on either side", () => {
    const clearing = clearingFrom(picture);
    runToEnd(cutOut(clearing, wish, true));
    let sum = 0;
    for (let y = 0; y < 120; y++)
      for (let x = 0; x < 160; x++) sum += Math.abs(alphaAt(clearing, x, y) / 255 - disc(x, y));
    expect(sum / (160 * 120)).toBeLessThan(0.004);
    expect([alphaAt(clearing, 80, 60), alphaAt(clearing, 5, 110)]).toEqual([255, 0]);
  });
  test("is the same each time, and leaves colours alone where the subject is whole", () => {
    const [one, two] = [clearingFrom(picture), clearingFrom(picture)];
    runToEnd(cutOut(one, wish, true));
    runToEnd(cutOut(two, wish, true));
    expect(one.data).toEqual(two.data);
    for (let i = 0; i < 160 * 120; i++)
      if (one.data[i * 4 + 3] === 255) expect(one.data[i * 4]).toBe(picture.data[i * 4]);
  });
  test("does nothing until both sides are known, and leaves what is held", () => {
    const clearing = clearingFrom(picture);
    runToEnd(cutOut(clearing, { keep: wish.keep, away: [] }, true));
    expect(clearing.data).toEqual(picture.data);
    const held = clearingFrom(picture, { held: new Uint8Array(160 * 120).fill(255) });
    runToEnd(cutOut(held, wish, true));
    expect(alphaAt(held, 5, 110)).toBe(255);
  });
  test("a large picture, cut out on a smaller one, is as whole inside and as clear outside", () => {
    const large = pictureOf(1600, 900, (x, y) => {
      const a = Math.min(1, Math.max(0, 300 - Math.hypot(x - 800, y - 450) + 0.5));
      return [60 + 140 * a, 110 - 40 * a, 150 - 110 * a];
    });
    const clearing = clearingFrom(large);
    runToEnd(cutOut(clearing, wish, true));
    let wrong = 0;
    for (let i = 0; i < 1600 * 900; i++) {
      const from = Math.hypot((i % 1600) + 0.5 - 800, Math.floor(i / 1600) + 0.5 - 450) - 300;
      if (Math.abs(from) > 3 && clearing.data[i * 4 + 3] !== (from < 0 ? 255 : 0)) wrong++;
    }
    expect(wrong).toBe(0);
  });
  test("a small picture, and strokes that leave it, are no trouble", () => {
    const tiny = clearingFrom(pictureOf(5, 4, (x) => (x < 2 ? [200, 0, 0] : [0, 0, 200])));
    runToEnd(
      cutOut(
        tiny,
        {
          keep: [
            stroke(
              [
                [-0.5, 0.5],
                [0.1, 0.5],
              ],
              0.1,
            ),
          ],
          away: [
            stroke(
              [
                [0.9, 0.5],
                [1.6, 0.5],
              ],
              0.1,
            ),
          ],
        },
        true,
      ),
    );
    expect([alphaAt(tiny, 0, 1), alphaAt(tiny, 4, 1)]).toEqual([255, 0]);
  });
});

test("the guided filter equals solving each window by itself", () => {
  const [width, height, radius, smooth] = [17, 13, 2, 1e-3];
  const picture = randomRgba(width, height, 7, true);
  const next = seeded(8);
  const cover = Float32Array.from({ length: width * height }, () => (next() % 1000) / 1000);
  const weight = Float32Array.from({ length: width * height }, () => 0.1 + (next() % 900) / 1000);
  const wanted = new Uint8Array(width * height).fill(1);
  const found = runToEnd(guidedLines(picture, cover, weight, wanted, radius, smooth));
  const around = (cx: number, cy: number): number[] => {
    const list: number[] = [];
    for (let y = Math.max(0, cy - radius); y <= Math.min(height - 1, cy + radius); y++)
      for (let x = Math.max(0, cx - radius); x <= Math.min(width - 1, cx + radius); x++)
        list.push(y * width + x);
    return list;
  };
  // The line of a window minimises weighted squares plus smooth times the slopes' own: by descent along the gradient.
  const lineOf = (pixels: number[]): number[] => {
    const total = pixels.reduce((a, i) => a + weight[i], 0);
    let line = [0, 0, 0, 0];
    for (let round = 0; round < 6000; round++) {
      const slope = line.map((v, k) => (k < 3 ? 2 * smooth * v : 0));
      for (const i of pixels) {
        const colour = [0, 1, 2].map((k) => picture.data[i * 4 + k] / 255);
        const off = colour.reduce((a, c, k) => a + c * line[k], line[3]) - cover[i];
        colour.forEach((c, k) => (slope[k] += (2 * weight[i] * off * c) / total));
        slope[3] += (2 * weight[i] * off) / total;
      }
      line = line.map((v, k) => v - 0.45 * slope[k]);
    }
    return line;
  };
  for (const [x, y] of [
    [8, 6],
    [0, 0],
    [16, 5],
  ]) {
    const lines = around(x, y).map((i) => lineOf(around(i % width, Math.floor(i / width))));
    for (let k = 0; k < 4; k++) {
      const mean = lines.reduce((a, l) => a + l[k], 0) / lines.length;
      expect(found[(y * width + x) * 4 + k]).toBeCloseTo(mean, 2);
    }
  }
});

test("spreading a mask sets every pixel within the square", () => {
  const next = seeded(5);
  const mask = Uint8Array.from({ length: 30 * 20 }, () => (next() % 40 === 0 ? 1 : 0));
  const { mask: wide, rows } = spread(mask, 30, 20, 3);
  for (let y = 0; y < 20; y++) {
    for (let x = 0; x < 30; x++) {
      const near = mask.some(
        (v, j) => v === 1 && Math.abs((j % 30) - x) <= 3 && Math.abs(Math.floor(j / 30) - y) <= 3,
      );
      expect(wide[y * 30 + x]).toBe(near ? 1 : 0);
    }
    expect(rows[y]).toBe(wide.subarray(y * 30, y * 30 + 30).includes(1) ? 1 : 0);
  }
});

test("a colour model finds its own colours likely and others strange", () => {
  const next = seeded(2);
  const lab = Float32Array.from(
    { length: 600 },
    (_, k) => (k % 6 < 3 ? [20, 5, -10] : [70, -8, 30])[k % 3] + (next() % 100) / 50 - 1,
  );
  const model = colourModel(
    lab,
    Array.from({ length: 200 }, (_, i) => i),
  );
  expect(model.length).toBeGreaterThanOrEqual(2);
  const odd = Float32Array.from([20, 5, -10, 70, -8, 30, 45, 40, 0]);
  expect(costOf(model, odd, 2)).toBeGreaterThan(costOf(model, odd, 0) + 20);
  expect([strangeness(model, 20, 5, -10) < 4, strangeness(model, 45, 40, 0) > 50]).toEqual([true, true]);
});

test("known colours are found near to wide", () => {
  const picture = pictureOf(64, 64, (x) => [x * 4, 100, 0]);
  const near = new NearColours(picture, (i) => i % 64 < 16);
  const out = new Float64Array(9);
  expect(near.near(20, 30, 3, out)).toBe(3);
  expect(Math.abs(out[0] - 52)).toBeLessThan(25); // the last known columns are 13 to 15
  expect(out[3]).toBeLessThanOrEqual(out[0]);
  expect(new NearColours(picture, () => false).near(20, 30, 3, out)).toBe(0);
});

describe("a subject of colours that nobody stroked", () => {
  const next = seeded(8);
  /** A red body with a white eye in it and a blue beak on it, before mottled green; a red thing far off. */
  const part = (x: number, y: number): "body" | "eye" | "beak" | "thing" | null => {
    if (Math.hypot(x - 100, y - 56) < 6) return "eye";
    if (Math.hypot(x - 90, y - 70) < 40) return "body";
    if (x >= 126 && x < 150 && Math.abs(y - 66) < (150 - x) / 3) return "beak";
    return Math.hypot(x - 184, y - 22) < 9 ? "thing" : null;
  };
  const COLOURS = { body: [190, 50, 40], eye: [240, 240, 236], beak: [30, 60, 190], thing: [188, 52, 44] };
  const picture = pictureOf(211, 141, (x, y) => {
    const of = part(x, y);
    const g = (next() % 13) - 6;
    const mottle = 18 * Math.sin(x * 0.3) * Math.cos(y * 0.27);
    const c = of ? COLOURS[of] : [70 + mottle, 120 + mottle, 60 + mottle];
    return [c[0] + g, c[1] + g, c[2] + g];
  });
  const wish = {
    keep: [
      stroke([
        [0.36, 0.5],
        [0.5, 0.6],
      ]),
    ],
    away: [
      stroke([
        [0.05, 0.08],
        [0.6, 0.05],
      ]),
      stroke([
        [0.05, 0.94],
        [0.95, 0.94],
      ]),
    ],
  };

  test("keeps its eye and its beak; what stands apart goes, strange as it is or not", () => {
    const clearing = clearingFrom(picture);
    runToEnd(cutOut(clearing, wish, true));
    const kept = (of: string) => {
      let [whole, all] = [0, 0];
      for (let y = 0; y < 141; y++)
        for (let x = 0; x < 211; x++) {
          if (part(x, y) !== of) continue;
          all++;
          whole += alphaAt(clearing, x, y) / 255;
        }
      return whole / all;
    };
    expect(kept("body")).toBeGreaterThan(0.98);
    expect(kept("eye")).toBeGreaterThan(0.95);
    expect(kept("beak")).toBeGreaterThan(0.85);
    expect(kept("thing")).toBeLessThan(0.02);
  });
});

test.each([
  [[1801, 901], [225, 112], 1 / 8],
  [[1800, 900], [900, 450], 1 / 2],
  [[7, 5], [7, 5], 1],
  [[1000, 3], [250, 1], 1 / 4],
])("%j halved to %j is at a scale of %d", ([w, h], [sw, sh], scale) => {
  expect(scaleOf({ width: sw, height: sh }, { width: w, height: h })).toBe(scale);
});
