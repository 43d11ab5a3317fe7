import { type PlacedPrint } from "@hardline/core/mockUp/place";
import { type Point, type Surface } from "@hardline/core/mockUp/surface";
import { figure } from "@hardline/core/inspect/check";
import { inUnit } from "@hardline/core/maths/lengthWords";
import { type Unit } from "../../shared/unit";
import { ownOn } from "./onThing";
import { type Snapped } from "./snapPrint";

interface Drawing {
  readonly prints: readonly PlacedPrint[];
  readonly chosen: number;
  readonly toScreen: (at: Point) => Point;
  readonly snapped: Snapped | null;
  readonly moving: boolean;
  /** As many mm as a hand is near by. */
  readonly nearMm: number;
  readonly unit: Unit;
}

const [INK, PAPER, LINE] = ["#15181d", "#ffffff", "#1f45c4"];
/** Pieces that a side is drawn in where the area is bent. */
const PIECES = 16;

/** The chosen print's outline, the area it may lie in, the lines it was drawn to, and its distances. */
export function drawPrints(pen: CanvasRenderingContext2D, drawing: Drawing): void {
  const { prints, chosen, toScreen, snapped, moving, nearMm, unit } = drawing;
  prints.forEach((print, k) => {
    if (k === chosen) return;
    for (const surface of print.area.surfaces) outline(pen, print, surface, toScreen, false);
  });
  const print = prints[chosen];
  if (!print) return;
  const { area } = print;
  for (const surface of area.surfaces) {
    if (moving) limits(pen, area.limits, surface, toScreen);
    outline(pen, print, surface, toScreen, true);
  }
  const main = area.surfaces[0];
  if (snapped?.x !== null && snapped?.x !== undefined)
    stroke(
      pen,
      [
        [snapped.x, area.limits.y],
        [snapped.x, area.limits.y + area.limits.height],
      ],
      main,
      toScreen,
      LINE,
      [6, 4],
    );
  if (snapped?.y !== null && snapped?.y !== undefined)
    stroke(
      pen,
      [
        [area.limits.x, snapped.y],
        [area.limits.x + area.limits.width, snapped.y],
      ],
      main,
      toScreen,
      LINE,
      [6, 4],
    );
  distances(pen, print, main, toScreen, nearMm, unit);
  const handle = turnHandle(print, toScreen, nearMm);
  if (!handle) return;
  pen.beginPath();
  pen.arc(handle[0], handle[1], 5.5, 0, 2 * Math.PI);
  pen.fillStyle = PAPER;
  pen.fill();
  pen.lineWidth = 1.5;
  pen.strokeStyle = INK;
  pen.stroke();
}

/** Where the handle that turns a print is on the screen; null where it is not seen. */
export function turnHandle(print: PlacedPrint, toScreen: (at: Point) => Point, nearMm: number): Point | null {
  const at = print.area.surfaces[0].seen(
    ...ownOn(print, print.widthMm / 2 + 2 * nearMm, -print.heightMm / 2 - 2 * nearMm),
  );
  return at && toScreen(at);
}

function outline(
  pen: CanvasRenderingContext2D,
  print: PlacedPrint,
  surface: Surface,
  toScreen: (at: Point) => Point,
  isChosen: boolean,
): void {
  const [w, h] = [print.widthMm / 2, print.heightMm / 2];
  const corners: Point[] = [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
    [-w, -h],
  ];
  const own = corners.map(([x, y]) => ownOn(print, x, y));
  stroke(pen, own, surface, toScreen, "rgba(255,255,255,0.9)", [], isChosen ? 3 : 2);
  stroke(pen, own, surface, toScreen, INK, isChosen ? [] : [3, 4], isChosen ? 1.25 : 1);
}

function limits(
  pen: CanvasRenderingContext2D,
  { x, y, width, height }: PlacedPrint["box"],
  surface: Surface,
  toScreen: (at: Point) => Point,
): void {
  const corners: Point[] = [
    [x, y],
    [x + width, y],
    [x + width, y + height],
    [x, y + height],
    [x, y],
  ];
  stroke(pen, corners, surface, toScreen, "rgba(31,69,196,0.75)", [2, 5]);
}

function stroke(
  pen: CanvasRenderingContext2D,
  places: readonly Point[],
  surface: Surface,
  toScreen: (at: Point) => Point,
  colour: string,
  dash: number[],
  width = 1,
): void {
  pen.beginPath();
  let down = false;
  for (let k = 0; k + 1 < places.length; k++) {
    const [a, b] = [places[k], places[k + 1]];
    for (let s = 0; s <= PIECES; s++) {
      const t = s / PIECES;
      const seen = surface.seen(a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t);
      if (!seen) {
        down = false;
        continue;
      }
      const [x, y] = toScreen(seen);
      if (down) pen.lineTo(x, y);
      else pen.moveTo(x, y);
      down = true;
    }
  }
  pen.setLineDash(dash);
  pen.lineWidth = width;
  pen.strokeStyle = colour;
  pen.stroke();
  pen.setLineDash([]);
}

/** How far it lies below its area's beginning, and off the middle line. */
function distances(
  pen: CanvasRenderingContext2D,
  { box, middle, area }: PlacedPrint,
  surface: Surface,
  toScreen: (at: Point) => Point,
  nearMm: number,
  unit: Unit,
): void {
  const side = middle[0] >= 0 ? box.x + box.width : box.x;
  const shown: { from: Point; to: Point; mm: number }[] = [];
  if (Math.abs(box.y) > 0.5)
    shown.push({ from: [middle[0], 0], to: [middle[0], box.y], mm: Math.abs(box.y) });
  const y = box.y + box.height + 2.5 * nearMm;
  if (Math.abs(middle[0]) > 0.5) shown.push({ from: [0, y], to: [middle[0], y], mm: Math.abs(middle[0]) });
  const edge = middle[0] >= 0 ? area.edges.x + area.edges.width : area.edges.x;
  shown.push({ from: [side, y], to: [edge, y], mm: Math.abs(edge - side) });
  for (const { from, to, mm } of shown) {
    const [a, b] = [surface.seen(...from), surface.seen(...to)];
    if (!a || !b || mm < 0.5) continue;
    stroke(pen, [from, to], surface, toScreen, LINE, []);
    const [p, q] = [toScreen(a), toScreen(b)];
    tag(pen, inUnit(`${figure(mm)} mm`, unit), (p[0] + q[0]) / 2, (p[1] + q[1]) / 2);
  }
}

function tag(pen: CanvasRenderingContext2D, text: string, x: number, y: number): void {
  pen.font = "600 12px 'IBM Plex Mono', monospace";
  const wide = pen.measureText(text).width + 10;
  pen.fillStyle = LINE;
  pen.fillRect(x - wide / 2, y - 9, wide, 18);
  pen.fillStyle = PAPER;
  pen.textAlign = "center";
  pen.textBaseline = "middle";
  pen.fillText(text, x, y + 0.5);
}
