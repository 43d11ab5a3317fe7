import { ByteCache } from "../../route/byteCache";
import { as, type Picture } from "../../result/result";
import { artFrom, pictureOf } from "../../testing/clearings";
import { runStage } from "../../testing/running";

const COLOURS = [
  [250, 250, 250],
  [200, 40, 40],
  [40, 160, 60],
  [30, 60, 180],
] as const;
/** Four bars, with a soft edge between each and the next. */
const bars = artFrom(
  pictureOf(80, 40, (x) => {
    const [a, b] = [COLOURS[Math.floor(x / 20)], COLOURS[Math.min(3, Math.floor((x + 1) / 20))]];
    return [0, 1, 2].map((k) => (a[k] + b[k]) / 2) as [number, number, number];
  }),
);
const pick = (u: number, tolerance = 5) => ({ op: "pick", at: [u, 0.5], tolerance });
const brush = (v: number) => ({
  op: "brush",
  paints: "away",
  strokes: [{ points: [[0.9, v]], sizeMm: 0.5 }],
});

/** A room that notes what is looked up in it and found. */
class Noting extends ByteCache<unknown> {
  found = 0;
  stored = 0;
  override get(key: string): unknown {
    const value = super.get(key);
    if (value) this.found++;
    return value;
  }
  override set(key: string, value: unknown, bytes: number): void {
    this.stored++;
    super.set(key, value, bytes);
  }
}
const clear = (given: object, room = new Noting(1 << 26)): Picture =>
  as(runStage("clear", bars, given, room), "picture");

const FULL = { ops: [pick(0.1), pick(0.4), brush(0.2)], specksMm2: 0.01, edgeMm: -0.1 };

test.each<[string, object]>([
  ["the choke", { ...FULL, edgeMm: -0.2 }],
  ["the last operation", { ...FULL, ops: [pick(0.1), pick(0.4), brush(0.8)] }],
  ["one operation more", { ...FULL, ops: [...FULL.ops, brush(0.6)] }],
  ["specks", { ...FULL, specksMm2: 0.02 }],
  ["the choke taken off", { ...FULL, edgeMm: 0 }],
])("changed, %s is done from where it stands, and comes out as from the start", (_what, changed) => {
  const room = new Noting(1 << 26);
  clear(FULL, room);
  room.found = 0;
  const again = clear(changed, room);
  expect(room.found).toBeGreaterThan(0);
  expect(again).toEqual(clear(changed));
});

test.each<[string, object]>([
  ["an earlier operation", { ...FULL, ops: [pick(0.1, 9), pick(0.4), brush(0.2)] }],
  ["what is held", { ...FULL, ops: [...FULL.ops, { op: "hold", strokes: [{ points: [[0.1, 0.5]] }] }] }],
  ["the fringe", { ...FULL, fringe: "none" }],
])("changed, %s is done from the start", (_what, changed) => {
  const room = new Noting(1 << 26);
  clear(FULL, room);
  room.found = 0;
  const again = clear(changed, room);
  expect(room.found).toBe(0);
  expect(again).toEqual(clear(changed));
});

test("a halt keeps cover alone for as long as no colour has changed", () => {
  const room = new Noting(1 << 26);
  clear({ ops: [pick(0.1), brush(0.2)], fringe: "none", edgeMm: -0.1 }, room);
  expect([room.stored, room.bytes]).toEqual([2, 2 * 2 * 80 * 40]);
  const coloured = new Noting(1 << 26);
  clear({ ops: [{ op: "lift" }, brush(0.2)], edgeMm: -0.1 }, coloured);
  expect([coloured.stored, coloured.bytes]).toEqual([2, 2 * 5 * 80 * 40]);
});

test("gaps go by their pick: where that has moved they are looked for anew", () => {
  const room = new Noting(1 << 26);
  const gaps = { op: "gaps", like: 0, tolerance: 5, smallestMm2: 0 };
  const moved = (u: number) => ({ ops: [pick(u), gaps, brush(0.2)] });
  clear(moved(0.1), room);
  expect(clear(moved(0.4), room)).toEqual(clear(moved(0.4)));
});
