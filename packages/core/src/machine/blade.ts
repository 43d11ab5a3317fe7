import { degreesOf, sinPi } from "../maths/steady";

// Thresholds: what they decide is measured by `npm run runs`.

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
