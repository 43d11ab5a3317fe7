import { goesRound, ringArea, ringBox, type Ring, type Rings } from "./rings";

/** A hole in an area: where the area is cut out, what lies in the hole drops out with it. */
export const holesOf = (area: Rings): Ring[] => area.filter((ring) => ringArea(ring) < 0);

/** How far a bridge reaches beyond what it crosses, in mm: it must not end on the very line. */
const BEYOND_MM = 0.02;

/**
 * Bridges that hold what lies in the holes of an area which is cut out: for each hole a bar up and a bar down from it, across
 * the area, as far as the other side.
 *
 * @param area  clean rings, in mm
 * @param widthMm  of a bar
 */
export function bridgesOf(area: Rings, widthMm: number): Ring[] {
  return holesOf(area).flatMap((hole) => {
    const { x, y, width, height } = ringBox(hole);
    const half = Math.min(widthMm, width) / 2;
    const [middle, centre] = [x + width / 2, y + height / 2];
    const columns = [middle - 0.98 * half, middle, middle + 0.98 * half];
    const bars: Ring[] = [];
    for (const way of [-1, 1] as const) {
      const spans = columns
        .map((column) => strokeBeyond(area, hole, column, centre, way))
        .filter((s) => s !== null);
      if (spans.length === 0) continue;
      const near = Math.min(...spans.map((s) => way * s[0])) - BEYOND_MM;
      const far = Math.max(...spans.map((s) => way * s[1])) + BEYOND_MM;
      const [top, foot] = way > 0 ? [near, far] : [-far, -near];
      bars.push(
        Float64Array.of(middle - half, top, middle + half, top, middle + half, foot, middle - half, foot),
      );
    }
    return bars;
  });
}

/** Where, going up or down from a hole's middle, the area begins at its edge, and where it ends. */
function strokeBeyond(
  area: Rings,
  hole: Ring,
  column: number,
  from: number,
  way: 1 | -1,
): [number, number] | null {
  const beyond = (ys: readonly number[], than: number): number | undefined =>
    ys.filter((y) => way * (y - than) > 0).sort((a, b) => way * (a - b))[0];
  const own = crossings(hole, column).sort((a, b) => way * (a - b));
  // The edge of the hole that lies furthest that way: a hole may bend.
  const edge = own.findLast((y) => way * (y - from) > 0) ?? own.at(-1);
  if (edge === undefined) return null;
  const end = beyond(
    area.flatMap((ring) => crossings(ring, column)),
    edge + way * 1e-6,
  );
  return end === undefined ? null : [edge, end];
}

/** Where a ring crosses an upright line. */
function crossings(ring: Ring, x: number): number[] {
  const ys: number[] = [];
  for (let k = 0, j = ring.length - 2; k < ring.length; j = k, k += 2) {
    const [ax, ay, bx, by] = [ring[j], ring[j + 1], ring[k], ring[k + 1]];
    if (ax > x !== bx > x) ys.push(ay + ((x - ax) / (bx - ax)) * (by - ay));
  }
  return ys;
}

/** What the outermost rings of an area enclose and is not of it: its gaps, with what stands in them as holes. */
export const gapsOf = (area: Rings): Ring[] =>
  area.filter(
    (ring) =>
      !(ringArea(ring) > 0 && area.every((other) => other === ring || !goesRound(other, ring[0], ring[1]))),
  );
