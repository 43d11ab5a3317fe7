import { runToEnd } from "../maths/work";
import { coverOfRings } from "../path/cover";
import { flattened } from "../path/flatten";
import { pathSetOf } from "../path/pathSet";
import { setText } from "./setText";

/** A line of text drawn in pixels, one a unit. */
function drawn(text: string, height: number, width: number): string[] {
  const set = pathSetOf({ name: "text", use: "fill", colour: 0 }, setText(text, height, 0, height).paths);
  const rings = flattened(set, 0.02).map((l) => l.points as Float64Array);
  const cover = runToEnd(coverOfRings(rings, width, height));
  return Array.from({ length: height }, (_, y) =>
    Array.from(cover.subarray(y * width, (y + 1) * width), (c) => (c > 127 ? "#" : ".")).join(""),
  );
}

test("letters are as high as asked for and have their counters", () => {
  const [capital] = [drawn("H", 12, 12)];
  expect(capital[0]).toMatch(/^\.*##*\.+##*\.*$/);
  expect(capital[11]).toMatch(/^\.*##*\.+##*\.*$/);
  expect(capital[5]).toMatch(/#{6,}/);
  const ring = drawn("O", 20, 24);
  expect(ring[10]).toMatch(/^\.*#+\.{6,}#+\.*$/); // the inside of an O is open
});

test("a line is as long as its letters, and a letter that is missing is a question mark", () => {
  const width = (text: string): number => setText(text, 10).width;
  expect(width("AB")).toBeCloseTo(width("A") + width("B"), 9);
  expect(setText("\u4e00", 10)).toEqual(setText("?", 10));
  expect(setText(" ", 10).paths).toEqual([]);
  expect(setText("Grün 45°", 10, 3, 4).paths.length).toBeGreaterThan(7);
});
