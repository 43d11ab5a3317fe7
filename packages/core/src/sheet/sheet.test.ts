import { runToEnd, drive } from "../maths/work";
import { rectangleKnots, roundKnots } from "../path/outline";
import { pathSetOf } from "../path/pathSet";
import { flattened, lengthOf, ringsOf } from "../path/flatten";
import { areaOf } from "../polygon/rings";
import { newBits } from "../raster/types";
import { arrange, sheetsOf } from "./arrange";
import { placed, type NestPiece, type Placing } from "./arrangement";
import { byBoxes } from "./boxes";
import { checkSheet } from "./checks";
import { sheetFiles } from "./files";
import { giveWay } from "./giveWay";
import { markPlaces } from "./marks";
import { Field, nest } from "./nest";
import { overlap, takeNoFit } from "./noFit";
import { type SheetPiece } from "./piece";
import { PlaceGrid } from "./placeGrid";
import { readSheet, readSheetBody } from "./sheetFile";
import { sheetJob } from "./sheetJob";

const square = (side: number) => Float64Array.of(0, 0, side, 0, side, side, 0, side);
const ell = Float64Array.of(0, 0, 20, 0, 20, 40, 60, 40, 60, 60, 0, 60);
const piece = (outline: Float64Array, count: number, turns = [0, 90, 180, 270]): NestPiece => {
  const xs = outline.filter((_, k) => k % 2 === 0);
  const ys = outline.filter((_, k) => k % 2 === 1);
  const box = { x: 0, y: 0, width: Math.max(...xs), height: Math.max(...ys) };
  return { outline, box, count, turns, mirror: false };
};
const stock = (width: number, height: number, sheets = 1) => ({
  room: { x: 0, y: 0, width, height },
  blocked: [],
  sheets,
});

describe("places where outlines would lie over each other", () => {
  test("two squares, by hand: everything nearer than a side", () => {
    const grid = new PlaceGrid(21, 21);
    takeNoFit(
      grid,
      square(4).map((v) => v + 5),
      square(3),
      0.5,
    );
    for (let y = 0; y < 21; y++)
      for (let x = 0; x < 21; x++) {
        const [u, v] = [x / 2, y / 2];
        expect([x, y, grid.isFree(x, y)]).toEqual([x, y, !(u >= 2 && u <= 9 && v >= 2 && v <= 9)]);
      }
  });

  test("against a plain look at every place: an L and a wedge", () => {
    const wedge = Float64Array.of(0, 0, 11.3, 2.1, 4.2, 9.7);
    const fixed = ell.map((v) => v / 4 + 12.03);
    const grid = new PlaceGrid(60, 60);
    takeNoFit(grid, fixed, wedge, 0.7);
    let taken = 0;
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 60; x++) {
        const over = overlap(
          fixed,
          wedge.map((v, k) => v + 0.7 * (k % 2 === 0 ? x : y)),
        );
        taken += +over;
        expect([x, y, !grid.isFree(x, y)]).toEqual([x, y, over]);
      }
    expect(taken).toBeGreaterThan(300);
  });

  test("a grid laid over another takes its places and no others, at every shift", () => {
    const small = new PlaceGrid(37, 3);
    small.take(0, 0, 36);
    small.take(1, 5, 5);
    small.take(2, 31, 33);
    for (const dx of [-40, -33, -1, 0, 1, 31, 32, 50, 90]) {
      const grid = new PlaceGrid(100, 5);
      grid.takeAll(small, dx, 1);
      for (let y = 0; y < 5; y++)
        for (let x = 0; x < 100; x++) {
          const [u, v] = [x - dx, y - 1];
          const set = u >= 0 && u < 37 && v >= 0 && v < 3 && !small.isFree(u, v);
          expect([dx, x, y, !grid.isFree(x, y)]).toEqual([dx, x, y, set]);
        }
    }
  });

  test("the nearest free place, against a look at all", () => {
    const grid = new PlaceGrid(50, 40);
    for (let y = 5; y < 35; y++) grid.take(y, 6, 44);
    const at = grid.nearest(20, 14)!;
    expect(Math.hypot(at[0] - 20, at[1] - 14)).toBe(10);
  });
});

describe("pieces on a sheet", () => {
  test("squares by their boxes, by hand", () => {
    const { placings } = byBoxes([piece(square(30), 9)], stock(100, 70), 2);
    expect(placings.map((p) => [p.xMm, p.yMm])).toEqual(
      [15, 47, 79].map((x) => [x, 15]).concat([15, 47, 79].map((x) => [x, 47])),
    );
  });

  test("L-shapes lie into one another: more than their boxes, none over another, none too near", () => {
    const pieces = [piece(ell, 100)];
    const found = runToEnd(nest(pieces, stock(400, 300), { spacingMm: 2, rounds: 8 }));
    const boxes = byBoxes(pieces, stock(400, 300), 2);
    expect(found.placings.length).toBeGreaterThan(1.15 * boxes.placings.length);
    const settings = readSheetBody({ stock: { widthMm: 400, heightMm: 300 }, marginMm: 0 });
    const checks = checkSheet(pieces, found.placings, settings, found.placings.length);
    expect(checks.map((c) => [c.id, c.level])).toEqual([
      ["sheetReach", "fine"],
      ["sheetOverlap", "fine"],
      ["sheetGrain", "fine"],
      ["sheetCopies", "fine"],
      ["sheetWaste", "fine"],
    ]);
  });

  test("better arrangements are told as they come, each better than the last", () => {
    const counts: number[] = [];
    runToEnd(
      nest([piece(ell, 100)], stock(400, 300), {
        ...{ spacingMm: 2, rounds: 8 },
        better: ({ placings }) => counts.push(placings.length),
      }),
    );
    expect(counts.length).toBeGreaterThan(1);
    expect(counts).toEqual([...counts].sort((a, b) => a - b));
  });

  test("what does not go on one sheet goes on the next, and the grain is kept", () => {
    const { placings, sheets } = runToEnd(
      nest([piece(ell, 30, [0])], stock(200, 200, 5), { spacingMm: 1, rounds: 2 }),
    );
    expect(placings).toHaveLength(30);
    expect(sheets).toBeGreaterThan(1);
    expect(placings.every((p) => p.turnDegrees === 0)).toBe(true);
  });

  test("what was put by hand stays, and others give way to what is dragged", () => {
    const pieces = [piece(square(30), 9)];
    const { placings } = byBoxes(pieces, stock(200, 200), 2);
    const to: Placing = { ...placings[0], xMm: 60, yMm: 40, kept: true };
    const out = runToEnd(giveWay(pieces, new Field(pieces, stock(200, 200), 2), placings, { at: 0, to }));
    expect(out[0]).toEqual(to);
    expect(out).toHaveLength(9);
    const settings = readSheetBody({ stock: { widthMm: 200, heightMm: 200 }, marginMm: 0 });
    const overlaps = checkSheet(pieces, out, settings, 9).find((c) => c.id === "sheetOverlap")!;
    expect(overlaps.level).toBe("fine");
    const untouched = out.filter((p, k) => k > 0 && p === placings[k]).length;
    expect(untouched).toBeGreaterThan(3);
    expect(untouched).toBeLessThan(8);
  });

  test("checks find what a hand did wrong", () => {
    const pieces = [piece(square(30), 4, [0])];
    const settings = readSheetBody({ stock: { widthMm: 200, heightMm: 200 }, turn: "none", marks: true });
    const at = (xMm: number, yMm: number, turnDegrees = 0): Placing => ({
      ...{ piece: 0, sheet: 0, xMm, yMm, turnDegrees, mirrored: false },
    });
    const placings = [at(100, 100), at(120, 110), at(5, 60, 90), at(20, 20)];
    const levels = Object.fromEntries(
      checkSheet(pieces, placings, settings, 6).map((c) => [c.id, [c.level, c.value]]),
    );
    expect(levels).toEqual({
      sheetReach: ["stop", 2],
      sheetOverlap: ["stop", 1],
      sheetGrain: ["stop", 1],
      sheetCopies: ["stop", 2],
      sheetWaste: ["look", 91],
      sheetMarks: ["stop", 1],
    });
  });
});

describe("files of sheets", () => {
  const disc = pathSetOf({ name: "cut", use: "through", colour: 0 }, [
    { knots: roundKnots(0, 0, 20, 20), closed: true },
  ]);
  const bits = newBits(200, 200);
  for (let y = 0; y < 100; y++) for (let x = 0; x < 200; x += 8) bits.data[y * bits.stride + (x >> 3)] = 0xf0;
  const round: SheetPiece = {
    ...{ name: "disc", outline: ringsOf(disc, 0.002)[0], box: { x: 0, y: 0, width: 20, height: 20 } },
    ...{ sets: [disc], bitmap: { bits, dotsPerInch: 254 }, print: null },
  };

  test("dots are laid down turned by quarters, every one of them; lines go with them", () => {
    const at = [0, 90, 180, 270].map((turnDegrees, k): Placing => ({
      ...{ piece: 0, sheet: 0, xMm: 20 + 30 * k, yMm: 20, turnDegrees, mirrored: k === 3 },
    }));
    const job = runToEnd(sheetJob("four", [round], at, { widthMm: 130, heightMm: 40 }));
    const dots = job.bitmaps[0].bits;
    const count = dots.data.reduce((sum, b) => sum + (b.toString(2).match(/1/g)?.length ?? 0), 0);
    expect(count).toBe(4 * 100 * 100);
    const marked = (xMm: number, yMm: number) =>
      (dots.data[Math.floor(yMm * 10) * dots.stride + (Math.floor(xMm * 10) >> 3)] >>
        (7 - (Math.floor(xMm * 10) & 7))) &
      1;
    // The marked half is the upper one; turned clockwise it lies to the right, below, to the left.
    const half = (x: number, y: number) =>
      Array.from({ length: 64 }, (_, k) => marked(x + (k % 8) / 10, y + Math.floor(k / 8) / 10)).some(
        (b) => b === 1,
      );
    expect([half(20, 13), half(20, 26)]).toEqual([true, false]);
    expect([half(56, 20), half(43, 20)]).toEqual([true, false]);
    expect([half(80, 26), half(80, 13)]).toEqual([true, false]);
    expect([half(103, 20), half(116, 20)]).toEqual([true, false]);
    expect(areaOf(ringsOf(job.sets[0], 0.0005))).toBeCloseTo(2 * Math.PI * 100, 0); // one of the four runs the other way
  });

  test("forty discs with dots and marks: as many files as sheets ask for, and readings that say where", async () => {
    const settings = readSheetBody({
      stock: { widthMm: 150, heightMm: 100, sheets: 9 },
      marks: true,
      rounds: 2,
    });
    const found = runToEnd(arrange([round], [40], settings));
    const sheets = sheetsOf("discs", [round], [40], settings, found);
    const files: Record<string, Uint8Array> = {};
    for await (const { name, bytes } of sheetFiles(sheets, (work) => drive(work))) files[name] = bytes;
    const last = found.sheets;
    expect(Object.keys(files)).toEqual([
      ...Array.from({ length: last }, (_, k) =>
        ["pdf", "bitmap.png", "cut.svg", "cut.dxf", "cut.plt", "cut.pdf"].map((e) => `sheet-${k + 1}.${e}`),
      ).flat(),
      "readings.json",
    ]);
    const readings = JSON.parse(new TextDecoder().decode(files["readings.json"]));
    expect(readings.placements).toHaveLength(40);
    expect(readings.usedShare).toBeCloseTo((40 * Math.PI * 100) / (readings.sheets * 150 * 100), 3);
    for (const { xMm, yMm } of readings.placements) {
      // Onto the sheet's own dots, to the micrometre.
      expect(Math.abs((xMm - 10) * 10 - Math.round((xMm - 10) * 10))).toBeLessThan(0.01);
      expect(Math.hypot(xMm - 12, yMm - 12)).toBeGreaterThan(10 + 3);
    }
  });

  test("a sheet's plot goes on past each line's beginning as far as the piece's own plot does", async () => {
    const square = [{ knots: rectangleKnots(0, 0, 10, 10), closed: true }];
    const plotted = async (overcutMm: number): Promise<string> => {
      const set = pathSetOf({ name: "cut", use: "through", colour: 0, overcutMm }, square);
      const piece = { ...round, sets: [set], bitmap: null, print: null };
      const settings = readSheetBody({ stock: { widthMm: 100, heightMm: 50 } });
      const found = runToEnd(arrange([piece], [1], settings));
      const sheets = sheetsOf("one", [piece], [1], settings, found);
      for await (const { name, bytes } of sheetFiles(sheets, (work) => drive(work)))
        if (name.endsWith(".plt")) return new TextDecoder().decode(bytes);
      return "none";
    };
    const line = (plot: string) => /PU([-\d]+),([-\d]+);\nPD([-\d,]+);/.exec(plot)!.slice(1);
    const [x, y, down] = line(await plotted(2));
    const places = down.split(",").map(Number);
    const end = places.slice(-2);
    expect(places.slice(-4, -2)).toEqual([Number(x), Number(y)]);
    // 2 mm are 80 units further along the first side.
    expect(Math.abs(end[0] - Number(x)) + Math.abs(end[1] - Number(y))).toBe(80);
    expect(
      line(await plotted(0))[2]
        .split(",")
        .slice(-2),
    ).toEqual([x, y]);
  });

  test("rows of rectangles share their lines: a third as many sides for many, none twice", () => {
    const set = pathSetOf({ name: "cut", use: "through", colour: 0 }, [
      { knots: rectangleKnots(0, 0, 30, 20), closed: true },
    ]);
    const card: SheetPiece = {
      ...{ name: "card", outline: ringsOf(set, 0.01)[0], box: { x: 0, y: 0, width: 30, height: 20 } },
      ...{ sets: [set], bitmap: null, print: null },
    };
    const settings = readSheetBody({
      stock: { widthMm: 110, heightMm: 80 },
      spacingMm: 0,
      commonLines: true,
      rounds: 0,
    });
    const found = runToEnd(arrange([card], [9], settings));
    const job = runToEnd(sheetJob("cards", [card], found.placings, settings.stock, true));
    const length = flattened(job.sets[0], 0.01).reduce((sum, line) => sum + lengthOf(line), 0);
    expect(found.placings).toHaveLength(9);
    expect(length).toBeCloseTo(4 * 90 + 4 * 60, 6);
    expect(job.sets[0].closed.length).toBe(8);
  });
});

describe("what a sheet's file may say", () => {
  test("marks stand in the corners, and of six in the middles of the long sides", () => {
    const entry = { shape: "disc", sizeMm: 6, count: 6, insetMm: 10, clearMm: 2 } as const;
    expect(markPlaces(entry, { widthMm: 200, heightMm: 100 })).toEqual([
      [10, 10],
      [190, 10],
      [10, 90],
      [190, 90],
      [100, 10],
      [100, 90],
    ]);
  });

  test("nonsense is refused with what is allowed", () => {
    const sheet = { format: "hard-line-sheet", version: 1, stock: { widthMm: 300, heightMm: 200 } };
    const pieces = [{ route: "a", artwork: "b", count: 1 }];
    expect(() => readSheet({ ...sheet, pieces: [] })).toThrow(
      "sheet: pieces is []; allowed: at least 1 entries",
    );
    expect(() => readSheet({ ...sheet, pieces, turn: "sideways" })).toThrow(
      /sheet: turn is "sideways"; allowed: .*free.*half.*none/,
    );
    expect(() => readSheet({ ...sheet, pieces, stock: { widthMm: 3, heightMm: 200 } })).toThrow(
      /stock.widthMm is 3; allowed: 20 or more/,
    );
    expect(() => readSheet({ ...sheet, pieces, colour: 1 })).toThrow(/colour/);
  });

  test("a piece that is kept lies where it was put", () => {
    const settings = readSheetBody({
      ...{ stock: { widthMm: 300, heightMm: 200 }, rounds: 1 },
      kept: [{ piece: 0, sheet: 0, xMm: 150, yMm: 100, turnDegrees: 90 }],
    });
    const outline = square(30);
    const found = runToEnd(
      arrange([{ outline, box: { x: 0, y: 0, width: 30, height: 30 }, bitmap: null }], [5], settings),
    );
    const [first, ...others] = found.placings;
    expect(first).toMatchObject({ xMm: 150, yMm: 100, turnDegrees: 90, kept: true });
    for (const other of others)
      expect(
        overlap(
          placed({ outline, box: { x: 0, y: 0, width: 30, height: 30 } }, other),
          square(30).map((v, k) => v + (k % 2 ? 85 : 135)),
        ),
      ).toBe(false);
  });
});
