import { degreesOf, sinPi } from "../maths/steady";

/**
 * Where the edge of a dragged blade goes when its holder follows a line: it is pulled along behind it, as a castor is. In
 * steps so short that what the edge does between them is straight.
 *
 * @param facing  the direction, in half turns, in which the blade lies at first
 */
export function draggedEdge(
  places: Float64Array,
  offsetMm: number,
  facing: number,
): { readonly points: Float64Array; readonly facing: number } {
  let [ux, uy] = [sinPi(facing + 0.5), sinPi(facing)];
  const out = [places[0] - offsetMm * ux, places[1] - offsetMm * uy];
  for (let k = 2; k < places.length; k += 2) {
    const [ax, ay] = [places[k - 2], places[k - 1]];
    const [dx, dy] = [places[k] - ax, places[k + 1] - ay];
    const length = Math.sqrt(dx * dx + dy * dy);
    const steps = Math.max(1, Math.ceil(length / (offsetMm / 40)));
    for (let s = 1; s <= steps; s++) {
      const [hx, hy] = [ax + (dx * s) / steps, ay + (dy * s) / steps];
      const last = out.length - 2;
      const [px, py] = [hx - out[last], hy - out[last + 1]];
      const off = Math.sqrt(px * px + py * py);
      if (off > 0) [ux, uy] = [px / off, py / off];
      out.push(hx - offsetMm * ux, hy - offsetMm * uy);
    }
  }
  return { points: Float64Array.from(out), facing: degreesOf(uy, ux) / 180 };
}
