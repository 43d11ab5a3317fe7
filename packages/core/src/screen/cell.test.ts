import { runToEnd } from "../maths/work";
import { countMarks } from "../raster/bits";
import { bitAt, newGray, type Bits } from "../raster/types";
import { maskOf } from "../line/strokes";
import { componentsOf } from "../region/components";
import { openBySquare } from "../region/opening";
import { mostOfCell, screenMask, superCell, type Screen } from "./cell";
import { DOT_NAMES } from "./dotShapes";
import { markByMask } from "./mask";

const screen = (more: Partial<Screen> = {}): Screen => ({
  ...{ linesPerInch: 45, angle: 22.5, dot: "round", dotsPerInch: 720, smallestMark: 1, smallestGap: 1 },
  ...more,
});

function even(g: number, width: number, height: number, of: Screen, top = 0): Bits {
  const gray = newGray(width, height);
  gray.data.fill(g);
  return runToEnd(markByMask(gray, runToEnd(screenMask(of)), top));
}

describe("the supercell", () => {
  test.each([
    [300, 30, 0],
    [720, 45, 22.5],
    [254, 45, 45],
    [1440, 85, 15],
    [333, 28, 171],
    [600, 33.3, -30],
  ])(
    "at %d dots and %d lines an inch and %d degrees has ruling and angle as asked",
    (dotsPerInch, lpi, angle) => {
      const { cells, along, up, dots } = superCell({ dotsPerInch, linesPerInch: lpi, angle });
      const side = Math.hypot(along, up) / cells;
      expect(Math.abs(dotsPerInch / side / lpi - 1)).toBeLessThan(0.002);
      const off = (Math.atan2(up, along) * 180) / Math.PI - angle;
      expect(Math.abs(off - 360 * Math.round(off / 360))).toBeLessThan(0.1);
      expect(dots).toBe(along * along + up * up);
      expect(dots).toBeGreaterThanOrEqual(256);
    },
  );

  test("its mask repeats along both of its sides, and nowhere is a dot without a threshold", () => {
    const of = screen({ linesPerInch: 60, angle: 33, dotsPerInch: 300 });
    const { along, up } = superCell(of);
    const bits = even(97, 700, 700, of);
    for (let k = 0; k < 400; k++) {
      const [x, y] = [200 + ((k * 37) % 150), 200 + ((k * 53) % 150)];
      expect(bitAt(bits, x + along, y - up)).toBe(bitAt(bits, x, y));
      expect(bitAt(bits, x - up, y - along)).toBe(bitAt(bits, x, y));
    }
    expect(runToEnd(screenMask(of)).thresholds.every((t) => t > 0)).toBe(true);
  });
});

describe.each(DOT_NAMES)("%s dots", (dot) => {
  test("cover what the grey asks for, at every grey, with all of its tones", () => {
    const of = screen({ dot, linesPerInch: 45, dotsPerInch: 254, angle: 15 });
    const mask = runToEnd(screenMask(of));
    const shares = Array.from({ length: 256 }, (_, g) => {
      const gray = newGray(mask.width, mask.height);
      gray.data.fill(g);
      return countMarks(runToEnd(markByMask(gray, mask))) / (mask.width * mask.height);
    });
    shares.forEach((share, g) => expect(Math.abs(share - (255 - g) / 255)).toBeLessThan(0.0005));
    expect(new Set(shares).size).toBe(256);
  });
});

/** How many of the marks (or gaps) that lie wholly inside hold no square of that side. */
function withoutSquare(bits: Bits, value: 0 | 1, side: number): { marks: number; small: number } {
  const { width, height } = bits;
  const mask = runToEnd(maskOf(bits)).map((m) => +(m === value));
  const wide = mask.slice();
  runToEnd(openBySquare(wide, width, height, side));
  const rowAt = (y: number, row: Uint8Array) => {
    for (let x = 0, i = y * width; x < width; x++, i++) row[x] = mask[i] + wide[i];
  };
  const inside = runToEnd(componentsOf(width, height, rowAt)).filter(
    (c) => c.x > 0 && c.y > 0 && c.x + c.width < width && c.y + c.height < height,
  );
  return { marks: inside.length, small: inside.filter((c) => c.strong === 0).length };
}

describe("smallest mark and smallest gap", () => {
  const held = screen({ linesPerInch: 60, angle: 31, dotsPerInch: 720, smallestMark: 3, smallestGap: 4 });
  test.each([254, 252, 248, 240, 225, 200])(
    "at grey %d every mark holds the square, at the same tone",
    (g) => {
      const bits = even(g, 400, 400, held);
      const { marks, small } = withoutSquare(bits, 1, 3);
      expect(marks).toBeGreaterThan(4);
      expect(small).toBe(0);
      expect(Math.abs(countMarks(bits) / 160000 - (255 - g) / 255)).toBeLessThan(0.004);
    },
  );
  test.each([1, 4, 9, 20])("at grey %d every gap does", (g) => {
    const { marks, small } = withoutSquare(even(g, 400, 400, held), 0, 4);
    expect(marks).toBeGreaterThan(4);
    expect(small).toBe(0);
  });
  test("without them the palest tones have smaller ones", () => {
    expect(withoutSquare(even(250, 300, 300, screen()), 1, 3).small).toBeGreaterThan(10);
  });
  test("what a cell has room for", () => {
    expect(mostOfCell({ linesPerInch: 45, dotsPerInch: 720 })).toBe(7);
    expect(mostOfCell({ linesPerInch: 100, dotsPerInch: 300 })).toBe(1);
  });
});

test("a part of the rows is marked as it is in the whole", () => {
  const of = screen({ angle: 37, linesPerInch: 52 });
  const [whole, part] = [even(140, 90, 80, of), even(140, 90, 30, of, 23)];
  let other = 0;
  for (let y = 0; y < 30; y++)
    for (let x = 0; x < 90; x++) other += +(bitAt(part, x, y) !== bitAt(whole, x, y + 23));
  expect(other).toBe(0);
});

test("line dots run along the angle, ellipses join along it first", () => {
  const lines = even(128, 128, 128, screen({ dot: "line", angle: 0 }));
  const boxes = (bits: Bits) =>
    runToEnd(
      componentsOf(128, 128, (y, row) => {
        for (let x = 0; x < 128; x++) row[x] = bitAt(bits, x, y);
      }),
    );
  expect(boxes(lines).length).toBe(8);
  for (const { width, height } of boxes(lines)) {
    expect(width).toBe(128);
    expect(height).toBeLessThan(10);
  }
  // Where ellipses have joined along x and not along y, a chain is as long as the picture.
  const chains = even(128, 128, 128, screen({ dot: "ellipse", angle: 0 }));
  const found = boxes(chains);
  expect(Math.max(...found.map((c) => c.width))).toBe(128);
  expect(Math.max(...found.map((c) => c.height))).toBeLessThan(20);
});
