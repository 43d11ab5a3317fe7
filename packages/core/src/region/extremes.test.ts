import { runToEnd } from "../maths/work";
import { seeded } from "../testing/pictures";
import { extremes } from "./extremes";

test.each([
  [17, 9, 1],
  [5, 30, 3],
  [40, 23, 7],
  [3, 2, 6],
  [1, 1, 2],
])(
  "of %i x %i pixels, within %i, the least and the greatest are those that looking at each finds",
  (width, height, reach) => {
    const next = seeded(width * 31 + reach);
    const plane = Uint8Array.from({ length: width * height }, () => next() & 255);
    const given = plane.slice();
    const [least, greatest] = runToEnd(extremes(plane, width, height, reach));
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const about: number[] = [];
        for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
          for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++)
            about.push(plane[v * width + u]);
        expect([least[y * width + x], greatest[y * width + x]]).toEqual([
          Math.min(...about),
          Math.max(...about),
        ]);
      }
    expect(plane).toEqual(given);
  },
);
