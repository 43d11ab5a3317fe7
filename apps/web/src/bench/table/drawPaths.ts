import { type Finish, type PathSet } from "@hardline/core";
import { type Shown } from "../../engine/protocol";
import { css } from "./colour";
import { type Placed } from "./geometry";

/** A set of paths as the canvas draws it, in millimetres; made once and drawn at any zoom. */
interface Drawable {
  readonly name: string;
  readonly colour: string;
  readonly use: PathSet["use"];
  readonly path: Path2D;
}

/** Sets of paths are told once and named from then on; so many are held. */
const MOST_KEPT = 24;

/** Paths that the worker told of, by key. */
export class PathStore {
  private readonly kept = new Map<string, readonly Drawable[]>();

  take({ paths }: Pick<Shown, "paths">): void {
    for (const { key, sets } of paths) this.kept.set(key, sets.map(drawable));
    for (const key of this.kept.keys()) {
      if (this.kept.size <= MOST_KEPT) return;
      this.kept.delete(key);
    }
  }

  get(key: string): readonly Drawable[] | null {
    return this.kept.get(key) ?? null;
  }
}

function drawable({ name, colour, use, points, starts, closed }: PathSet): Drawable {
  const path = new Path2D();
  for (let k = 0; k < closed.length; k++) {
    path.moveTo(points[2 * starts[k]], points[2 * starts[k] + 1]);
    for (let p = starts[k]; p + 3 < starts[k + 1]; p += 3) {
      const [, , a, b, c, d, e, f] = points.subarray(2 * p, 2 * p + 8);
      path.bezierCurveTo(a, b, c, d, e, f);
    }
    if (closed[k]) path.closePath();
  }
  return { name, colour: css(colour), use, path };
}

/**
 * Lines on the screen: their own colour with a white casing; what is cut through the top layer only is dashed, what is
 * run lightly is thinner.
 */
const [CASING, LINE, SCORED] = [3.6, 1.6, 1.3];
const DASH = [6, 4];

/** Draws paths where they lie on the piece, as sharp as the screen is at any zoom. */
export function drawPaths(
  pen: CanvasRenderingContext2D,
  sets: readonly Drawable[],
  placed: Placed,
  { widthMm }: Finish,
  hidden: readonly string[],
): void {
  const perMm = placed.width / widthMm;
  pen.save();
  pen.translate(placed.x, placed.y);
  pen.scale(perMm, perMm);
  pen.lineJoin = "round";
  for (const { name, colour, use, path } of sets) {
    if (hidden.includes(name)) continue;
    if (use === "fill") {
      pen.fillStyle = colour;
      pen.fill(path, "evenodd");
      continue;
    }
    pen.setLineDash([]);
    pen.strokeStyle = "#ffffff";
    pen.lineWidth = CASING / perMm;
    pen.stroke(path);
    if (use === "kiss") pen.setLineDash(DASH.map((d) => d / perMm));
    pen.strokeStyle = colour;
    pen.lineWidth = (use === "score" ? SCORED : LINE) / perMm;
    pen.stroke(path);
  }
  pen.restore();
}
