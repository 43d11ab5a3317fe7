import { isSmooth } from "@hardline/core/edit/points";
import { type KnotPath } from "@hardline/core/path/pathSet";
import { type Box } from "../../table/geometry";
import { type At, type OnTable } from "./onTable";

const [STAMP, INK, WHITE] = ["#1f45c4", "#15181d", "#ffffff"];
/** Half the side of a corner's square, and the radius of a smooth point, on the screen. */
const SIZE = 3.2;
/** So many points in view are drawn; more would hide the line. */
const MOST = 12000;

/** A path's line, as it will be, over the picture. */
export function drawLine(
  pen: CanvasRenderingContext2D,
  { knots, closed }: KnotPath,
  { toScreen }: OnTable,
  colour = STAMP,
): void {
  pen.beginPath();
  pen.moveTo(...toScreen(knots[0].at));
  const count = closed ? knots.length : knots.length - 1;
  for (let k = 0; k < count; k++) {
    const [a, b] = [knots[k], knots[(k + 1) % knots.length]];
    pen.bezierCurveTo(...toScreen(plus(a.at, a.out)), ...toScreen(plus(b.at, b.in)), ...toScreen(b.at));
  }
  pen.lineJoin = "round";
  for (const [style, width] of [
    [WHITE, 4],
    [colour, 2],
  ] as const) {
    pen.strokeStyle = style;
    pen.lineWidth = width;
    pen.stroke();
  }
}

/** Points of paths: squares for corners, circles for smooth ones. */
export function drawPoints(
  pen: CanvasRenderingContext2D,
  paths: readonly KnotPath[],
  { toScreen }: OnTable,
  { width, height }: Box,
): void {
  const marks = new Path2D();
  let count = 0;
  for (const { knots } of paths)
    for (const knot of knots) {
      const [x, y] = toScreen(knot.at);
      if (x < -SIZE || y < -SIZE || x > width + SIZE || y > height + SIZE) continue;
      if (++count > MOST) break;
      if (isSmooth(knot)) {
        marks.moveTo(x + SIZE, y);
        marks.arc(x, y, SIZE, 0, 2 * Math.PI);
      } else marks.rect(x - SIZE, y - SIZE, 2 * SIZE, 2 * SIZE);
    }
  pen.fillStyle = WHITE;
  pen.fill(marks);
  pen.strokeStyle = STAMP;
  pen.lineWidth = 1.3;
  pen.stroke(marks);
}

/** A chosen point, filled, with its handles. */
export function drawChosen(
  pen: CanvasRenderingContext2D,
  path: KnotPath,
  k: number,
  { toScreen }: OnTable,
): void {
  const knot = path.knots[k];
  const [x, y] = toScreen(knot.at);
  pen.strokeStyle = INK;
  pen.fillStyle = INK;
  pen.lineWidth = 1;
  for (const by of [knot.in, knot.out]) {
    if (!by) continue;
    const [hx, hy] = toScreen(plus(knot.at, by));
    pen.beginPath();
    pen.moveTo(x, y);
    pen.lineTo(hx, hy);
    pen.stroke();
    pen.beginPath();
    pen.arc(hx, hy, 3, 0, 2 * Math.PI);
    pen.fill();
  }
  pen.fillStyle = STAMP;
  pen.strokeStyle = WHITE;
  pen.lineWidth = 1.5;
  pen.beginPath();
  if (isSmooth(knot)) pen.arc(x, y, SIZE + 1.3, 0, 2 * Math.PI);
  else pen.rect(x - SIZE - 1.3, y - SIZE - 1.3, 2 * SIZE + 2.6, 2 * SIZE + 2.6);
  pen.fill();
  pen.stroke();
}

export const plus = (p: At, d: At = [0, 0]): At => [p[0] + d[0], p[1] + d[1]];
