import { runToEnd } from "../maths/work";
import { alongMiddles } from "./middle";
import { bitsOf, cleanStrokes, maskOf, moveEdges } from "./strokes";
import { randomGray } from "../testing/pictures";

const SIDE = 160;
const drawn = (at: (x: number, y: number) => boolean): Uint8Array =>
  Uint8Array.from({ length: SIDE * SIDE }, (_, i) => +at((i % SIDE) + 0.5, Math.floor(i / SIDE) + 0.5));
const area = (mask: Uint8Array): number => mask.reduce((a, b) => a + b, 0);

/** A straight bar through the middle, so wide, at an angle in degrees. */
function bar(wide: number, degrees: number, long = 110): Uint8Array {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return drawn((x, y) => {
    const [u, v] = [x - SIDE / 2 - 0.2, y - SIDE / 2 - 0.3];
    return Math.abs(u * s + v * c) < wide / 2 && Math.abs(u * c - v * s) < long / 2;
  });
}

function widths(mask: Uint8Array): number[] {
  const found: number[] = [];
  runToEnd(alongMiddles(mask, SIDE, SIDE, (_x, _y, wide) => found.push(wide)));
  return found.sort((a, b) => a - b);
}

describe("along the middle", () => {
  test.each([0, 17, 30, 45, 72, 90])("a bar at %d degrees is told its width", (degrees) => {
    for (const wide of [3, 4, 6.5, 11]) {
      const found = widths(bar(wide, degrees));
      expect(found.length).toBeGreaterThan(60);
      expect(Math.abs(found[found.length >> 1] - wide)).toBeLessThan(1);
    }
  });
  test("bars along the rows exactly, of odd and even width, one dot wide too", () => {
    for (const wide of [1, 2, 3, 8]) {
      const found = widths(drawn((x, y) => x > 20 && x < 120 && y > 40 && y < 40 + wide));
      expect(found[found.length >> 1]).toBe(wide);
      expect(found[0]).toBe(wide);
    }
  });
  test("the corners of wide shapes are no thin strokes", () => {
    // A corner that lies askew ends in a few dots by themselves, no more.
    for (const degrees of [0, 20, 45])
      expect(widths(bar(60, degrees, 70)).filter((w) => w < 50).length).toBeLessThan(9);
    expect(widths(drawn((x, y) => Math.hypot(x - 80, y - 80) < 50)).filter((w) => w < 95)).toEqual([]);
  });
  test("a neck between two wide parts is found, and how wide it is", () => {
    const found = widths(
      drawn(
        (x, y) =>
          Math.hypot(x - 40, y - 80) < 30 ||
          Math.hypot(x - 120, y - 80) < 30 ||
          (Math.abs(y - 80) < 2 && Math.abs(x - 80) < 40),
      ),
    );
    expect(found[0]).toBe(4);
  });
});

describe("strokes", () => {
  test("cleaning takes short specks and pinholes and keeps a hairline of fewer dots", () => {
    const mask = drawn((x, y) => {
      const hairline = y > 30 && y < 31 && x > 20 && x < 60;
      const block = x > 20 && x < 100 && y > 60 && y < 100;
      const pinhole = x > 50 && x < 53 && y > 70 && y < 73;
      const speck = x > 120 && x < 127 && y > 120 && y < 127;
      return hairline || (block && !pinhole) || speck;
    });
    const at = (x: number, y: number) => mask[y * SIDE + x];
    expect([at(40, 30), at(51, 71), at(123, 123)]).toEqual([1, 0, 1]);
    runToEnd(cleanStrokes(mask, SIDE, SIDE, 10));
    expect([at(40, 30), at(51, 71), at(123, 123), at(30, 65)]).toEqual([1, 1, 0, 1]);
  });

  test.each([1, 2, 3.5, -1, -2, -3.5])("edges move by %d dots, whichever way they run", (by) => {
    const disc = drawn((x, y) => Math.hypot(x - 80, y - 80) < 45);
    const radius = Math.sqrt(area(disc) / Math.PI);
    runToEnd(moveEdges(disc, SIDE, SIDE, by));
    expect(Math.abs(Math.sqrt(area(disc) / Math.PI) - radius - by)).toBeLessThan(0.3);
    for (const degrees of [0, 27, 45]) {
      const [before, after] = [bar(20, degrees, 400), bar(20, degrees, 400)];
      runToEnd(moveEdges(after, SIDE, SIDE, by));
      const wide = (mask: Uint8Array) => widths(mask)[widths(mask).length >> 1];
      expect(Math.abs(wide(after) - wide(before) - 2 * by)).toBeLessThan(1.1);
    }
  });

  test("a stroke too thin to lose so much keeps its middle", () => {
    const thin = drawn((x, y) => x > 20 && x < 120 && y > 50 && y < 53);
    runToEnd(moveEdges(thin, SIDE, SIDE, -4));
    const left = Array.from({ length: SIDE }, (_, x) => +thin.some((m, i) => m && i % SIDE === x));
    expect(left.reduce((a, b) => a + b)).toBeGreaterThan(90);
    expect(area(thin)).toBeLessThan(110);
  });

  test("bits and bytes are the same picture", () => {
    const mask = randomGray(37, 19, 3).data.map((g) => g & 1);
    expect(runToEnd(maskOf(runToEnd(bitsOf(mask, 37, 19))))).toEqual(mask);
  });
});
