import { type SetText } from "@hardline/core/edit/operation";
import { boxWith, type PathSet } from "@hardline/core/path/pathSet";
import { type Rect } from "@hardline/core/raster/types";
import { type Finish } from "@hardline/core/result/finish";
import { type Shown, type Underlay } from "../../engine/protocol";
import { css } from "../../table/colour";
import { type Placed } from "../../table/geometry";

/** A set of paths as the canvas draws it, in millimetres; made once and drawn at any zoom. */
interface Drawable {
  readonly name: string;
  readonly colour: string;
  readonly use: PathSet["use"];
  /** Of what is printed: the colour under the art. */
  readonly ground: string | null;
  readonly path: Path2D;
}

/** Paths as the canvas draws them, and what is printed under a picture out to them. */
export interface DrawnPaths {
  readonly sets: readonly Drawable[];
  readonly underlay: Underlay | null;
}

/** Sets of paths are told once and named from then on; so many are held. */
const MOST_KEPT = 24;

const NONE: readonly PathSet[] = [];
const NO_TEXTS: readonly SetText[] = [];

/** Paths that the worker told of, by key. */
export class PathStore {
  private readonly kept = new Map<string, DrawnPaths>();
  private readonly sets = new Map<string, readonly PathSet[]>();
  private readonly texts = new Map<string, readonly SetText[]>();

  take({ paths }: Pick<Shown, "paths">): void {
    for (const { key, sets, texts, underlay } of paths) {
      this.kept.set(key, { sets: sets.map(drawable), underlay });
      this.sets.set(key, sets);
      this.texts.set(key, texts);
    }
    for (const key of this.kept.keys()) {
      if (this.kept.size <= MOST_KEPT) return;
      this.kept.get(key)!.underlay?.bitmap.close();
      this.kept.delete(key);
      this.sets.delete(key);
      this.texts.delete(key);
    }
  }

  /** The sets of that key; none where they are not known. */
  setsOf(key: string | null | undefined): readonly PathSet[] {
    return (key && this.sets.get(key)) || NONE;
  }

  /** The words on the sets of that key. */
  textsOf(key: string | null | undefined): readonly SetText[] {
    return (key && this.texts.get(key)) || NO_TEXTS;
  }

  /** The box of a piece and of the paths of that key, in whole mm outwards; null where they are not known. */
  boxWith(key: string, { widthMm, heightMm }: Finish): Rect | null {
    const sets = this.sets.get(key);
    if (!sets) return null;
    const { x, y, width, height } = boxWith(sets, widthMm, heightMm);
    const [left, top] = [Math.floor(x), Math.floor(y)];
    const [right, bottom] = [x + width, y + height].map((v, k) => {
      const own = k === 0 ? widthMm : heightMm;
      return v > own + 1e-6 ? Math.ceil(v) : own;
    });
    return { x: left, y: top, width: right - left, height: bottom - top };
  }

  get(key: string): DrawnPaths | null {
    return this.kept.get(key) ?? null;
  }
}

function drawable({ name, colour, use, ground, points, starts, closed }: PathSet): Drawable {
  const path = new Path2D();
  for (let k = 0; k < closed.length; k++) {
    path.moveTo(points[2 * starts[k]], points[2 * starts[k] + 1]);
    for (let p = starts[k]; p + 3 < starts[k + 1]; p += 3) {
      const o = 2 * p;
      const [a, b, c, d] = [points[o + 2], points[o + 3], points[o + 4], points[o + 5]];
      const [x, y] = [points[o + 6], points[o + 7]];
      // A first look is all of straight pieces, which a browser draws several times as fast as curves.
      if (a === points[o] && b === points[o + 1] && c === x && d === y) path.lineTo(x, y);
      else path.bezierCurveTo(a, b, c, d, x, y);
    }
    if (closed[k]) path.closePath();
  }
  return { name, colour: css(colour), use, ground: ground === undefined ? null : css(ground), path };
}

/**
 * Lines on the screen: their own colour with a white casing; what is cut through the top layer only is dashed, what is
 * run lightly is thinner.
 */
const [CASING, LINE, SCORED] = [3.6, 1.6, 1.3];
const DASH = [6, 4];

/** Where paths lie on the table. */
type On = readonly [placed: Placed, finish: Finish];

/** Draws in the millimetres of the piece. */
function onPiece(
  pen: CanvasRenderingContext2D,
  [placed, { widthMm }]: On,
  draw: (perMm: number) => void,
): void {
  const perMm = placed.width / widthMm;
  pen.save();
  pen.translate(placed.x, placed.y);
  pen.scale(perMm, perMm);
  draw(perMm);
  pen.restore();
}

/** Draws what is printed within the line alone, on the colour that lies under it. */
export function withinPrint(
  pen: CanvasRenderingContext2D,
  paths: DrawnPaths | null,
  on: On,
  hidden: readonly string[],
  draw: () => void,
): void {
  const print = paths?.sets.find((s) => s.use === "print" && !hidden.includes(s.name));
  if (!print) return draw();
  const underlay = paths?.underlay;
  onPiece(pen, on, () => {
    if (underlay) pen.drawImage(underlay.bitmap, underlay.x, underlay.y, underlay.width, underlay.height);
    if (!print.ground) return;
    pen.fillStyle = print.ground;
    pen.fill(print.path, "evenodd");
  });
  const clip = new Path2D();
  const [{ x, y, width }, { widthMm }] = on;
  clip.addPath(print.path, new DOMMatrix([width / widthMm, 0, 0, width / widthMm, x, y]));
  pen.save();
  pen.clip(clip, "evenodd");
  draw();
  pen.restore();
}

/** Draws paths where they lie on the piece, as sharp as the screen is at any zoom. */
export function drawPaths(
  pen: CanvasRenderingContext2D,
  sets: readonly Drawable[],
  on: On,
  hidden: readonly string[],
): void {
  onPiece(pen, on, (perMm) => {
    pen.lineJoin = "round";
    for (const { name, colour, use, path } of sets) {
      if (hidden.includes(name) || use === "print") continue;
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
  });
}
