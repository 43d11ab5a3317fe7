import { affineOf, HANDLES, NO_CHANGE, placeAfter, scaledBy, turnedBy } from "./selection";

const BOX = { x: 10, y: 20, width: 40, height: 20 };

test("a dragged corner scales about the opposite one; evenly, both sides by one share", () => {
  const corner = { across: 1, down: 1 } as const;
  const free = scaledBy(BOX, corner, [20, 5], false);
  expect(free).toMatchObject({ about: [10, 20], across: 1.5, down: 1.25 });
  expect(placeAfter(free, [50, 40])).toEqual([70, 45]);
  expect(scaledBy(BOX, corner, [20, 5], true)).toMatchObject({ across: 1.5, down: 1.5 });
});
test("a dragged side scales one way; dragged over the other side it mirrors", () => {
  const left = { across: -1, down: 0 } as const;
  expect(scaledBy(BOX, left, [-10, 3], false)).toMatchObject({ about: [50, 30], across: 1.25, down: 1 });
  expect(scaledBy(BOX, left, [80, 0], false).across).toBe(-1);
  expect(scaledBy(BOX, left, [40, 0], false).across).toBe(0.01);
});
test("turning is told from where the hand began, the short way round", () => {
  expect(turnedBy([0, 0], [10, 0], [0, 10])).toBe(90);
  expect(turnedBy([0, 0], [-10, 1], [-10, -1])).toBeCloseTo(11.42, 2);
});
test("eight handles, none in the middle; no change leaves a place where it is", () => {
  expect(HANDLES).toHaveLength(8);
  expect(affineOf(NO_CHANGE)).toEqual([1, 0, 0, 1, 0, 0]);
});
