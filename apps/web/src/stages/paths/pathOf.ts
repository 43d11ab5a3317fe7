import { type KnotPath } from "@hardline/core/path/pathSet";
import { plus } from "./drawPoints";

/** Paths as the canvas draws them, in mm; null of none. */
export function pathOf(paths: readonly KnotPath[]): Path2D | null {
  if (paths.length === 0) return null;
  const path = new Path2D();
  for (const { knots, closed } of paths) {
    path.moveTo(...knots[0].at);
    const count = closed ? knots.length : knots.length - 1;
    for (let k = 0; k < count; k++) {
      const [a, b] = [knots[k], knots[(k + 1) % knots.length]];
      if (!a.out && !b.in) path.lineTo(...b.at);
      else path.bezierCurveTo(...plus(a.at, a.out), ...plus(b.at, b.in), ...b.at);
    }
    if (closed) path.closePath();
  }
  return path;
}
