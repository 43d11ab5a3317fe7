import { NO_GUIDES, snapped, snappedAngle } from "./snapping";

const PIECE = { widthMm: 100, heightMm: 60 };
const box = (x: number, y: number, width = 10, height = 6) => ({ x, y, width, height });

test("an edge nearly on another's lies on it, and how far they are apart is told", () => {
  const { by, lines } = snapped(box(20.4, 40), [box(20, 10)], PIECE, NO_GUIDES, 0.5);
  expect(by[0]).toBeCloseTo(-0.4, 9);
  expect(lines[0]).toMatchObject({ axis: "x", at: 20, from: 10, to: 46 });
  expect(lines[0].told).toEqual([[16, 40]]);
});
test("the middle lies on the piece's middle", () => {
  const { by } = snapped(box(44.8, 27.3), [], PIECE, NO_GUIDES, 0.5);
  expect(by[0]).toBeCloseTo(0.2, 9);
  expect(by[1]).toBeCloseTo(-0.3, 9);
});
test("what is not near stays where it is", () => {
  expect(snapped(box(31, 13), [box(50, 40)], PIECE, NO_GUIDES, 0.5)).toEqual({ by: [0, 0], lines: [] });
});
test("a guide takes an edge", () => {
  const { by } = snapped(box(33, 13), [], PIECE, { x: [43.3], y: [], locked: true }, 0.5);
  expect(by[0]).toBeCloseTo(0.3, 9);
});
test("between two neighbours both gaps become equal, and are told", () => {
  const { by, lines } = snapped(box(41.2, 12), [box(10, 10), box(71.7, 11)], PIECE, NO_GUIDES, 0.8);
  // From 20 to 71.7 less its own 10 leaves 20.85 to either side.
  expect(by[0]).toBeCloseTo(-0.35, 9);
  expect(lines.some((l) => l.told.length === 2)).toBe(true);
});
test("angles: held with Shift to fifteen degrees, else to eighths of a turn when near", () => {
  expect(snappedAngle(44, false)).toBe(45);
  expect(snappedAngle(40, false)).toBe(40);
  expect(snappedAngle(40, true)).toBe(45);
});
