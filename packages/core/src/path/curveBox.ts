import { type Rect } from "../raster/types";
import { type KnotPath } from "./pathSet";

/** The box of paths' own lines, curves by where they turn back, not by their handles; null of none. */
export function curveBox(paths: readonly KnotPath[]): Rect | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  const put = (x: number, y: number): void => {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  };
  for (const { knots, closed } of paths)
    knots.forEach((a, k) => {
      put(a.at[0], a.at[1]);
      const b = knots[k + 1] ?? (closed ? knots[0] : null);
      if (!b || (!a.out && !b.in)) return;
      const [ax, ay] = [a.at[0] + (a.out?.[0] ?? 0), a.at[1] + (a.out?.[1] ?? 0)];
      const [bx, by] = [b.at[0] + (b.in?.[0] ?? 0), b.at[1] + (b.in?.[1] ?? 0)];
      for (const x of turnsBack(a.at[0], ax, bx, b.at[0])) put(x, a.at[1]);
      for (const y of turnsBack(a.at[1], ay, by, b.at[1])) put(a.at[0], y);
    });
  return left > right ? null : { x: left, y: top, width: right - left, height: bottom - top };
}

/** Where one coordinate of a cubic turns back between its ends: at the roots of its derivative. */
function turnsBack(p: number, q: number, r: number, s: number): number[] {
  const [low, high] = [Math.min(p, s), Math.max(p, s)];
  if (q >= low && q <= high && r >= low && r <= high) return [];
  const [a, b, c] = [s - 3 * r + 3 * q - p, 2 * (r - 2 * q + p), q - p];
  const roots: number[] = [];
  if (Math.abs(a) < 1e-12) {
    if (b !== 0) roots.push(-c / b);
  } else {
    const root = Math.sqrt(Math.max(0, b * b - 4 * a * c));
    roots.push((-b - root) / (2 * a), (-b + root) / (2 * a));
  }
  return roots
    .filter((t) => t > 0 && t < 1)
    .map((t) => {
      const u = 1 - t;
      return u * u * u * p + 3 * u * u * t * q + 3 * u * t * t * r + t * t * t * s;
    });
}
