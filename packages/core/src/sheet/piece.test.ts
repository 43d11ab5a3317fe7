import { newRgba, type Rgba } from "../raster/types";
import { readRoute } from "../route/route";
import { Runner } from "../route/runner";
import { sheetPiece } from "./piece";
import { withCommonLines } from "./commonLines";
import { runToEnd } from "../maths/work";
import { rectangleKnots, roundKnots } from "../path/outline";
import { pathSetOf } from "../path/pathSet";
import { byBoxes } from "./boxes";
import { copyAt, giveWay } from "./giveWay";
import { Field } from "./nest";
import { onDots, ontoSheet } from "./sheetJob";
import { readSheetBody, spacingOf, stockOf, turnsOf } from "./sheetFile";

/** A blue disc of 80 pixels in a clear picture of 120 by 100. */
function disc(): Rgba {
  const art = newRgba(120, 100);
  for (let y = 0; y < 100; y++)
    for (let x = 0; x < 120; x++)
      if (Math.hypot(x - 59.5, y - 49.5) < 40) art.data.set([30, 60, 160, 255], 4 * (y * 120 + x));
  return art;
}

const piece = (stages: readonly object[], bleedMm = 0) => {
  const route = readRoute({ format: "hard-line-route", version: 1, name: "Piece", stages });
  const facts = { sha256: "0".repeat(64), width: 120, height: 100, vector: false };
  return sheetPiece(new Runner({}), route, { facts, pixels: async () => disc() }, { bleedMm });
};

describe("a route as a piece for sheets", () => {
  test("dots and their cut line", async () => {
    const made = await piece([
      { stage: "size", widthMm: 24, dotsPerInch: 127 },
      { stage: "blackWhite", method: "line" },
      { stage: "cutLine", offsetMm: 2 },
    ]);
    expect(made.bitmap!.bits.width).toBe(120);
    expect(made.print).toBeNull();
    expect(made.box.width).toBeCloseTo(16 + 4, 1);
    expect(made.sets.map((s) => s.use)).toEqual(["through"]);
  });

  test("a print limited to its line, and beyond it by the bleed", async () => {
    const stages = [
      { stage: "size", widthMm: 24, dotsPerInch: 127 },
      { stage: "cutLine", offsetMm: 2, kind: "kiss", print: { under: "colour", colour: "#ffcc00" } },
    ];
    const [plain, bled] = [await piece(stages), await piece(stages, 1)];
    expect(plain.print!.widthMm).toBeCloseTo(20, 0);
    expect(bled.print!.widthMm).toBeCloseTo(22, 0);
    expect(bled.box.width).toBeCloseTo(plain.box.width, 6); // the line stays
    const { picture } = bled.print!;
    const middle = 4 * (Math.floor(picture.height / 2) * picture.width);
    const at = (x: number) => [...picture.data.subarray(middle + 4 * x, middle + 4 * x + 4)];
    expect(at(4)).toEqual([255, 204, 0, 255]);
    expect(at(Math.floor(picture.width / 2))).toEqual([30, 60, 160, 255]);
    expect(picture.data[3]).toBe(0);
  });

  test("without a cut line the piece's own edge is its outline", async () => {
    const made = await piece([{ stage: "size", widthMm: 24, dotsPerInch: 127 }]);
    expect(made.box).toEqual({ x: 0, y: 0, width: expect.closeTo(24, 6), height: expect.closeTo(20, 6) });
    expect(made.sets).toEqual([]);
    expect(made.print).not.toBeNull();
  });
});

describe("settings of a sheet", () => {
  const body = (more: object) => readSheetBody({ stock: { widthMm: 300, heightMm: 200 }, ...more });

  test("the room is what margins and the machine leave, whichever is more", () => {
    const reach = { leftMm: 20, topMm: 0, rightMm: 3, bottomMm: 30 };
    expect(stockOf(body({ marginMm: 5 }), reach).room).toEqual({ x: 20, y: 5, width: 275, height: 165 });
  });

  test("marks keep themselves free, and the bleed with them", () => {
    const marks = { shape: "square", sizeMm: 6, count: 3, insetMm: 15, clearMm: 2 };
    const { blocked } = stockOf(body({ marks, bleedMm: 1 }));
    expect(blocked).toHaveLength(3);
    expect(blocked[0]).toEqual({ x: 9, y: 9, width: 12, height: 12 });
  });

  test("nothing that is printed beyond a line may reach a neighbour's", () => {
    expect(spacingOf(body({ spacingMm: 1, bleedMm: 2 }))).toBe(4);
    expect(spacingOf(body({ spacingMm: 5, bleedMm: 2 }))).toBe(5);
  });

  test("turning, or the grain", () => {
    expect([turnsOf(body({})), turnsOf(body({ turn: "half" })), turnsOf(body({ turn: "none" }))]).toEqual([
      [0, 90, 180, 270],
      [0, 180],
      [0],
    ]);
  });
});

describe("copies on a sheet", () => {
  const box = { x: 0, y: 0, width: 20, height: 10 };
  const outline = Float64Array.of(0, 0, 20, 0, 20, 10, 0, 10);
  const at = (xMm: number, yMm: number, turnDegrees = 0, mirrored = false) => ({
    ...{ piece: 0, sheet: 0, xMm, yMm, turnDegrees, mirrored },
  });

  test("places of a piece turn clockwise about its middle, and mirror across it", () => {
    const onto = (turn: number, mirrored = false) => ontoSheet({ box }, at(100, 50, turn, mirrored))(20, 5);
    expect([onto(0), onto(90), onto(180), onto(0, true)]).toEqual([
      [110, 50],
      [100, 60],
      [90, 50],
      [90, 50],
    ]);
    const [x, y] = onto(45);
    expect([x, y]).toEqual([
      expect.closeTo(100 + 10 * Math.SQRT1_2, 9),
      expect.closeTo(50 + 10 * Math.SQRT1_2, 9),
    ]);
  });

  test("a copy with dots is moved by less than half a dot, whichever way it lies", () => {
    const bitmap = { bits: { width: 1, height: 1, stride: 1, data: new Uint8Array(1) }, dotsPerInch: 254 };
    for (const turn of [0, 90, 180, 270]) {
      const moved = onDots({ box, bitmap }, at(33.333, 21.077, turn));
      const [x, y] = ontoSheet({ box }, moved)(0, 0);
      expect([x * 10, y * 10]).toEqual([
        expect.closeTo(Math.round(x * 10), 6),
        expect.closeTo(Math.round(y * 10), 6),
      ]);
      expect(Math.abs(moved.xMm - 33.333)).toBeLessThanOrEqual(0.05);
    }
    expect(onDots({ box, bitmap: null }, at(1.23, 4.56))).toEqual(at(1.23, 4.56));
  });

  test("the copy under the pointer, or none", () => {
    const pieces = [{ outline, box, count: 2, turns: [0], mirror: false }];
    const placings = [at(20, 20), at(60, 20, 90)];
    expect([
      copyAt(pieces, placings, 0, 28, 23),
      copyAt(pieces, placings, 0, 62, 29),
      copyAt(pieces, placings, 0, 40, 40),
    ]).toEqual([0, 1, -1]);
    expect(copyAt(pieces, placings, 1, 28, 23)).toBe(-1);
  });

  test("what was put by hand gives way to nobody", () => {
    const pieces = [{ outline, box, count: 4, turns: [0], mirror: false }];
    const stock = { room: { x: 0, y: 0, width: 100, height: 60 }, blocked: [], sheets: 1 };
    const { placings } = byBoxes(pieces, stock, 2);
    const kept = placings.map((p, k) => (k === 1 ? { ...p, kept: true as const } : p));
    const to = { ...kept[0], xMm: kept[1].xMm, yMm: kept[1].yMm, kept: true as const };
    const out = runToEnd(giveWay(pieces, new Field(pieces, stock, 2), kept, { at: 0, to }));
    expect(out[1]).toEqual(kept[1]);
  });
});

describe("lines that rectangles share", () => {
  const set = (...boxes: readonly (readonly [number, number, number, number])[]) =>
    pathSetOf(
      { name: "cut", use: "through", colour: 0 },
      boxes.map(([x, y, w, h]) => ({ knots: rectangleKnots(x, y, w, h), closed: true })),
    );

  test("two side by side, by hand: three lines down, two across", () => {
    const shared = withCommonLines(set([0, 0, 10, 20], [10, 0, 10, 20]));
    const lines = Array.from(shared.closed, (_, k) => {
      const p = shared.points;
      const [a, b] = [2 * shared.starts[k], 2 * (shared.starts[k + 1] - 1)];
      return [p[a], p[a + 1], p[b], p[b + 1]];
    });
    expect(lines.sort((a, b) => a[0] - b[0] || a[1] - b[1] || a[2] - b[2])).toEqual([
      [0, 0, 0, 20],
      [0, 0, 20, 0],
      [0, 20, 20, 20],
      [10, 0, 10, 20],
      [20, 0, 20, 20],
    ]);
  });

  test("apart they share nothing, and what is no rectangle stays", () => {
    expect(withCommonLines(set([0, 0, 10, 10], [12, 0, 10, 10])).closed).toHaveLength(8);
    const round = pathSetOf({ name: "cut", use: "through", colour: 0 }, [
      { knots: roundKnots(0, 0, 9, 9), closed: true },
    ]);
    expect(withCommonLines(round)).toBe(round);
  });
});
