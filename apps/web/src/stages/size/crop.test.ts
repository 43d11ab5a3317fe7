import { cursorOf, draggedTo, gripAt, type CropBox } from "./crop";

const BOX: CropBox = [0.2, 0.3, 0.4, 0.2];
const close = (box: CropBox, wanted: CropBox) => box.forEach((v, k) => expect(v).toBeCloseTo(wanted[k], 9));

test("a corner or side follows the hand, the others stay", () => {
  close(draggedTo(BOX, { of: "edge", x: 1, y: 1 }, [0.7, 0.9], null), [0.2, 0.3, 0.5, 0.6]);
  close(draggedTo(BOX, { of: "edge", x: -1, y: 0 }, [0.1, 0.9], null), [0.1, 0.3, 0.5, 0.2]);
  close(draggedTo(BOX, { of: "edge", x: 0, y: -1 }, [0.9, 0.1], null), [0.2, 0.1, 0.4, 0.4]);
});

test("it neither leaves the artwork nor turns inside out", () => {
  close(draggedTo(BOX, { of: "edge", x: 1, y: 1 }, [1.4, 7], null), [0.2, 0.3, 0.8, 0.7]);
  close(draggedTo(BOX, { of: "edge", x: 1, y: 1 }, [-1, -1], null), [0.2, 0.3, 0.01, 0.01]);
  close(draggedTo(BOX, { of: "all", from: [0.3, 0.4], box: BOX }, [-3, 9], null), [0, 0.8, 0.4, 0.2]);
});

test("with its proportion kept it grows from the corner that stays", () => {
  close(draggedTo(BOX, { of: "edge", x: 1, y: 1 }, [0.8, 0.4], 2), [0.2, 0.3, 0.6, 0.3]);
  close(draggedTo(BOX, { of: "edge", x: -1, y: -1 }, [0, 0], 2), [0, 0.2, 0.6, 0.3]);
  const [, , w, h] = draggedTo(BOX, { of: "edge", x: 1, y: 1 }, [5, 5], 2);
  expect([w / h, w <= 0.8, h <= 0.7]).toEqual([2, true, true]);
});

test("what is under the hand", () => {
  const to = (u: number, v: number) => [u * 1000, v * 1000] as const;
  const grip = (x: number, y: number) => gripAt(BOX, to, [x, y], [x / 1000, y / 1000], 8);
  expect([grip(203, 297), grip(600, 400), grip(400, 500)].map(cursorOf)).toEqual([
    "nwse-resize",
    "ew-resize",
    "ns-resize",
  ]);
  expect(cursorOf(grip(600, 300))).toBe("nesw-resize");
  expect([cursorOf(grip(400, 400)), grip(100, 400)]).toEqual(["move", null]);
});
