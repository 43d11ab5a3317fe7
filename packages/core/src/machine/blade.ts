import { degreesOf, sinPi } from "../maths/steady";

/** The holder swings round a corner in steps of this, in half turns; a chord is then off by r (step)² / 8. */
const STEP = 0.05;

/**
 * Where the holder of a dragged blade has to go, so that the blade's edge, which trails behind it, follows a line: ahead of
 * it by the blade's offset, and round each corner on a circle about it while the edge stays in the corner.
 *
 * @param points    of the line: x, y, in mm
 * @param offsetMm  from the holder's middle to the edge
 * @param facing    the direction, in half turns, in which the blade lies before it is lowered; -1..1
 * @returns         the holder's places, and how the blade lies at the end
 */
export function holderPath(
  points: Float64Array,
  offsetMm: number,
  facing: number,
): { readonly places: Float64Array; readonly facing: number } {
  if (offsetMm === 0) return { places: points, facing };
  const out: number[] = [];
  let now = facing;
  const put = (x: number, y: number, direction: number): void => {
    out.push(x + offsetMm * sinPi(direction + 0.5), y + offsetMm * sinPi(direction));
  };
  put(points[0], points[1], now);
  for (let k = 2; k < points.length; k += 2) {
    const [dx, dy] = [points[k] - points[k - 2], points[k + 1] - points[k - 1]];
    if (dx === 0 && dy === 0) continue;
    const next = degreesOf(dy, dx) / 180;
    let turn = next - now;
    while (turn > 1) turn -= 2;
    while (turn < -1) turn += 2;
    const steps = Math.ceil(Math.abs(turn) / STEP);
    for (let s = 1; s <= steps; s++) put(points[k - 2], points[k - 1], now + (turn * s) / steps);
    now = next;
    put(points[k], points[k + 1], now);
  }
  return { places: Float64Array.from(out), facing: now };
}

/** A closed line and, once more, so much of its beginning. */
export function goneOn(points: Float64Array, byMm: number): Float64Array {
  const out = Array.from(points);
  for (let k = 2, left = byMm; k < points.length && left > 0; k += 2) {
    const [dx, dy] = [points[k] - points[k - 2], points[k + 1] - points[k - 1]];
    const length = Math.sqrt(dx * dx + dy * dy);
    const share = length > left ? left / length : 1;
    out.push(points[k - 2] + dx * share, points[k - 1] + dy * share);
    left -= length;
  }
  return Float64Array.from(out);
}

/**
 * Where the edge of a dragged blade goes when its holder follows a line: it is pulled along behind it, as a castor is. In
 * steps so short that what the edge does between them is straight.
 *
 * @param facing  as for `holderPath`
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
