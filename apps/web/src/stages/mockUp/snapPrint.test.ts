import { placed } from "@hardline/core/mockUp/place";
import { drawnThing } from "@hardline/core/mockUp/things";
import { snapPrint } from "./snapPrint";

const shirt = drawnThing("t-shirt-front", "M");
const print = placed({ at: [0, 75], turn: 0, scale: 1 }, shirt, { width: 100, height: 80 });

test("a dragged print is drawn to the middle line and to where usual places begin", () => {
  expect(snapPrint([2.4, 77], print, shirt.places, 3)).toEqual({ at: [0, 75], x: 0, y: 75 });
  expect(snapPrint([93.2, 66], print, shirt.places, 3)).toEqual({ at: [95, 65], x: 95, y: 65 });
});

test("it is drawn to the edges of the print area with its own edges", () => {
  const { limits } = print.area;
  const { at, x } = snapPrint([limits.x + 51.5, 200], print, shirt.places, 3);
  expect(at).toEqual([limits.x + 50, 200]);
  expect(x).toBe(limits.x);
  const foot = limits.y + limits.height - 80;
  expect(snapPrint([30, foot + 2], print, shirt.places, 3).at).toEqual([30, foot]);
});

test("far from all lines it stays where the hand has it", () => {
  expect(snapPrint([31, 250], print, shirt.places, 3)).toEqual({ at: [31, 250], x: null, y: null });
});
