import { runToEnd } from "../maths/work";
import { flattened, ringsOf } from "../path/flatten";
import { rectangleKnots, roundKnots, type Knot } from "../path/outline";
import { boxOf, knotPathsOf, pathSetOf, type PathSet } from "../path/pathSet";
import { areaOf } from "../polygon/rings";
import { evenOdd } from "../polygon/clip";
import { type Paths } from "../result/result";
import { USUAL_LIMITS } from "../inspect/limits";
import { artFrom } from "../testing/clearings";
import { disc, painted } from "../testing/drawing";
import { asRgba } from "../testing/pictures";
import { inspectStage, runStage } from "../testing/running";
import { withEdits } from "./withEdits";
import { pathEdit, type PathEdit } from "./operations";
import { isSmooth, sampled } from "./points";

/** A piece of 100 by 50 mm that shows all of the artwork: a place is x / 100, y / 50. */
const ON = { finish: { widthMm: 100, heightMm: 50 }, frame: { x: 0, y: 0, width: 1, height: 1 } };
const at = (x: number, y: number): [number, number] => [x / 100, y / 50];
const look = { name: "trace", use: "fill", colour: 0 } as const;
const SET = pathSetOf(look, [
  { knots: rectangleKnots(10, 10, 30, 30), closed: true },
  { knots: roundKnots(20, 20, 10, 10), closed: true },
  { knots: roundKnots(60, 10, 20, 20), closed: true },
]);
const edited = (edits: readonly object[], sets: readonly PathSet[] = [SET]) =>
  runToEnd(
    withEdits(
      sets,
      edits.map((e) => pathEdit.parse(e)),
      ON,
    ),
  );
const pathsOf = (edits: readonly object[]) => knotPathsOf(edited(edits).sets[0]);
const areaAfter = (edits: readonly object[]) => areaOf(evenOdd(ringsOf(edited(edits).sets[0], 0.001)));
const DISC = Math.PI * 100;

describe("paths", () => {
  test("are deleted by a place on them, with their holes, and by size", () => {
    expect(areaAfter([{ edit: "delete", at: at(10, 25) }])).toBeCloseTo(DISC, 0);
    expect(areaAfter([{ edit: "delete", at: at(20, 25) }])).toBeCloseTo(900 + DISC, 0);
    const { sets, missed } = edited([{ edit: "deleteSmaller", mm2: 100 }]);
    expect(sets[0].closed).toHaveLength(2);
    expect(missed).toEqual([]);
  });
  test("are moved, and put in a box by exact numbers", () => {
    const [, , moved] = pathsOf([{ edit: "move", at: at(60, 20), byMm: [3, -4] }]);
    expect(moved.knots[0].at).toEqual([73, 6]);
    const set = edited([{ edit: "box", at: at(60, 20), xMm: 50, yMm: 5, widthMm: 40, heightMm: 10 }]).sets[0];
    const only = pathSetOf(look, [knotPathsOf(set)[2]]);
    expect(boxOf(only)).toEqual({ x: 50, y: 5, width: expect.closeTo(40, 6), height: expect.closeTo(10, 6) });
  });
  test("are joined, subtracted and intersected", () => {
    const apart = { edit: "move", at: at(60, 20), byMm: [-25, 5] };
    const both = (how: string) =>
      areaAfter([
        { edit: "delete", at: at(20, 25) },
        apart,
        { edit: "combine", how, at: at(10, 25), with: at(55, 25) },
      ]);
    // The disc's middle is 5 mm right of the square's edge.
    const inside = 100 * Math.acos(0.5) - 5 * Math.sqrt(75);
    expect(both("join")).toBeCloseTo(900 + DISC - inside, 0);
    expect(both("subtract")).toBeCloseTo(900 - inside, 0);
    expect(both("intersect")).toBeCloseTo(inside, 0);
  });
  test("a shape is moved, and put in a box, with its holes; a hole alone, without its shape", () => {
    const ring = 900 - Math.PI * 25;
    const moved = edited([{ edit: "move", at: at(10, 25), byMm: [40, 2] }]).sets[0];
    expect(boxOf(pathSetOf(look, knotPathsOf(moved).slice(0, 1)))).toMatchObject({ x: 50, y: 12 });
    expect(boxOf(pathSetOf(look, knotPathsOf(moved).slice(1, 2)))).toMatchObject({ x: 60, y: 22 });
    const inBox = [{ edit: "box", at: at(10, 25), xMm: 0, yMm: 0, widthMm: 15, heightMm: 15 }];
    expect(areaAfter(inBox)).toBeCloseTo(ring / 4 + DISC, 0);
    const hole = edited([{ edit: "move", at: at(20, 25), byMm: [4, 0] }]).sets[0];
    expect(boxOf(pathSetOf(look, knotPathsOf(hole).slice(0, 1)))).toMatchObject({ x: 10, y: 10 });
    expect(boxOf(pathSetOf(look, knotPathsOf(hole).slice(1, 2)))).toMatchObject({ x: 24, y: 20 });
  });
  test("what lies in a hole stays when the shape round it goes", () => {
    const island = { knots: roundKnots(23, 23, 4, 4), closed: true };
    const set = pathSetOf(look, [...knotPathsOf(SET), island]);
    const left = edited([{ edit: "delete", at: at(10, 25) }], [set]).sets[0];
    expect(areaOf(evenOdd(ringsOf(left, 0.001)))).toBeCloseTo(DISC + Math.PI * 4, 0);
  });
  test("joined and subtracted as they are seen filled: a disc over a hole closes it, a ring takes only its ring", () => {
    const over = { edit: "move", at: at(60, 20), byMm: [-45, 5] }; // the disc of 20 mm, about the hole of 10 mm
    const how = (h: string) =>
      areaAfter([over, { edit: "combine", how: h, at: at(10, 25), with: at(15, 25) }]);
    expect(how("join")).toBeCloseTo(900, 0);
    const taken = [over, { edit: "combine", how: "subtract", at: at(15, 25), with: at(10, 25) }];
    expect(areaAfter(taken)).toBeCloseTo(Math.PI * 25, 0);
  });
  test("a gap under the pointer is filled, up to the line around it", () => {
    expect(areaAfter([{ edit: "fill", at: at(25, 25) }])).toBeCloseTo(900 + DISC, 0);
    expect(
      edited([
        { edit: "fill", at: at(12, 12) },
        { edit: "fill", at: at(90, 45) },
      ]).missed,
    ).toEqual([0, 1]);
  });
  test("are drawn by points, and by exact numbers; a closed one in a shape is a hole", () => {
    const knots = [{ at: at(85, 10) }, { at: at(95, 10) }, { at: at(95, 20) }];
    expect(areaAfter([{ edit: "draw", knots, closed: true }])).toBeCloseTo(900 - Math.PI * 25 + DISC + 50, 0);
    expect(areaAfter([{ edit: "circle", at: at(70, 20), diameterMm: 4 }])).toBeCloseTo(
      900 - Math.PI * 25 + DISC - Math.PI * 4,
      0,
    );
    expect(areaAfter([{ edit: "rectangle", at: at(90, 40), widthMm: 10, heightMm: 6 }])).toBeCloseTo(
      900 - Math.PI * 25 + DISC + 60,
      0,
    );
    const { sets } = edited([{ edit: "line", at: at(1, 1), to: at(9, 1) }]);
    expect(sets[1]).toMatchObject({ name: "drawn", use: "score" });
    expect(Array.from(sets[1].points)).toEqual([1, 1, 1, 1, 9, 1, 9, 1]);
  });
  test("a closed one over a shape joins it, is cut out of it, or stays a line of its own", () => {
    // Half of a disc of 10 mm about a corner's side lies on the square; the disc in the square is too far off to count.
    const disc = { edit: "circle", at: at(40, 35), diameterMm: 10 };
    const [square, half] = [900 - Math.PI * 25 + DISC, (Math.PI * 25) / 2];
    expect(areaAfter([{ ...disc, over: "join" }])).toBeCloseTo(square + half, 0);
    expect(areaAfter([{ ...disc, over: "subtract" }])).toBeCloseTo(square - half, 0);
    expect(pathsOf([disc])).toHaveLength(4);
    expect(pathsOf([{ ...disc, over: "join" }])).toHaveLength(3);
  });
  test("what is drawn over the edge of a hole closes or widens the hole, and its shape's outline stays as it was", () => {
    const box = { edit: "rectangle", at: at(30, 25), widthMm: 4, heightMm: 4 };
    // Half of it lies in the hole, about 2 by 4 mm and the segment of the round edge.
    const chord = 25 * Math.asin(0.4) - 2 * Math.sqrt(21);
    const inHole = 8 - 4 * (5 - Math.sqrt(21)) + chord;
    const ring = 900 - Math.PI * 25 + DISC;
    expect(areaAfter([{ ...box, over: "join" }])).toBeCloseTo(ring + inHole, 0);
    expect(areaAfter([{ ...box, over: "subtract" }])).toBeCloseTo(ring - (16 - inHole), 0);
    expect(pathsOf([{ ...box, over: "join" }])).toContainEqual(knotPathsOf(SET)[0]);
  });
  test("in a shape it is a hole whatever it is said to do, and what lies under it goes with it", () => {
    const inSquare = { edit: "circle", at: at(15, 35), diameterMm: 4, over: "join" };
    expect(areaAfter([inSquare])).toBeCloseTo(900 - Math.PI * (25 + 4) + DISC, 0);
    // Over the square's whole right half, and the hole in it.
    const half = { edit: "rectangle", at: at(35, 25), widthMm: 32, heightMm: 60, over: "join" };
    expect(areaAfter([half])).toBeCloseTo(9 * 30 + 32 * 60 + DISC, 0);
    expect(areaAfter([{ ...half, over: "subtract" }])).toBeCloseTo(9 * 30 + DISC, 0);
  });
  test("simplified, a path has fewer points and stays within the tolerance", () => {
    const rough = pathSetOf(look, [
      { closed: true, knots: disc(50, 25, 20, 90).map((p): Knot => ({ at: p })) },
    ]);
    const { sets } = edited([{ edit: "simplify", at: at(70, 25), withinMm: 0.1 }], [rough]);
    expect(knotPathsOf(sets[0])[0].knots.length).toBeLessThanOrEqual(8);
    for (const { points } of flattened(sets[0], 0.01))
      for (let k = 0; k < points.length; k += 2)
        expect(Math.abs(Math.hypot(points[k] - 50, points[k + 1] - 25) - 20)).toBeLessThan(0.12);
  });
});

describe("points", () => {
  test("are moved, and their handles; a smooth point stays smooth", () => {
    expect(pathsOf([{ edit: "movePoint", at: at(40, 10), to: at(45, 8) }])[0].knots[1].at).toEqual([45, 8]);
    const round = pathsOf([{ edit: "moveHandle", at: at(70, 10), side: "out", byMm: [4, 4] }])[2];
    expect(round.knots[0].out).toEqual([4, 4]);
    expect(isSmooth(round.knots[0])).toBe(true);
  });
  test("one added changes nothing; one dropped is made up for by the curve through its neighbours", () => {
    expect(areaAfter([{ edit: "addPoint", at: at(67, 10.5) }])).toBeCloseTo(900 - Math.PI * 25 + DISC, 0);
    expect(pathsOf([{ edit: "addPoint", at: at(67, 10.5) }])[2].knots).toHaveLength(5);
    const again = pathsOf([
      { edit: "addPoint", at: at(62.93, 12.93) },
      { edit: "dropPoint", at: at(62.93, 12.93) },
    ])[2];
    expect(again.knots).toHaveLength(4);
    for (const place of sampled(again.knots[3], again.knots[0]))
      expect(Math.hypot(place[0] - 70, place[1] - 20)).toBeCloseTo(10, 1);
    expect(pathsOf([{ edit: "dropPoint", at: at(40, 10) }])[0].knots).toHaveLength(3);
  });
  test("corner or smooth, straight or curved", () => {
    const corner = pathsOf([{ edit: "point", at: at(70, 10), as: "corner" }])[2];
    expect(corner.knots[0]).toEqual({ at: [70, 10] });
    const smooth = pathsOf([{ edit: "point", at: at(40, 10), as: "smooth" }])[0].knots[1];
    expect(isSmooth(smooth)).toBe(true);
    const straight = pathsOf([{ edit: "segment", at: at(77.07, 12.93), as: "straight" }])[2];
    expect(straight.knots[0].out).toBeUndefined();
    expect(straight.knots[1].in).toBeUndefined();
    const curved = pathsOf([{ edit: "segment", at: at(25, 10), as: "curved" }])[0];
    expect(curved.knots[0].out).toEqual([10, 0]);
  });
  test("two are levelled, each going half of the way", () => {
    const askew = [{ edit: "movePoint", at: at(40, 10), to: at(40, 13) }];
    const level = pathsOf([
      ...askew,
      { edit: "level", at: at(10, 10), with: at(40, 13), way: "horizontally" },
    ])[0];
    expect(level.knots.slice(0, 2).map((k) => k.at[1])).toEqual([11.5, 11.5]);
    const plumb = pathsOf([
      ...askew,
      { edit: "level", at: at(40, 13), with: at(40, 40), way: "vertically" },
    ])[0];
    expect(plumb.knots[1].at[0]).toBe(40);
  });
  test("a path is opened at one and closed again by its ends", () => {
    const open = edited([{ edit: "split", at: at(40, 10) }]).sets[0];
    expect(Array.from(open.closed)).toEqual([0, 1, 1]);
    const shut = edited([
      { edit: "split", at: at(40, 10) },
      { edit: "movePoint", at: at(40, 10), to: at(44, 9) },
      { edit: "joinEnds", at: at(44, 9), with: at(40, 10) },
    ]);
    expect(Array.from(shut.sets[0].closed)).toEqual([1, 1, 1]);
    expect(shut.missed).toEqual([]);
  });
  test("ends that opening has parted join again, where they lie on one another", () => {
    const before = edited([]).sets[0];
    const again = edited([
      { edit: "split", at: at(40, 10) },
      { edit: "joinEnds", at: at(40, 10), with: at(40, 10) },
    ]);
    expect(again.missed).toEqual([]);
    expect(Array.from(again.sets[0].closed)).toEqual([1, 1, 1]);
    expect(again.sets[0].points.length).toBe(before.points.length);
    // Opened at two places it is two lines; they become one, and that one is closed.
    const twice = edited([
      { edit: "split", at: at(40, 10) },
      { edit: "split", at: at(10, 40) },
      { edit: "joinEnds", at: at(40, 10), with: at(40, 10) },
      { edit: "joinEnds", at: at(10, 40), with: at(10, 40) },
    ]);
    expect(twice.missed).toEqual([]);
    expect(Array.from(twice.sets[0].closed)).toEqual([1, 1, 1]);
    expect(twice.sets[0].points.length).toBe(before.points.length);
    // Where no other end is, there is nothing to join.
    expect(edited([{ edit: "joinEnds", at: at(40, 10), with: at(40, 10) }]).missed).toEqual([0]);
  });
  test("a stretch is evened out by rubbing along it, and the rest stays", () => {
    const wavy = Array.from({ length: 41 }, (_, k): Knot => ({ at: [10 + k, 20 + (k % 2) * 0.6] }));
    const set = pathSetOf(look, [{ closed: true, knots: [...wavy, { at: [50, 40] }, { at: [10, 40] }] }]);
    const along = Array.from({ length: 9 }, (_, k) => at(22 + 2 * k, 20.3));
    const { sets } = edited([{ edit: "rub", along, reachMm: 1.5 }], [set]);
    const heights = flattened(sets[0], 0.01)[0].points;
    const between = (from: number, to: number) =>
      Array.from({ length: heights.length / 2 }, (_, k) => [heights[2 * k], heights[2 * k + 1]])
        .filter(([x, y]) => x > from && x < to && y < 22)
        .map(([, y]) => y);
    const spread = (v: number[]) => Math.max(...v) - Math.min(...v);
    expect(spread(between(24, 36))).toBeLessThan(0.15);
    expect(spread(between(11, 18))).toBeCloseTo(0.6, 6);
    expect(knotPathsOf(sets[0])[0].knots.length).toBeLessThan(36);
  });
});

test("edits keep to what they were made on when the threshold changes, and say which found nothing", () => {
  const picture = painted(100, 100, [
    { ring: disc(40, 50, 30), grey: 20 },
    { ring: disc(85, 15, 8), grey: 110 },
  ]);
  const art = artFrom(asRgba(picture));
  const edits = [
    { edit: "circle", at: [0.4, 0.5], diameterMm: 1 },
    { edit: "delete", at: [0.85, 0.07] },
    { edit: "movePoint", at: [0.4, 0.2], to: [0.4, 0.15] },
  ];
  const missedAt = (threshold: number) => {
    const settings = { threshold, edits, toleranceMm: 0.02 };
    const paths = runStage("trace", art, settings) as Paths;
    const { checks } = inspectStage("trace", paths, settings, USUAL_LIMITS, art);
    return { missed: paths.missed, check: checks.find((c) => c.id === "editsMissed"), paths };
  };
  expect(missedAt(150).missed).toEqual([]);
  expect(missedAt(140).missed).toEqual([]);
  // At 100 the pale disc is not traced: there is nothing to delete.
  const { missed, check, paths } = missedAt(100);
  expect(missed).toEqual([1]);
  expect(check).toMatchObject({ level: "look", value: 1 });
  expect((check!.repair!.change as { edits: PathEdit[] }).edits).toEqual([edits[0], edits[2]]);
  expect(paths.sets[0].closed).toHaveLength(2);
});

test("nonsense is refused", () => {
  for (const edit of [
    { edit: "paint" },
    { edit: "circle", at: [0, 0], diameterMm: -1 },
    { edit: "draw", knots: [], closed: true },
  ])
    expect(pathEdit.safeParse(edit).success).toBe(false);
  expect(edited([{ edit: "delete", at: at(99, 49) }] satisfies PathEdit[]).missed).toEqual([0]);
});
