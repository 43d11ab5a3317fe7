import { type Shown, type ShownPane } from "../../engine/protocol";
import { drawPaths, withinPrint, type PathStore } from "./drawPaths";
import { css } from "../../table/colour";
import { type Box, type Placed } from "../../table/geometry";
import { type ShiftedLayer } from "../../table/ShiftedLayer";
import { type Wipe } from "./useTable";

/** Paths are drawn on a layer of their own, that moves with the table. */
export interface Lines {
  readonly layer: ShiftedLayer;
  readonly exact: boolean;
  readonly moved: () => void;
}

/** Another route lies beside, right of this many pixels. */
export interface Split {
  readonly at: number;
}

/**
 * Draws what was last computed where it belongs now: while a newer picture is on its way, the last one moves and
 * grows with the hand.
 */
export function drawTable(
  canvas: HTMLCanvasElement,
  box: Box,
  placed: Placed | null,
  shown: Shown | null,
  wipe: Wipe,
  backing: number,
  hatched = false,
  paths: PathStore | null = null,
  hidden: readonly string[] = [],
  split: Split | null = null,
  lines: Lines | null = null,
): void {
  const ratio = window.devicePixelRatio || 1;
  const [width, height] = [Math.round(box.width * ratio), Math.round(box.height * ratio)];
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  const pen = canvas.getContext("2d")!;
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, box.width, box.height);
  if (!placed || !shown) return;
  const name = shown.key.slice(0, 16);
  if (canvas.dataset.shown !== name) canvas.dataset.shown = name; // what is on it, for whoever looks from outside

  pen.shadowColor = "rgba(21, 24, 29, 0.28)";
  pen.shadowBlur = 10;
  pen.shadowOffsetY = 1;
  pen.fillStyle = css(backing);
  pen.fillRect(placed.x, placed.y, placed.width, placed.height);
  pen.shadowColor = "transparent";
  if (hatched) hatch(pen, placed, box, backing);

  const draw = (pane: ShownPane): void => {
    const known = (pane.pathsKey && paths?.get(pane.pathsKey)) || null;
    const sets = known?.sets;
    // Filled shapes are the picture themselves; what they were traced from would show at their edges.
    const filled = sets?.some(({ use, name }) => use === "fill" && !hidden.includes(name)) ?? false;
    const on = [placed, shown.finish] as const;
    if (!filled) withinPrint(pen, known, on, hidden, () => drawPane(pen, pane, placed, shown));
    if (!sets) return;
    // One layer holds the paths of one pane; beside each other, or wiped, each is drawn by itself.
    if (!lines || split || wipe.on) drawPaths(pen, sets, on, hidden);
    else {
      const all = (own: CanvasRenderingContext2D) => drawPaths(own, sets, on, hidden);
      const of = [sets, placed.width, hidden];
      if (lines.layer.lay(pen, box, of, [placed.x, placed.y], lines.exact, all)) lines.moved();
    }
  };
  const [after, before] = shown.panes;
  if (split) {
    inside(pen, 0, split.at, box.height, () => draw(after));
    const right = shown.panes.find((p) => p.beside);
    inside(pen, split.at, box.width - split.at, box.height, () => {
      pen.translate(split.at, 0);
      pen.fillStyle = css(right?.base ?? backing);
      pen.fillRect(placed.x, placed.y, placed.width, placed.height);
      if (right) draw(right);
    });
    pen.fillStyle = "#ffffff";
    pen.fillRect(split.at - 1, 0, 3, box.height);
    return;
  }
  if (!wipe.on || !before) return draw(after);
  const edge = Math.round(wipe.at * box.width);
  inside(pen, 0, edge, box.height, () => draw(before));
  inside(pen, edge, box.width - edge, box.height, () => draw(after));
}

/** Thin lines at 45 degrees over the backing: what shows them is cleared. They keep their width at any zoom. */
function hatch(
  pen: CanvasRenderingContext2D,
  { x, y, width, height }: Placed,
  box: Box,
  backing: number,
): void {
  const luma = ((backing >> 16) & 255) * 0.21 + ((backing >> 8) & 255) * 0.72 + (backing & 255) * 0.07;
  const [left, top] = [Math.max(0, x), Math.max(0, y)];
  const [right, bottom] = [Math.min(box.width, x + width), Math.min(box.height, y + height)];
  pen.save();
  pen.beginPath();
  pen.rect(left, top, right - left, bottom - top);
  pen.clip();
  pen.strokeStyle = luma > 110 ? "rgba(21, 24, 29, 0.2)" : "rgba(255, 255, 255, 0.24)";
  pen.lineWidth = 1;
  pen.beginPath();
  const start = x + y + HATCH * Math.floor((left + top - x - y) / HATCH); // moves with the picture
  for (let c = start; c < right + bottom; c += HATCH) {
    pen.moveTo(c - top, top);
    pen.lineTo(c - bottom, bottom);
  }
  pen.stroke();
  pen.restore();
}

const HATCH = 9;

function inside(
  pen: CanvasRenderingContext2D,
  x: number,
  width: number,
  height: number,
  draw: () => void,
): void {
  pen.save();
  pen.beginPath();
  pen.rect(x, 0, width, height);
  pen.clip();
  draw();
  pen.restore();
}

function drawPane(
  pen: CanvasRenderingContext2D,
  { bitmap, part }: ShownPane,
  placed: Placed,
  shown: Shown,
): void {
  // Where the pane's part of its own finish lies in the picture as it is placed now.
  const sx = placed.width / shown.finish.widthPx;
  const sy = placed.height / shown.finish.heightPx;
  pen.imageSmoothingEnabled = false;
  pen.drawImage(
    bitmap,
    Math.round(placed.x + part.x * sx),
    Math.round(placed.y + part.y * sy),
    Math.round(part.width * sx),
    Math.round(part.height * sy),
  );
}
