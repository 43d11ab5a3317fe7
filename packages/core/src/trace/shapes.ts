import { goesRound, ringArea, ringBox } from "../polygon/rings";
import { outlineAt, type Outlines } from "./outlines";

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
export function largeEnough(outlines: Outlines, smallest: number, smallestHole: number): Kept {
  const count = outlines.starts.length - 1;
  const area = Float64Array.from({ length: count }, (_, k) => ringArea(outlineAt(outlines, k)));
  const gone = Array.from(area.keys()).filter((k) => area[k] > 0 && area[k] < smallest);
  const boxes = new Map(gone.map((k) => [k, ringBox(outlineAt(outlines, k))]));
  const kept: number[] = [];
  const filled: number[] = [];
  for (let k = 0; k < count; k++) {
    if (area[k] > 0) {
      if (area[k] >= smallest) kept.push(k);
      continue;
    }
    // Only a hole smaller than the shapes that go can lie in one.
    const size = -area[k];
    const [x, y] = outlineAt(outlines, k);
    const isIn = (g: number): boolean => {
      const box = boxes.get(g)!;
      if (size >= area[g] || x < box.x || x > box.x + box.width || y < box.y || y > box.y + box.height)
        return false;
      return goesRound(outlineAt(outlines, g), x, y);
    };
    if (size < smallest && gone.some(isIn)) continue;
    if (size >= smallestHole) kept.push(k);
    else filled.push(k);
  }
  return { kept, gone: [...gone, ...filled], specks: gone.length, pinholes: filled.length };
}
