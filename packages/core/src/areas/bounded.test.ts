import { runToEnd } from "../maths/work";
import { areaAt, areaMap, boundedAreas } from "./bounded";
import { underInk } from "./underInk";

/** Pixels that a letter of a drawing stands for, each way: what is narrower than a few pixels is no area. */
const SIDE = 4;

/** Ink of a drawing in letters: # is a line, everything else is bare. */
function inkIn(rows: readonly string[]): { ink: Uint8Array; width: number; height: number } {
  const [width, height] = [SIDE * rows[0].length, SIDE * rows.length];
  const ink = new Uint8Array(width * height);
  for (let i = 0; i < ink.length; i++)
    ink[i] = rows[Math.floor(i / width / SIDE)][Math.floor((i % width) / SIDE)] === "#" ? 255 : 0;
  return { ink, width, height };
}
/** Areas of it as letters, by the order in which they are come to; a gap is told in letters. */
function shown(rows: readonly string[], gap: number): string[] {
  const { ink, width, height } = inkIn(rows);
  const { of, line } = runToEnd(boundedAreas(ink, width, height, 128, SIDE * gap));
  const letters = new Map<number, string>();
  return rows.map((row, y) =>
    Array.from(row, (_, x) => {
      const i = (SIDE * y + 2) * width + SIDE * x + 2;
      if (line[i]) return "#";
      if (!letters.has(of[i])) letters.set(of[i], "abcdefgh"[letters.size]);
      return letters.get(of[i])!;
    }).join(""),
  );
}

/** A box of 24 by 12 with a wall in its middle that has a gap of so many pixels. */
const walled = (gap: number): string[] =>
  Array.from({ length: 14 }, (_, y) =>
    y === 0 || y === 13
      ? "#".repeat(27)
      : `#${".".repeat(12)}${y > 6 - gap / 2 && y <= 6 + gap / 2 ? "." : "#"}${".".repeat(12)}#`,
  );

describe("areas", () => {
  test("closed lines part the picture", () => {
    const rows = shown(["#########", "#..#....#", "#..#....#", "#..#....#", "#########"], 0);
    expect(rows[2]).toBe("#aa#bbbb#");
  });

  test.each([2, 4])("a gap of %i pixels is closed where gaps so wide are, the colours meet in it", (gap) => {
    const rows = shown(walled(gap), gap);
    expect(rows[6][3]).toBe("a");
    expect(rows[6][22]).toBe("b");
    expect(rows[6][13]).toMatch(/[ab]/);
  });

  test("a wider gap is an opening", () => {
    const rows = shown(walled(6), 3);
    expect(rows[6][3]).toBe(rows[6][22]);
  });

  test("a corner that the ball does not reach belongs to the area that it opens to", () => {
    const side = 24;
    const rows = Array.from({ length: side }, (_, y) =>
      Array.from({ length: side }, (__, x) =>
        y === 0 || x === 0 || y === side - 1 || x >= y ? "#" : ".",
      ).join(""),
    );
    const found = new Set(shown(rows, 6).join("").replace(/#/g, ""));
    expect([...found]).toEqual(["a"]);
  });

  test("a narrow strip that is open to an area is a part of it; one that is shut off is its own", () => {
    const strip = (shut: boolean) =>
      Array.from({ length: 16 }, (_, y) =>
        Array.from({ length: 30 }, (__, x) => {
          const edge = y === 0 || x === 0 || y === 15 || x === 29;
          const wall = x >= 15 && (y === 7 || y === 10);
          return edge || wall || (shut && x === 15 && y > 7 && y < 10) ? "#" : ".";
        }).join(""),
      );
    const [open, shut] = [shown(strip(false), 6), shown(strip(true), 6)];
    expect(open[8][25]).toBe(open[8][5]);
    expect(shut[8][25]).not.toBe(shut[8][5]);
  });

  test("lines are shared between the areas beside them, in their middle", () => {
    const { ink, width, height } = inkIn(Array.from({ length: 9 }, () => "......####......"));
    const { of } = runToEnd(boundedAreas(ink, width, height, 128, 0));
    const row = Array.from(of.subarray(4 * width, 5 * width));
    // The line runs from 24 to 40.
    expect(new Set(row.slice(0, 32)).size).toBe(1);
    expect(new Set(row.slice(32)).size).toBe(1);
    expect(row[31]).not.toBe(row[32]);
  });

  test("a drawing without a line is one area; one of nothing but lines has none", () => {
    const bare = runToEnd(boundedAreas(new Uint8Array(64), 8, 8, 128, 3));
    expect([...new Set(bare.of)]).toEqual([0]);
    expect(bare.sizes).toEqual(Float64Array.of(64));
    const black = runToEnd(boundedAreas(new Uint8Array(64).fill(255), 8, 8, 128, 3));
    expect(black.sizes).toHaveLength(0);
    expect(areaAt(black, 4, 4, 3)).toBe(-1);
  });

  test("a place on a line is of the area within reach, else of none; off the picture of none", () => {
    const { ink, width, height } = inkIn(Array.from({ length: 9 }, () => "......####......"));
    const areas = runToEnd(boundedAreas(ink, width, height, 128, 0));
    expect(areaAt(areas, 26, 16, 4)).toBe(areaAt(areas, 2, 16, 0));
    expect(areaAt(areas, 30, 16, 4)).toBe(-1);
    expect(areaAt(areas, -1, 16, 9)).toBe(-1);
    expect(areaMap(areas, 16)).toMatchObject({ width: 16, height: 9 });
  });
});

describe("colour under ink", () => {
  // Two areas of 10 by 8 with a line between them that has a gap of one pixel.
  const [width, height] = [10, 19];
  const ink = Uint8Array.from({ length: width * height }, (_, i) =>
    Math.floor(i / width) === 9 && i % width !== 5 ? 255 : 0,
  );
  const areas = runToEnd(boundedAreas(ink, width, height, 128, 3));
  const upper = areaAt(areas, 2, 0, 0);
  const art = (alpha: (i: number) => number, grey: (i: number) => number) => {
    const data = new Uint8Array(4 * ink.length);
    for (let i = 0; i < ink.length; i++) data.set([grey(i), grey(i), grey(i), alpha(i)], 4 * i);
    return { width, height, data };
  };
  const coloured = (picture: ReturnType<typeof art>, more = {}) => {
    const of: ({ colour: string } | undefined)[] = [];
    of[upper] = { colour: "#c04020", ...more };
    return runToEnd(underInk(picture, areas, of));
  };
  const at = (picture: { data: Uint8Array }, x: number, y: number) =>
    Array.from(picture.data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4));

  test("ink on nothing covers; what is half covered is mixed, what is not coloured stays", () => {
    const made = coloured(
      art(
        (i) => (ink[i] ? 255 : i === 12 ? 128 : 0),
        () => 0,
      ),
    );
    expect(at(made, 0, 0)).toEqual([0xc0, 0x40, 0x20, 255]);
    expect(at(made, 2, 1)).toEqual([96, 32, 16, 255]);
    expect(at(made, 1, 9)).toEqual([0, 0, 0, 255]);
    expect(at(made, 3, 14)).toEqual([0, 0, 0, 0]);
  });
  test("a drawing on its paper comes to the same: the paper takes the colour", () => {
    const made = coloured(
      art(
        () => 255,
        (i) => (ink[i] ? 0 : i === 12 ? 127 : 255),
      ),
    );
    expect(at(made, 0, 0)).toEqual([0xc0, 0x40, 0x20, 255]);
    expect(at(made, 2, 1)).toEqual([96, 32, 16, 255]);
    expect(at(made, 3, 14)).toEqual([255, 255, 255, 255]);
  });
  test("a shade goes from one colour to the other, and no further", () => {
    const made = coloured(
      art(
        () => 0,
        () => 0,
      ),
      {
        shade: { colour: "#2040c0", from: [2, 0.5], to: [8, 0.5] },
      },
    );
    expect(at(made, 0, 0).slice(0, 3)).toEqual([0xc0, 0x40, 0x20]);
    expect(at(made, 9, 0).slice(0, 3)).toEqual([0x20, 0x40, 0xc0]);
    const blues = Array.from({ length: 10 }, (_, x) => at(made, x, 0)[2]);
    expect(blues).toEqual([...blues].sort((a, b) => a - b));
  });
});
