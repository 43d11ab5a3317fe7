import { twiceArea, type Outlines } from "./outlines";

export interface Kept {
  /** Numbers of the outlines that stay. */
  readonly kept: readonly number[];
  /** Numbers of those that go, holes of shapes that go left out. */
  readonly gone: readonly number[];
  /** How many shapes, and holes in shapes that stay, were too small. */
  readonly specks: number;
  readonly pinholes: number;
}

/**
 * Which outlines stay when shapes and holes under a size go. What lies in a hole of a shape that goes, goes by its own
 * size; the holes of a shape that goes, go with it, as by themselves they would be filled.
 *
 * @param smallest, smallestHole  in square pixels, of what an outline goes round
 */
export function largeEnough({ points, starts }: Outlines, smallest: number, smallestHole: number): Kept {
  const count = starts.length - 1;
  const area = Float64Array.from(
    { length: count },
    (_, k) => twiceArea(points, starts[k], starts[k + 1]) / 2,
  );
  const gone = Array.from(area.keys()).filter((k) => area[k] > 0 && area[k] < smallest);
  const boxes = new Map(gone.map((k) => [k, outlineBox(points, starts[k], starts[k + 1])]));
  const kept: number[] = [];
  const filled: number[] = [];
  for (let k = 0; k < count; k++) {
    if (area[k] > 0) {
      if (area[k] >= smallest) kept.push(k);
      continue;
    }
    // Only a hole smaller than the shapes that go can lie in one.
    const size = -area[k];
    const [x, y] = [points[2 * starts[k]], points[2 * starts[k] + 1]];
    const isIn = (g: number): boolean => {
      const [left, top, right, bottom] = boxes.get(g)!;
      if (size >= area[g] || x < left || x > right || y < top || y > bottom) return false;
      return goesRound(points, starts[g], starts[g + 1], x, y);
    };
    if (size < smallest && gone.some(isIn)) continue;
    if (size >= smallestHole) kept.push(k);
    else filled.push(k);
  }
  return { kept, gone: [...gone, ...filled], specks: gone.length, pinholes: filled.length };
}

/** Left, top, right and bottom of a stretch of points. */
export function outlineBox(
  points: Float64Array,
  from: number,
  to: number,
): readonly [number, number, number, number] {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = from; k < to; k++) {
    left = Math.min(left, points[2 * k]);
    right = Math.max(right, points[2 * k]);
    top = Math.min(top, points[2 * k + 1]);
    bottom = Math.max(bottom, points[2 * k + 1]);
  }
  return [left, top, right, bottom];
}

/** Whether a closed line goes round a place: a ray to the right crosses it an odd number of times. */
function goesRound(points: Float64Array, from: number, to: number, x: number, y: number): boolean {
  let inside = false;
  for (let k = from, j = to - 1; k < to; j = k++) {
    const [ax, ay, bx, by] = [points[2 * k], points[2 * k + 1], points[2 * j], points[2 * j + 1]];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}
