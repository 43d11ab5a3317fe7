import { MoveList } from "@hardline/core/machine/moves";
import { secondsIn, timelineOf } from "@hardline/core/machine/timeline";
import { runToEnd } from "@hardline/core/maths/work";
import { newBits } from "@hardline/core/raster/types";
import { clockText, timeText } from "../shared/time";
import { BurnedView } from "./burnedView";

const motion = { accelMmPerS2: 2000, cornerMm: 0.02 };

/** Three rows there and back, every second stretch marked, and a slanting line. */
function timeline() {
  const moves = new MoveList(0, 0);
  const go = (x: number, y: number, power: number) =>
    moves.add({ x, y, power, speed: 80, pause: 0, line: 1 });
  moves.beginPass("bitmap");
  for (let row = 0; row < 3; row++)
    for (let k = 0; k <= 10; k++) go(row % 2 ? 20 - 2 * k : 2 * k, 1 + row, k % 2);
  moves.beginPass("cut");
  go(2, 10, 0);
  go(18, 16, 1);
  return runToEnd(timelineOf(moves.done(), motion));
}

const viewOf = (of: ReturnType<typeof timeline>) =>
  new BurnedView(of, { left: 5, top: 90, scale: 5 }, 120, 100, [1, 0.4]);
function pixels(view: BurnedView): Uint8ClampedArray {
  const image = { width: 120, height: 100, data: new Uint8ClampedArray(48000) } as unknown as ImageData;
  view.draw(image, [10, 20, 30]);
  return image.data;
}

test("grown step by step, jumped to, and gone back to, a second of a run looks the same", () => {
  const of = timeline();
  const end = secondsIn(of);
  const [grown, jumped, back] = [viewOf(of), viewOf(of), viewOf(of)];
  for (let k = 0; k <= 57; k++) grown.upTo((end * 0.7 * k) / 57);
  jumped.upTo(end * 0.7);
  back.upTo(end);
  back.upTo(end * 0.7);
  const [a, b, c] = [grown, jumped, back].map(pixels);
  expect(Buffer.from(c).equals(Buffer.from(b))).toBe(true);
  // A stretch that a step ends in is laid down in two parts: a pixel at its seam may differ, the whole does not.
  const sum = (of: Uint8ClampedArray) => of.reduce((total, v, k) => total + (k % 4 === 3 ? v : 0), 0);
  expect(Math.abs(sum(a) / sum(b) - 1)).toBeLessThan(0.03);
  expect(b.some((v, k) => k % 4 === 3 && v > 200)).toBe(true);
});

test("marks are where the beam went, as wide as it is, and nowhere else", () => {
  const of = timeline();
  const view = viewOf(of);
  const [x, y] = view.upTo(secondsIn(of));
  expect([x, y]).toEqual([18, 16]);
  const data = pixels(view);
  const alpha = (mmX: number, mmY: number) =>
    data[4 * (Math.floor(90 - mmY * 5) * 120 + Math.floor(5 + mmX * 5)) + 3];
  // The first row is marked from 0 to 2, from 4 to 6 and so on, a millimetre wide.
  expect(alpha(1, 1)).toBe(255);
  expect(alpha(3, 1)).toBe(0);
  expect(alpha(10, 13)).toBeGreaterThan(100);
  expect(alpha(10, 8)).toBe(0);
});

test("times as people read them", () => {
  expect([0.42, 59.4, 90, 3599, 3900].map(timeText)).toEqual([
    "0.4 s",
    "59 s",
    "1 min 30 s",
    "59 min 59 s",
    "1 h 05 min",
  ]);
  expect([0, 65.25].map(clockText)).toEqual(["0:00.0", "1:05.3"]);
});

test("a film is played as its dots, at its own resolution, where the head has been", () => {
  // 20 x 10 mm at 127 dots to an inch, 5 to a millimetre; every dot of the left half but for a hole is marked.
  const bits = newBits(100, 50);
  for (let y = 0; y < 50; y++)
    for (let x = 0; x < 50; x++)
      if (!(x >= 20 && x < 30 && y >= 20 && y < 30)) bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
  const moves = new MoveList(0, 0);
  moves.beginPass("film");
  const swath = (y: number, from: number, to: number) => {
    moves.add({ x: from, y, power: 0, speed: 80, pause: 0, line: 1 });
    moves.add({ x: to, y, power: 1, speed: 80, pause: 0, line: 1 });
  };
  swath(12.5, 0, 10);
  swath(7.5, 10, 0);
  const of = runToEnd(timelineOf(moves.done(), motion));
  const view = new BurnedView(of, { left: 5, top: 90, scale: 5 }, 120, 100, [5]);
  view.through({ bits, dotsPerInch: 127, swathDots: 25 }, 0, 15);
  const alpha = (mmX: number, mmY: number) =>
    pixels(view)[4 * (Math.floor(90 - mmY * 5) * 120 + Math.floor(5 + mmX * 5)) + 3];
  view.upTo(secondsIn(of) / 2);
  expect([alpha(2, 13) > 250, alpha(2, 7)]).toEqual([true, 0]);
  view.upTo(secondsIn(of));
  expect([alpha(2, 13) > 250, alpha(2, 7) > 250, alpha(5, 10), alpha(12, 7)]).toEqual([true, true, 0, 0]);
});
