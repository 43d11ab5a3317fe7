import fc from "fast-check";
import { flyTo, pan, place, stepZoom, visible, WHOLE, zoomAt, zoomOf, type TableView } from "./geometry";

const TABLE = { width: 724, height: 720 };
const FINISH = { widthPx: 900, heightPx: 600, dotsPerInch: 254, widthMm: 90, heightMm: 60 };
const PER_MM = 4;

test("fit shows the whole picture inside the table, above its bar", () => {
  const placed = place(WHOLE, TABLE, FINISH, PER_MM);
  expect(placed.x).toBeGreaterThanOrEqual(36);
  expect(placed.x + placed.width).toBeLessThanOrEqual(724 - 35);
  expect(placed.y + placed.height).toBeLessThanOrEqual(720 - 52);
  expect(placed.width / placed.height).toBeCloseTo(1.5, 6);
});

test("dot for dot is one screen pixel a dot; real size is millimetres by the screen's own measure", () => {
  expect(zoomOf({ ...WHOLE, mode: "dot" }, TABLE, FINISH, PER_MM)).toBe(1);
  expect(place({ ...WHOLE, mode: "real" }, TABLE, FINISH, PER_MM).width).toBeCloseTo(90 * PER_MM, 9);
});

test("zooming keeps the point under the pointer where it is, to the pixel", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 724 }),
      fc.integer({ min: 0, max: 720 }),
      fc.constantFrom(0.25, 1, 3, 8, 32),
      (x, y, zoom) => {
        const before = place({ mode: "free", zoom: 2, centre: [0.4, 0.6] }, TABLE, FINISH, PER_MM);
        const after = place(zoomAt(before, TABLE, [x, y], zoom), TABLE, FINISH, PER_MM);
        const at = (p: typeof before) => [(x - p.x) / p.zoom, (y - p.y) / p.zoom];
        const [bx, by] = at(before);
        const [ax, ay] = at(after);
        expect(Math.abs(ax - bx) * zoom).toBeLessThanOrEqual(0.51);
        expect(Math.abs(ay - by) * zoom).toBeLessThanOrEqual(0.51);
      },
    ),
  );
});

test("moving moves by exactly the pixels of the hand, from fit too", () => {
  for (const view of [WHOLE, { mode: "dot", zoom: 1, centre: [0.5, 0.5] } as TableView]) {
    const before = place(view, TABLE, FINISH, PER_MM);
    const after = place(pan(view, before, TABLE, 37, -21), TABLE, FINISH, PER_MM);
    expect([after.x - before.x, after.y - before.y, after.zoom]).toEqual([37, -21, before.zoom]);
  }
});

test("what is visible covers the table and nothing outside the picture", () => {
  const close = place({ mode: "free", zoom: 8, centre: [0, 0] }, TABLE, FINISH, PER_MM);
  const seen = visible(close, TABLE)!;
  expect(seen.part.x).toBe(0);
  expect(seen.on).toEqual({ x: 362, y: 360, width: 362, height: 360 });
  expect(seen.part.width).toBeCloseTo(362 / 8, 9);
  expect(visible({ ...close, x: 5000 }, TABLE)).toBeNull();
});

test("zoom steps go up and down the same ladder", () => {
  expect([
    stepZoom(1, true),
    stepZoom(0.9, true),
    stepZoom(2, false),
    stepZoom(32, true),
    stepZoom(1 / 32, false),
  ]).toEqual([2, 1, 1, 32, 1 / 32]);
});

test("flying to a place brings it to the middle, large enough to see its dots", () => {
  const view = flyTo({ xMm: 40, yMm: 20, widthMm: 0.1, heightMm: 0.1 }, TABLE, FINISH);
  expect(view.centre[0]).toBeCloseTo(40.05 / 90, 9);
  expect(view.zoom).toBe(8);
  expect(flyTo({ xMm: 0, yMm: 0, widthMm: 80, heightMm: 50 }, TABLE, FINISH).zoom).toBe(0.25);
});
