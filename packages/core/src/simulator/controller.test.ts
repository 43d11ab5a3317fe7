import { runToEnd } from "../maths/work";
import { seeded } from "../maths/seeded";
import { BurnedDots, burnedLines } from "./burned";
import { Controller, type Made } from "./controller";
import { MoveList, type Move } from "../machine/moves";
import { placeAfter, secondsOf } from "../machine/motion";
import { moveAt, secondsIn, shareOf, timelineOf } from "../machine/timeline";

const motion = { accelMmPerS2: 2000, cornerMm: 0.02 };
const move = (x: number, y: number, power = 0, speed = 100, pause = 0): Move => ({
  x,
  y,
  power,
  speed,
  pause,
  line: 1,
});

function made(controller: Controller, moves: readonly Move[]): Made[] {
  const out = moves.flatMap((m, k) => controller.take({ ...m, line: k + 1 }));
  return [...out, ...controller.rest()];
}

describe("the inside of a simulated machine", () => {
  test("with all the look-ahead there is, and nothing of its own, it takes as long as is said", () => {
    const chance = seeded(4);
    const moves = Array.from({ length: 300 }, () =>
      move(100 * chance(), 100 * chance(), +(chance() > 0.5), 20 + 200 * chance()),
    );
    const controller = new Controller({ ...motion, lookAhead: 1000 });
    made(controller, moves);
    const list = new MoveList(0, 0);
    moves.forEach((m) => list.add(m));
    expect(controller.seconds).toBeCloseTo(secondsIn(runToEnd(timelineOf(list.done(), motion))), 6);
  });

  test("looking ahead no further than a move it is slower, never faster, and as exact", () => {
    const moves = Array.from({ length: 200 }, (_, k) => move((k + 1) / 2, 0, 1));
    const [far, near] = [
      new Controller({ ...motion, lookAhead: 500 }),
      new Controller({ ...motion, lookAhead: 1 }),
    ];
    const [a, b] = [made(far, moves), made(near, moves)];
    expect(near.seconds).toBeGreaterThan(far.seconds);
    const length = (of: Made[]) =>
      of.flatMap((m) => m.burned).reduce((sum, s) => sum + Math.abs(s.x1 - s.x0), 0);
    expect(length(a)).toBeCloseTo(100, 9);
    expect(length(b)).toBeCloseTo(100, 9);
  });

  test("a beam that answers late marks later along the way, by speed times delay", () => {
    const controller = new Controller({ ...motion, lookAhead: 100, responseMs: 2 });
    const moves = [move(20, 0), move(30, 0, 1), move(60, 0)];
    const [burned] = [made(controller, moves).flatMap((m) => m.burned)];
    expect(Math.min(...burned.map((s) => s.x0))).toBeCloseTo(20.2, 6);
    expect(Math.max(...burned.map((s) => s.x1))).toBeCloseTo(30.2, 6);
  });

  test("a moment to come to rest, a moment for every move", () => {
    const plain = new Controller({ ...motion, lookAhead: 100 });
    const slow = new Controller({ ...motion, lookAhead: 100, settleSeconds: 0.01, leastSeconds: 0.5 });
    const moves = [move(10, 0), move(10.001, 0), move(0, 0)];
    made(plain, moves);
    made(slow, moves);
    expect(slow.seconds).toBeGreaterThan(plain.seconds + 0.5);
  });

  test("a row is not begun before its end is known, and what waits is forgotten when the line is lost", () => {
    const controller = new Controller({ ...motion, lookAhead: 1000 });
    expect(controller.take(move(10, 0))).toEqual([]);
    for (let k = 0; k < 50; k++) expect(controller.take(move(11 + k, 0, k % 2))).toEqual([]);
    controller.halt();
    expect([controller.waits, controller.place]).toEqual([0, [0, 0]]);
    expect(controller.rest()).toEqual([]);
    controller.standAt(5, 6, 7);
    expect([controller.place, controller.seconds]).toEqual([[5, 6], 7]);
  });
});

describe("where a head is", () => {
  test("its place grows from the beginning of a move to its end, and ends there", () => {
    const [length, from, most, to] = [30, 20, 100, 10];
    const seconds = secondsOf(length, from, most, to, 2000);
    let last = 0;
    for (let k = 0; k <= 100; k++) {
      const at = placeAfter((seconds * k) / 100, length, from, most, to, 2000);
      expect(at).toBeGreaterThanOrEqual(last - 1e-12);
      last = at;
    }
    expect(last).toBeCloseTo(length, 9);
  });

  test("at every second of a run it is in one move, and each move begins where the last ended", () => {
    const list = new MoveList(0, 0);
    [move(30, 0), move(30, 20, 1, 50), move(30, 20, 0, 100, 0.25), move(0, 0)].forEach((m) => list.add(m));
    const timeline = runToEnd(timelineOf(list.done(), motion));
    for (let k = 0; k < 4; k++) {
      expect(moveAt(timeline, timeline.start[k] + 1e-9)).toBe(k);
      if (timeline.length[k] > 0) expect(shareOf(timeline, k, timeline.start[k + 1])).toBeCloseTo(1, 6);
    }
    expect(shareOf(timeline, 2, timeline.start[2] + 0.1)).toBe(0); // it still stands
  });
});

describe("what was burned", () => {
  const grid = { width: 10, height: 4, dotsPerInch: 254, xMm: 5, topMm: 20 };

  test("a dot is burned when the beam went over its middle, whichever way", () => {
    const dots = new BurnedDots(grid);
    // Row 1 lies 0.15 mm under the top; dots 2 and 3 have their middles at 5.25 and 5.35.
    expect(dots.add({ x0: 5.2, y0: 19.85, x1: 5.4, y1: 19.85 })).toBe(true);
    expect(dots.add({ x0: 5.5, y0: 19.85, x1: 5.34, y1: 19.85 })).toBe(true);
    expect([...dots.times.subarray(10, 20)]).toEqual([0, 0, 1, 2, 1, 0, 0, 0, 0, 0]);
    expect(dots.twice).toBe(1);
    expect([...dots.bits.data.subarray(2, 4)]).toEqual([0b00111000, 0]);
  });

  test("what lies between rows, beyond the grid or across is no dot", () => {
    const dots = new BurnedDots(grid);
    expect(dots.add({ x0: 5.2, y0: 19.9, x1: 5.4, y1: 19.9 })).toBe(false);
    expect(dots.add({ x0: 5.2, y0: 25.05, x1: 5.4, y1: 25.05 })).toBe(false);
    expect(dots.add({ x0: 5.2, y0: 19.85, x1: 5.4, y1: 19.5 })).toBe(false);
    expect(dots.twice + dots.times.reduce((a, b) => a + b, 0)).toBe(0);
  });

  test("stretches that hang together are one line", () => {
    const at = (x0: number, x1: number) => ({ x0, y0: 0, x1, y1: 0, power: 1 });
    expect(burnedLines([at(0, 1), at(1, 2), at(5, 6)]).map((l) => [...l])).toEqual([
      [0, 0, 1, 0, 2, 0],
      [5, 0, 6, 0],
    ]);
  });
});
