import { runToEnd } from "../maths/work";
import { flattened, lengthOf, ringsOf } from "../path/flatten";
import { rectangleKnots, roundKnots } from "../path/outline";
import { knotPathsOf, pathSetOf, type PathSet } from "../path/pathSet";
import { evenOdd, without } from "../polygon/clip";
import { holesOf } from "../polygon/islands";
import { areaOf, ringBox } from "../polygon/rings";
import { furtherTurn } from "../turn/further";
import { readyFonts } from "../letters/shelf";
import { FONTS } from "../testing/shippedFont";
import { editsTurned, pathEdit, type PathEdit } from "./operations";
import { withEdits } from "./withEdits";

const ON = { finish: { widthMm: 100, heightMm: 50 }, frame: { x: 0, y: 0, width: 1, height: 1 } };
const at = (x: number, y: number): [number, number] => [x / 100, y / 50];
const look = { name: "trace", use: "fill", colour: 0 } as const;
const box = (x: number, y: number, w: number, h: number) => ({
  knots: rectangleKnots(x, y, w, h),
  closed: true,
});
const disc = (x: number, y: number, d: number) => ({ knots: roundKnots(x, y, d, d), closed: true });
/** A square with a round hole, a bar, and a disc. */
const SET = pathSetOf(look, [box(10, 10, 10, 10), disc(13, 13, 4), box(30, 20, 20, 4), disc(70, 30, 10)]);
const [RING, BAR, DISC] = [at(10, 15), at(30, 22), at(70, 35)];

const edited = (edits: readonly object[], set: PathSet = SET) =>
  runToEnd(
    withEdits(
      [set],
      edits.map((e) => pathEdit.parse(e)),
      ON,
    ),
  );
const boxesOf = (edits: readonly object[], set?: PathSet) =>
  knotPathsOf(edited(edits, set).sets[0]).map((path) => {
    const { x, y, width, height } = ringBox(ringsOf(pathSetOf(look, [path]), 0.001)[0]);
    return [x, y, width, height].map((v) => Math.round(v * 1000) / 1000);
  });
const areaAfter = (edits: readonly object[], set?: PathSet) =>
  areaOf(evenOdd(ringsOf(edited(edits, set).sets[0], 0.001)));

describe("shapes are changed", () => {
  test("turned about a place, holes with them", () => {
    const [square, hole] = boxesOf([{ edit: "transform", at: [RING], about: at(20, 20), turnDegrees: 90 }]);
    expect(square).toEqual([20, 10, 10, 10]);
    expect(hole).toEqual([23, 13, 4, 4]);
  });
  test("mirrored and scaled about a place", () => {
    const [, , bar] = boxesOf([{ edit: "transform", at: [BAR], about: at(30, 20), across: -0.5, down: 2 }]);
    expect(bar).toEqual([20, 20, 10, 8]);
  });
  test("copied, the copy moved; in a row, a grid and a circle", () => {
    const copied = boxesOf([{ edit: "transform", at: [DISC], about: DISC, byMm: [-10, 2], copies: 1 }]);
    expect(copied).toHaveLength(5);
    expect(copied[4]).toEqual([60, 32, 10, 10]);
    const grid = boxesOf([
      { edit: "transform", at: [RING], about: RING, byMm: [12, 0], copies: 2, rows: 1, rowByMm: [0, 15] },
    ]);
    expect(grid).toHaveLength(4 + 5 * 2);
    expect(grid.at(-2)).toEqual([34, 25, 10, 10]);
    const round = boxesOf([{ edit: "transform", at: [DISC], about: at(50, 25), turnDegrees: 60, copies: 5 }]);
    expect(round).toHaveLength(9);
    // Six of them: the fourth lies opposite of the first.
    expect(round[6]).toEqual([20, 10, 10, 10]);
  });
  test("too many copies are none, and told", () => {
    const many = { edit: "transform", at: [RING], about: RING, byMm: [1, 0], copies: 500, rows: 500 };
    expect(edited([many]).missed).toEqual([0]);
    expect(boxesOf([many])).toHaveLength(4);
  });
  test("aligned to one another, or to the piece", () => {
    const all = [RING, BAR, DISC];
    const lefts = boxesOf([{ edit: "align", at: all, side: "left" }]).map((b) => b[0]);
    expect(lefts).toEqual([10, 13, 10, 10]);
    const feet = boxesOf([{ edit: "align", at: all, side: "foot" }]);
    expect(feet.map(([, y, , h]) => y + h)).toEqual([40, 37, 40, 40]);
    const middle = boxesOf([{ edit: "align", at: [BAR], side: "middle", to: "piece" }])[2];
    expect(middle).toEqual([40, 20, 20, 4]);
  });
  test("put equal gaps, or ways between middles, apart", () => {
    const gaps = boxesOf([{ edit: "distribute", at: [RING, BAR, DISC], way: "across" }]);
    // 10 to 80: 70 less 40 of shapes leave 15 each.
    expect(gaps[2]).toEqual([35, 20, 20, 4]);
    const middles = boxesOf([{ edit: "distribute", at: [RING, BAR, DISC], way: "across", by: "middles" }]);
    expect(middles[2][0] + 10).toBe(45);
  });
  test("welded where they lie over one another", () => {
    const over = { edit: "move", at: BAR, byMm: [-15, -8] };
    // The bar now lies from 15 to 35 and 12 to 16: it goes over the square's right half, and half of the hole.
    expect(areaAfter([over, { edit: "weld", at: [RING, at(35, 14)] }])).toBeCloseTo(
      100 + 20 * 4 - 5 * 4 - Math.PI * 4 + Math.PI * 2 - circleBeyond() + Math.PI * 25,
      1,
    );
  });
  test("what is in one alone of two", () => {
    const over = { edit: "move", at: DISC, byMm: [-25, -13] };
    const both = areaAfter([over, { edit: "combine", at: BAR, with: at(45, 22), how: "intersect" }]);
    const rest = areaAfter([over, { edit: "combine", at: BAR, with: at(45, 22), how: "rest" }]);
    const others = 100 - Math.PI * 4;
    expect(rest - others).toBeCloseTo(80 + Math.PI * 25 - 2 * (both - others), 1);
  });
});

/** The hole is a disc about 15, 15 of radius 2; the bar covers its right half from 12 to 16: all but a piece below 16. */
function circleBeyond(): number {
  const [r, h] = [2, 1];
  const segment = r * r * Math.acos(h / r) - h * Math.sqrt(r * r - h * h);
  return segment / 2;
}

describe("lines and outlines", () => {
  const LINE = pathSetOf({ ...look, use: "score" }, [
    { knots: [{ at: [10, 25] }, { at: [60, 25] }], closed: false },
  ]);
  test("a line becomes the outline of a stroke, with round ends or flat ones", () => {
    const edit = { edit: "outline", at: at(30, 25), widthMm: 4 };
    expect(areaAfter([edit], LINE)).toBeCloseTo(200 + Math.PI * 4, 1);
    expect(areaAfter([{ ...edit, ends: "flat" }], LINE)).toBeCloseTo(200, 2);
  });
  test("a stroke becomes the line along its middle", () => {
    const { sets } = edited([{ edit: "centre", at: BAR, widthMm: 4 }]);
    const drawn = sets[sets.length - 1];
    expect(drawn.use).toBe("score");
    const [line] = flattened(drawn, 0.01);
    // From 30 to 50, along 22; the ends of a flat stroke may lie half a width in.
    expect(lengthOf(line)).toBeGreaterThan(15.5);
    expect(lengthOf(line)).toBeLessThan(20.5);
    for (let k = 1; k < line.points.length; k += 2) expect(Math.abs(line.points[k] - 22)).toBeLessThan(0.1);
  });
  test("bridges hold what is in a hole of a stencil, of one shape or of all", () => {
    const holes = (edits: readonly object[]) =>
      holesOf(evenOdd(ringsOf(edited(edits).sets[0], 0.001))).length;
    expect(holes([])).toBe(1);
    expect(holes([{ edit: "bridges", widthMm: 1 }])).toBe(0);
    expect(holes([{ edit: "bridges", at: RING, widthMm: 1 }])).toBe(0);
    expect(edited([{ edit: "bridges", at: DISC, widthMm: 1 }]).missed).toEqual([0]);
  });
  test("bridges hold what stands in a gap of a piece", () => {
    const piece = pathSetOf({ ...look, use: "through" }, [
      box(0, 0, 40, 40),
      box(10, 10, 20, 20),
      box(16, 16, 8, 8),
    ]);
    const rings = () =>
      evenOdd(ringsOf(edited([{ edit: "bridges", widthMm: 2, cutOut: "gaps" }], piece).sets[0], 0.001));
    // Two bars of 2 by 6 join the middle with the frame.
    expect(areaOf(rings())).toBeCloseTo(1600 - 400 + 64 + 24, 1);
  });
});

describe("turned with the artwork, an edit does the same to the same", () => {
  const EDITS: readonly object[] = [
    {
      edit: "transform",
      at: [RING],
      about: at(20, 20),
      turnDegrees: 30,
      across: 1.5,
      down: 0.5,
      byMm: [3, 1],
    },
    { edit: "transform", at: [BAR], about: at(35, 22), byMm: [2, 5], copies: 2, rows: 1, rowByMm: [1, 8] },
    { edit: "align", at: [RING, BAR, DISC], side: "left" },
    { edit: "align", at: [RING, BAR, DISC], side: "foot" },
    { edit: "align", at: [BAR, DISC], side: "middle" },
    { edit: "distribute", at: [RING, BAR, DISC], way: "across" },
    { edit: "text", text: "Fy\nL", at: at(50, 10), turnDegrees: 20, align: "left" },
    { edit: "text", text: "Fj", at: at(50, 25), along: { kind: "circle", diameterMm: 20, side: "inside" } },
    { edit: "text", text: "FL", at: DISC, along: { kind: "path", at: at(75, 30), flipped: true } },
  ];
  beforeAll(() => readyFonts(["grotesque"], FONTS));
  const parsed = (edit: object): PathEdit => pathEdit.parse(edit);
  test.each(["left", "right", "mirrored", "upside down"] as const)("%s", (quarter) => {
    const by = furtherTurn(quarter, ON.finish);
    const turnSet = (set: PathSet): PathSet =>
      pathSetOf(
        look,
        knotPathsOf(set).map(({ knots, closed }) => ({
          closed,
          knots: knots.map(({ at: p, in: back, out }) => ({
            at: by.atMm(p),
            ...(back && { in: by.offset(back) }),
            ...(out && { out: by.offset(out) }),
          })),
        })),
      );
    const finish = by.across ? { widthMm: 50, heightMm: 100 } : ON.finish;
    for (const edit of EDITS) {
      const straight = turnSet(edited([edit]).sets[0]);
      const turned = runToEnd(withEdits([turnSet(SET)], editsTurned([parsed(edit)], by), { ...ON, finish }))
        .sets[0];
      const [a, b] = [straight, turned].map((set) => evenOdd(ringsOf(set, 0.001)));
      expect(areaOf(without(a, b)) + areaOf(without(b, a))).toBeLessThan(0.01);
    }
  });
});
