import { runToEnd } from "../maths/work";
import { clearingFrom, pictureOf } from "../testing/clearings";
import { bringBack } from "./bringBack";
import { type Clearing } from "./clearing";
import { lostParts } from "./lostParts";
import { pick } from "./pick";

const SIDE = 160;
const WALL = [226, 222, 214] as const;
const INK = [40, 60, 120] as const;
/** So far from the wall, in code values. */
const paleBy = (by: number) => [WALL[0] - by, WALL[1], WALL[2]] as const;
const inDisc = (x: number, y: number, cx: number, cy: number, r: number) =>
  (x - cx) ** 2 + (y - cy) ** 2 <= r * r;
const grainAt = (x: number, y: number, k: number) => (((x * 7919 + y * 104729 + k * 31) >>> 2) % 5) - 2;

type At = (x: number, y: number) => readonly [number, number, number];
/** A picture with two code values of grain, whose light falls off to the right. */
const shot = (at: At, fall = 0) =>
  pictureOf(SIDE, SIDE, (x, y) => {
    const of = (k: number) => Math.round(at(x, y)[k] * (1 - (fall * x) / SIDE)) + grainAt(x, y, k);
    return [of(0), of(1), of(2)];
  });
function picked(source: ReturnType<typeof shot>, tolerance: number): Clearing {
  const clearing = clearingFrom(source);
  const { mask } = runToEnd(pick(source, 0, 0, tolerance, true));
  mask.forEach((taken, i) => {
    if (!taken) return;
    clearing.taken[i] = 1;
    clearing.data[4 * i + 3] = 0;
  });
  return clearing;
}
const partsOf = ({ source, data }: Clearing, meant: Uint8Array | null = null) =>
  runToEnd(lostParts(source, data, meant));

/** A disc of ink, with a pale one at its right. */
const withBelly =
  (pale: readonly [number, number, number]): At =>
  (x, y) =>
    inDisc(x, y, 60, 80, 30) ? INK : inDisc(x, y, 95, 80, 16) ? pale : WALL;

test("a pale part that a pick took is found, with the pixels that are not right beside what is left", () => {
  const parts = partsOf(picked(shot(withBelly(paleBy(24))), 20))!;
  expect(parts).toHaveLength(1);
  // The disc without what the ink covers of it; its outermost pixels lie among as many of the ground.
  let area = 0;
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) if (inDisc(x, y, 95, 80, 16) && !inDisc(x, y, 60, 80, 30)) area++;
  expect(parts[0].pixels).toBeGreaterThan(0.6 * area);
  expect(parts[0].pixels).toBeLessThanOrEqual(area);
  expect(parts[0].strong).toBeLessThan(parts[0].pixels);
  const [x, y] = parts[0].seed;
  expect(inDisc(x, y, 95, 80, 16)).toBe(true);
});

test("what differs by no more than grain does, light that falls off and a hole in the art are no parts", () => {
  expect(partsOf(picked(shot(withBelly(paleBy(3))), 20))).toEqual([]);
  expect(
    partsOf(
      picked(
        shot((x, y) => (inDisc(x, y, 80, 80, 40) ? INK : WALL), 0.15),
        30,
      ),
    ),
  ).toEqual([]);
  const ring: At = (x, y) => (inDisc(x, y, 80, 80, 40) && !inDisc(x, y, 80, 80, 20) ? INK : WALL);
  const clearing = picked(shot(ring), 12);
  for (let i = 0; i < SIDE * SIDE; i++)
    if (inDisc(i % SIDE, Math.floor(i / SIDE), 80, 80, 19)) clearing.data[4 * i + 3] = 0;
  expect(partsOf(clearing)).toEqual([]);
});

test("a part is found where the light falls off, and where nothing of the art is left beside it", () => {
  const alone: At = (x, y) =>
    inDisc(x, y, 40, 40, 20) ? INK : inDisc(x, y, 120, 120, 14) ? paleBy(30) : WALL;
  const parts = partsOf(picked(shot(alone, 0.12), 34))!;
  expect(parts).toHaveLength(1);
  expect(
    Math.hypot(parts[0].x + parts[0].width / 2 - 120.5, parts[0].y + parts[0].height / 2 - 120.5),
  ).toBeLessThan(2);
});

test("what a hand took away is not asked about", () => {
  const clearing = picked(shot(withBelly(paleBy(24))), 20);
  const meant = new Uint8Array(SIDE * SIDE);
  for (let i = 0; i < meant.length; i++) if (i % SIDE > 70) meant[i] = 1;
  expect(partsOf(clearing, meant)).toEqual([]);
});

test("before a ground of many colours nothing is told", () => {
  const tiles: At = (x, y) => {
    const n = (Math.floor(x / 10) * 7 + Math.floor(y / 10) * 13) % 9;
    return [60 + 20 * n, 220 - 18 * n, 90 + 15 * ((n * 4) % 9)];
  };
  const clearing = clearingFrom(shot(tiles));
  for (let i = 0; i < SIDE * SIDE; i++) if (i % SIDE > 40) clearing.data[4 * i + 3] = 0;
  expect(partsOf(clearing)).toBeNull();
});

test("a part comes back by a place in it, as it was; others stay away, and so does the ground", () => {
  const two: At = (x, y) =>
    inDisc(x, y, 60, 80, 30)
      ? INK
      : inDisc(x, y, 95, 80, 16) || inDisc(x, y, 60, 130, 14)
        ? paleBy(24)
        : WALL;
  const clearing = picked(shot(two), 20);
  const before = partsOf(clearing)!;
  expect(before).toHaveLength(2);
  runToEnd(
    bringBack(clearing, [
      [95 / SIDE, 80 / SIDE],
      [0.02, 0.02],
    ]),
  );
  const at = (x: number, y: number) => {
    const i = y * SIDE + x;
    return [clearing.data[4 * i + 3], clearing.taken[i], clearing.data[4 * i]];
  };
  for (let i = 0; i < SIDE * SIDE; i++) {
    const [x, y] = [i % SIDE, Math.floor(i / SIDE)];
    if (inDisc(x, y, 95, 80, 13) && !inDisc(x, y, 60, 80, 32))
      expect(at(x, y)).toEqual([255, 0, clearing.source.data[4 * i]]);
    if (!inDisc(x, y, 95, 80, 18) && !inDisc(x, y, 60, 80, 32)) expect(at(x, y)[0]).toBe(0);
  }
  expect(partsOf(clearing)).toHaveLength(1);
});
