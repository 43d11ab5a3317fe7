import { runToEnd } from "../maths/work";
import { seeded } from "../testing/pictures";
import { type Rgba } from "../raster/types";
import { AmountTable } from "./amountTable";
import { findColours } from "./clusters";
import { colourName, freeName } from "./colourName";
import { separateFlat } from "./flat";
import { faded, keptBeside } from "./knockOut";
import { findBlackLevels, separateBlack } from "./oneBlack";

/** A picture of rows of colours, 0xrrggbb or 0xaarrggbb with an alpha of its own. */
function pictureOf(rows: readonly (readonly number[])[]): Rgba {
  const [width, height] = [rows[0].length, rows.length];
  const data = Uint8Array.from(
    rows
      .flat()
      .flatMap((c) => [
        (c >> 16) & 255,
        (c >> 8) & 255,
        c & 255,
        c > 0xffffff ? Math.floor(c / 2 ** 24) : 255,
      ]),
  );
  return { width, height, data };
}
const [RED, NAVY, WHITE] = [0xc8102e, 0x1b2f5a, 0xffffff];
const mean = (a: number, b: number, share = 0.5): number =>
  [16, 8, 0].reduce(
    (sum, s) => sum + (Math.round(((a >> s) & 255) * share + ((b >> s) & 255) * (1 - share)) << s),
    0,
  );
const inks = { inks: ["#c8102e", "#1b2f5a"], garment: "#ffffff", tolerance: 2 };

test("a pixel at an edge is shared between the two inks that meet there, and nothing is left over", () => {
  const row = [RED, RED, RED, mean(RED, NAVY, 0.3), NAVY, NAVY, NAVY, mean(NAVY, WHITE), WHITE, WHITE, WHITE];
  const [red, navy] = runToEnd(separateFlat(pictureOf([row, row, row]), inks));
  const middle = (plane: Uint8Array) =>
    Array.from(plane.subarray(row.length, 2 * row.length), (v) => 255 - v);
  expect(middle(red).slice(0, 3)).toEqual([255, 255, 255]);
  expect(middle(red)[3] / 255).toBeCloseTo(0.3, 1);
  expect(middle(red)[3] + middle(navy)[3]).toBe(255); // no third colour, no seam
  expect(middle(red).slice(4)).toEqual([0, 0, 0, 0, 0, 0, 0]);
  expect(middle(navy)[7] / 255).toBeCloseTo(0.5, 1);
  expect(middle(navy).slice(8)).toEqual([0, 0, 0]); // the cloth's own colour takes no ink
});

test("half of an edge between two inks goes to one of them, never to both or none", () => {
  for (let share = 0.02; share < 1; share += 0.02) {
    const row = [RED, RED, mean(RED, NAVY, share), NAVY, NAVY];
    const planes = runToEnd(separateFlat(pictureOf([row, row, row]), inks));
    expect(planes.filter((p) => p[7] < 128)).toHaveLength(1);
  }
});

test("an even area of a colour that no ink has goes to the ink it is most like, and clear pixels to none", () => {
  const other = 0x30457a;
  const rows = Array.from({ length: 12 }, () => Array.from({ length: 12 }, () => other));
  const [red, navy] = runToEnd(separateFlat(pictureOf(rows), inks));
  expect(new Set(navy)).toEqual(new Set([0]));
  expect(new Set(red)).toEqual(new Set([255]));
  const half = 128 * 2 ** 24 + RED;
  const soft = pictureOf([[half, 0, RED]]);
  soft.data[7] = 0; // the middle one is clear
  const [ink] = runToEnd(separateFlat(soft, inks));
  expect(Array.from(ink)).toEqual([127, 255, 0]);
});

test("flat colours are found with their number and shares; noise, edges and the cloth are none", () => {
  const next = seeded(3);
  const side = 90;
  const at = (x: number): number =>
    x < 30 ? RED : x < 50 ? NAVY : x < 51 ? mean(NAVY, 0xf2c230) : x < 70 ? 0xf2c230 : WHITE;
  const rows = Array.from({ length: side }, () =>
    Array.from({ length: side }, (_, x) => {
      const jitter = () => (next() % 5) - 2;
      const c = at(x);
      return [16, 8, 0].reduce(
        (sum, s) => sum + (Math.min(255, Math.max(0, ((c >> s) & 255) + jitter())) << s),
        0,
      );
    }),
  );
  const { colours, reason } = runToEnd(findColours(pictureOf(rows), "auto", ["#ffffff"]));
  expect(colours).toHaveLength(3);
  const near = (hex: string, known: number) =>
    [16, 8, 0].every((s) => Math.abs(((parseInt(hex.slice(1), 16) >> s) & 255) - ((known >> s) & 255)) <= 2);
  for (const known of [RED, NAVY, 0xf2c230]) expect(colours.some((c) => near(c.colour, known))).toBe(true);
  expect(colours[0].share).toBeGreaterThan(0.35);
  expect(reason).toContain("3 flat colours hold");
  expect(runToEnd(findColours(pictureOf(rows), 2, ["#ffffff"])).colours).toHaveLength(2);
  expect(runToEnd(findColours(pictureOf([[WHITE, WHITE]]), "auto", ["#ffffff"])).colours).toEqual([]);
});

test("colours have plain names, and no two films one", () => {
  const named = ["#ffffff", "#101012", "#808080", "#c8102e", "#f2c230", "#1b2f5a", "#2c7a3f", "#e8762c"].map(
    colourName,
  );
  expect(named).toEqual(["white", "black", "grey", "red", "yellow", "navy", "green", "orange"]);
  expect(freeName("red", ["red", "red 2"])).toBe("red 3");
});

test("numbers of colours are exact at colours that are named, and straight in between", () => {
  // A function that is straight in code values comes out as it is, whatever the grid.
  const straight = new AmountTable(
    (light, out) => {
      const code = light.map((v) => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055));
      out[0] = 0.2 * code[0] + 0.5 * code[1] + 0.3 * code[2];
      out[1] = 1 - code[2];
    },
    2,
    5,
    [0x13579b],
  );
  const next = seeded(9);
  const colours = Uint32Array.from({ length: 500 }, () => next() & 0xffffff);
  const [one, two] = runToEnd(straight.planesOf(colours));
  colours.forEach((c, i) => {
    const [r, g, b] = [c & 255, (c >> 8) & 255, c >> 16];
    expect(Math.abs(255 - one[i] - (0.2 * r + 0.5 * g + 0.3 * b))).toBeLessThan(1.01);
    expect(Math.abs(two[i] - b)).toBeLessThan(1.01);
  });
  // One that is 1 at a single colour is read there in full.
  const peak = new AmountTable(
    (light, out) => void (out[0] = Math.abs(light[0] - 0.0065) < 2e-4 ? 1 : 0),
    1,
    5,
    [0x13579b],
  );
  expect(runToEnd(peak.planesOf(Uint32Array.of(0x9b5713)))[0][0]).toBe(0);
});

test("one black: the ground is zero with its noise, the darkest point full, and between them all rises", () => {
  const next = seeded(5);
  const data = Uint8Array.from({ length: 4000 }, (_, i) =>
    i < 3000 ? 232 + (next() % 9) : 40 + ((i - 3000) * 150) / 1000,
  );
  const gray = { width: 40, height: 100, data };
  const levels = runToEnd(findBlackLevels(gray, null));
  expect(levels.bare).toBeLessThanOrEqual(232);
  expect(levels.bare).toBeGreaterThan(180);
  expect(levels.full).toBeLessThan(44);
  const plane = runToEnd(separateBlack(gray, null, levels));
  expect(new Set(plane.subarray(0, 3000))).toEqual(new Set([255]));
  expect(plane[3000]).toBe(0);
  for (let i = 3001; i < 4000; i++) expect(plane[i]).toBeGreaterThanOrEqual(plane[i - 1]);
});

test("the garment's colour is knocked out within a tolerance, and softly beyond it", () => {
  const colours = Uint32Array.of(0x4a231a, 0x4c251c, 0x8a5a50, 0xffffff);
  const kept = runToEnd(keptBeside(colours, "#1a234a", { tolerance: 2, softness: 30 }));
  expect(Array.from(kept.subarray(0, 2))).toEqual([0, 0]);
  expect(kept[2]).toBeGreaterThan(80);
  expect(kept[2]).toBeLessThan(255);
  expect(kept[3]).toBe(255);
  const plane = Uint8Array.of(0, 100, 55, 0);
  runToEnd(faded(plane, kept));
  expect(plane[0]).toBe(255);
  expect(plane[2]).toBe(255 - Math.round((200 * kept[2]) / 255));
  expect(plane[3]).toBe(0);
});
