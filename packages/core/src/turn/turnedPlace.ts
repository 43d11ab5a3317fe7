import { flatPaper } from "../paper/flat";
import { straightenedSize, turnedSize, type Turn } from "./turn";
import { cosPi, sinPi } from "../maths/steady";

type Point = readonly [number, number];
interface Size {
  readonly width: number;
  readonly height: number;
}

/** A picture before its quarter turns: where each of its places was, in pixels, on the picture as supplied. */
export interface Resampled extends Size {
  /** Writes that place. */
  readonly from: (x: number, y: number, to: Float64Array) => void;
}

/** A paper made flat, then straightened: both in one. */
export function resampledBy(supplied: Size, { paper, straighten }: Turn): Resampled {
  const flat = paper && flatPaper(supplied, paper);
  const { width, height } = flat ?? supplied;
  const [w, h] = straightenedSize(width, height, straighten);
  const [c, s] = [cosPi(straighten / 180), sinPi(straighten / 180)];
  return {
    ...{ width: w, height: h },
    from(x, y, to) {
      let [u, v] = [x, y];
      if (straighten !== 0) {
        const [dx, dy] = [x - w / 2, y - h / 2];
        u = c * dx + s * dy + width / 2;
        v = c * dy - s * dx + height / 2;
      }
      if (flat) return flat.onPhotograph(u, v, to);
      to[0] = u;
      to[1] = v;
    },
  };
}

/** Where a place of the turned picture was, as fractions of the sides, before and after. */
export function placeBefore(supplied: Size, turn: Turn): (place: Point) => [number, number] {
  const whole = turnedSize(supplied, turn);
  const upright = resampledBy(supplied, turn);
  const to = new Float64Array(2);
  return ([u, v]) => {
    const [a, b] = turn.mirror ? [1 - u, v] : [u, v];
    const [p, q] =
      turn.turn === 0
        ? [a, b]
        : turn.turn === 90
          ? [b, 1 - a]
          : turn.turn === 180
            ? [1 - a, 1 - b]
            : [1 - b, a];
    const [w, h] =
      turn.turn === 90 || turn.turn === 270 ? [whole.height, whole.width] : [whole.width, whole.height];
    upright.from(p * w, q * h, to);
    return [to[0] / supplied.width, to[1] / supplied.height];
  };
}

/** Steps of Newton's, and what they look to either side by. */
const [ROUNDS, ASIDE] = [30, 1e-4];

/** Where a place of the picture as supplied lies on the turned one, in fractions; as near as can be found. */
export function placeAfter(supplied: Size, turn: Turn): (place: Point) => [number, number] {
  const before = placeBefore(supplied, turn);
  return ([u, v]) => {
    let [x, y] = [0.5, 0.5];
    for (let round = 0; round < ROUNDS; round++) {
      const [a, b] = before([x, y]);
      const [ax, bx] = before([x + ASIDE, y]);
      const [ay, by] = before([x, y + ASIDE]);
      const [xx, xy, yx, yy] = [ax - a, ay - a, bx - b, by - b].map((d) => d / ASIDE);
      const det = xx * yy - xy * yx;
      if (Math.abs(det) < 1e-12) break;
      const [du, dv] = [u - a, v - b];
      const [dx, dy] = [(yy * du - xy * dv) / det, (xx * dv - yx * du) / det];
      // Not further at once than the picture is long.
      const held = Math.min(1, 0.5 / Math.max(Math.abs(dx), Math.abs(dy), 1e-9));
      [x, y] = [x + dx * held, y + dy * held];
      if (Math.max(Math.abs(dx), Math.abs(dy)) < 1e-9) break;
    }
    return [x, y];
  };
}
