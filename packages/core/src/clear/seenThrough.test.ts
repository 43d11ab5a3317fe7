import { runToEnd } from "../maths/work";
import { USUAL_LIMITS } from "../inspect/limits";
import { artFrom, clearingFrom, pictureOf } from "../testing/clearings";
import { inspectStage, runStage } from "../testing/running";
import { type Clearing } from "./clearing";
import { pick } from "./pick";
import { seenThrough } from "./seenThrough";

const SIDE = 150;
type Colour = readonly [number, number, number];

/** A layer of a colour, of a cover that is given for each pixel, over a ground; and a hard square of ink beside it. */
function before(ground: Colour, colour: Colour, coverAt: (x: number, y: number) => number): Clearing {
  const source = pictureOf(SIDE, SIDE, (x, y) => {
    if (x >= 110 && x < 130 && y >= 60 && y < 80) return [30, 40, 120];
    const cover = coverAt(x, y);
    const of = (k: number) => Math.round(ground[k] + cover * (colour[k] - ground[k]));
    return [of(0), of(1), of(2)];
  });
  const clearing = clearingFrom(source);
  const { mask } = runToEnd(pick(source, 0, 0, 5, true));
  mask.forEach((taken, i) => {
    if (!taken) return;
    clearing.taken[i] = 1;
    clearing.data[4 * i + 3] = 0;
  });
  return clearing;
}
const radius = (x: number, y: number) => Math.hypot(x - 60, y - 70);
/** From `most` in the middle down to nothing, forty pixels off. */
const thinning = (most: number) => (x: number, y: number) => most * Math.max(0, 1 - radius(x, y) / 40) ** 1.5;
const pane = (cover: number) => (x: number, y: number) => (radius(x, y) < 32 ? cover : 0);
const pixel = ({ data }: Clearing, x: number, y: number) =>
  Array.from(data.subarray(4 * (y * SIDE + x), 4 * (y * SIDE + x) + 4));
const MIDDLE: [number, number] = [60 / SIDE, 70 / SIDE];

/** The mean and the largest error of the cover, in code values. */
function errorOf(
  clearing: Clearing,
  coverAt: (x: number, y: number) => number,
): { mean: number; most: number } {
  let [sum, count, most] = [0, 0, 0];
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < 105; x++) {
      const off = Math.abs(pixel(clearing, x, y)[3] - 255 * coverAt(x, y));
      sum += off;
      most = Math.max(most, off);
      count++;
    }
  return { mean: sum / count, most };
}

test("a shadow is freed of its ground: black, as strong as it was, whatever the pick took of it", () => {
  const cover = thinning(0.6);
  const clearing = before([240, 232, 214], [0, 0, 0], cover);
  expect(errorOf(clearing, cover).mean).toBeGreaterThan(15);
  runToEnd(seenThrough(clearing, [MIDDLE], "seeThrough"));
  const { mean, most } = errorOf(clearing, cover);
  expect(mean).toBeLessThan(0.6);
  expect(most).toBeLessThan(5);
  const [red, green, blue, alpha] = pixel(clearing, 60, 70);
  expect([Math.max(red, green, blue) <= 1, alpha]).toEqual([true, 153]);
  expect(pixel(clearing, 120, 70)).toEqual([30, 40, 120, 255]); // the ink beside it stays whole
});

test("smoke before a dark ground, and a tinted pane with an edge", () => {
  const smoke = thinning(0.5);
  const light = before([30, 34, 44], [255, 255, 255], smoke);
  runToEnd(seenThrough(light, [MIDDLE], "seeThrough"));
  expect(errorOf(light, smoke).mean).toBeLessThan(0.6);
  const glass = before([255, 255, 255], [0, 120, 60], pane(0.3));
  runToEnd(seenThrough(glass, [MIDDLE], "seeThrough"));
  expect(errorOf(glass, pane(0.3)).mean).toBeLessThan(0.6);
  const [r, g, b, a] = pixel(glass, 60, 70);
  expect(Math.abs(a - 76.5)).toBeLessThanOrEqual(0.5);
  expect(Math.abs(r) + Math.abs(g - 120) + Math.abs(b - 60)).toBeLessThan(6);
});

test("paint that is whole in its middle keeps its own colour where it thins out", () => {
  const cover = thinning(1);
  const paint: Colour = [170, 30, 44]; // which least cover would take for less, of a deeper red
  const clearing = before([255, 255, 255], paint, cover);
  runToEnd(seenThrough(clearing, [MIDDLE], "seeThrough"));
  const { mean } = errorOf(clearing, cover);
  expect(mean).toBeLessThan(3);
  expect(pixel(clearing, 60, 70)[3]).toBeGreaterThan(245);
  const [r, g, b] = pixel(clearing, 72, 70);
  expect(Math.hypot(r - paint[0], g - paint[1], b - paint[2])).toBeLessThan(25);
});

test("it may be taken as it looks, or let go; over the ground see-through and solid look the same", () => {
  const made = (as: "seeThrough" | "solid" | "gone") => {
    const clearing = before([240, 232, 214], [0, 0, 0], pane(0.3));
    runToEnd(seenThrough(clearing, [MIDDLE], as));
    return clearing;
  };
  expect(pixel(made("solid"), 60, 70)).toEqual([168, 162, 150, 255]);
  expect(pixel(made("gone"), 60, 70)[3]).toBe(0);
  expect(pixel(made("gone"), 120, 70)[3]).toBe(255);
  const [r, g, b, a] = pixel(made("seeThrough"), 60, 70);
  const over = [r, g, b].map((v, k) => Math.round((v * a + [240, 232, 214][k] * (255 - a)) / 255));
  expect(over.map((v, k) => Math.abs(v - [168, 162, 150][k])).every((d) => d <= 1)).toBe(true);
});

test("a place on bare ground, or off the picture, changes nothing", () => {
  const clearing = before([240, 232, 214], [0, 0, 0], pane(0.3));
  const was = clearing.data.slice();
  runToEnd(seenThrough(clearing, [[0.02, 0.02]], "seeThrough"));
  expect(Buffer.compare(clearing.data, was)).toBe(0);
});

test("what was freed is no rim, no haze and no art that was lost to the checks; without it they tell of it", () => {
  const { source } = before([240, 232, 214], [0, 0, 0], thinning(0.6));
  const picked = [{ op: "pick", at: [0.01, 0.01], tolerance: 11 }];
  const told = (ops: object[]) => {
    const settings = { ops };
    const art = artFrom(source);
    const result = runStage("clear", art, settings);
    const { checks } = inspectStage("clear", result, settings, USUAL_LIMITS, art);
    return checks.filter((c) => c.level !== "fine").map((c) => c.id);
  };
  expect(told([...picked, { op: "through", at: [MIDDLE] }])).toEqual([]);
  expect(told([...picked, { op: "through", at: [MIDDLE], as: "gone" }])).toEqual([]);
  expect(told([{ ...picked[0], tolerance: 60 }])).toContain("lostArt");
});

test("what is held stays, and what a hand does afterwards is done to what was freed", () => {
  const { source } = before([240, 232, 214], [0, 0, 0], pane(0.3));
  const dab = (x: number, y: number) => [{ points: [[x / SIDE, y / SIDE]], sizeMm: 1.6 }];
  const through = { op: "through", at: [[50 / SIDE, 70 / SIDE]] };
  const picked = { op: "pick", at: [0.01, 0.01], tolerance: 5 };
  const alphaOf = (ops: object[]) => {
    const { colour } = runStage("clear", artFrom(source), { ops }) as ReturnType<typeof artFrom>;
    return (x: number, y: number) => colour.data[4 * (y * SIDE + x) + 3];
  };
  const held = alphaOf([picked, through, { op: "hold", strokes: dab(70, 70) }]);
  expect([held(70, 70), held(50, 70)]).toEqual([255, 77]);
  const eraser = { op: "brush", paints: "away", strokes: dab(70, 70) };
  const erased = alphaOf([picked, through, eraser]);
  expect([erased(70, 70), erased(50, 70)]).toEqual([0, 77]);
  // An eraser before it works on what was there then; the part is freed whole.
  expect(alphaOf([picked, eraser, through])(70, 70)).toBe(77);
});
