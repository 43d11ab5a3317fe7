import { type Gap } from "@hardline/core/clear/gaps";
import { type ClearOp } from "@hardline/core/stage/clear/settings";
import { numbered, turned } from "./opsModel";
import { placing } from "./placing";

const pick = (u: number): ClearOp => ({ op: "pick", at: [u, 0], tolerance: 5, joined: true });
const gaps = (like: number): ClearOp => ({ op: "gaps", like, tolerance: 5, smallestMm2: 0.5, but: [] });

test("gaps follow their pick when picks move, change or go", () => {
  const [a, b, g] = [pick(0.1), pick(0.2), gaps(1)];
  const before = [a, b, g];
  expect(numbered(before, [b, a, g])).toEqual([b, a, gaps(0)]);
  expect(numbered(before, [b, g])).toEqual([b, gaps(0)]);
  expect(numbered(before, [a, g])).toEqual([a]); // its pick is gone, and it with it
  const changed = { ...b, tolerance: 9 } as ClearOp;
  expect(numbered(before, [a, changed, g])).toEqual([a, changed, g]);
  expect(numbered(before, [a, b, g, gaps(0)])).toEqual([a, b, g, gaps(0)]);
});

test("an island is turned round by a point in it, and back by taking its points out", () => {
  const op = gaps(0) as Extract<ClearOp, { op: "gaps" }>;
  const gap: Gap = { x: 10, y: 20, width: 5, height: 5, pixels: 20, seed: [12, 20], taken: true, by: [] };
  const frame = { x: 0.5, y: 0, width: 0.5, height: 1 };
  const once = turned(op, gap, { widthPx: 100, heightPx: 50 }, frame);
  expect(once.but).toEqual([[0.5 + 0.125 / 2, 0.41]]);
  expect(
    turned(
      { ...once, but: [[0, 0], ...once.but] },
      { ...gap, by: [1] },
      { widthPx: 100, heightPx: 50 },
      frame,
    ).but,
  ).toEqual([[0, 0]]);
});

test("screen, dots and fractions of the artwork agree, for a piece cut from it too", () => {
  const placed = { x: 100, y: 50, width: 400, height: 200, zoom: 2 };
  const to = placing(placed, { widthPx: 200, heightPx: 100 }, { x: 0.25, y: 0.5, width: 0.5, height: 0.5 });
  expect(to.toDots(300, 150)).toEqual([100, 50]);
  expect(to.toArtwork(300, 150)).toEqual([0.5, 0.75]);
  expect(to.toScreen(0.5, 0.75)).toEqual([300, 150]);
  expect([to.inside(99, 60), to.inside(101, 60), to.inside(500, 60)]).toEqual([false, true, false]);
});
