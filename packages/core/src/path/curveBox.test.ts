import { curveBox } from "./curveBox";
import { flattened } from "./flatten";
import { roundKnots } from "./outline";
import { pathSetOf, type KnotPath } from "./pathSet";

test("a circle's box is the circle's, however far its handles reach", () => {
  expect(curveBox([{ knots: roundKnots(2, 3, 10, 6), closed: true }])).toEqual({
    ...{ x: 2, y: 3, width: 10, height: 6 },
  });
  // Two knots whose handles reach a third of the way beyond.
  const two: KnotPath = {
    knots: [
      { at: [0, 0], in: [0, 4], out: [0, -4] },
      { at: [6, 0], in: [0, -4], out: [0, 4] },
    ],
    closed: true,
  };
  expect(curveBox([two])).toEqual({ x: 0, y: -3, width: 6, height: 6 });
});

test("any curve's box holds its line, and no more", () => {
  let seed = 3;
  const next = (): number => (seed = (seed * 16807) % 2147483647) / 2147483647;
  const point = (): [number, number] => [20 * next() - 10, 20 * next() - 10];
  for (let k = 0; k < 100; k++) {
    const path: KnotPath = {
      knots: [
        { at: point(), out: point() },
        { at: point(), in: point(), out: point() },
        { at: point(), in: point() },
      ],
      closed: k % 2 === 0,
    };
    const box = curveBox([path])!;
    const [{ points }] = flattened(pathSetOf({ name: "", use: "score", colour: 0 }, [path]), 0.0005);
    const [xs, ys] = [0, 1].map((o) => Array.from(points).filter((_, j) => j % 2 === o));
    expect(Math.abs(box.x - Math.min(...xs))).toBeLessThan(0.01);
    expect(Math.abs(box.x + box.width - Math.max(...xs))).toBeLessThan(0.01);
    expect(Math.abs(box.y - Math.min(...ys))).toBeLessThan(0.01);
    expect(Math.abs(box.y + box.height - Math.max(...ys))).toBeLessThan(0.01);
  }
});

test("of nothing there is none", () => expect(curveBox([])).toBeNull());
