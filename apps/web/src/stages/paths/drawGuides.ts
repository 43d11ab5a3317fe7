import { type Box } from "../../table/geometry";
import { type OnTable } from "./onTable";
import { type Guides, type SnapLine } from "./snapping";

const GUIDE = "#1d6b45";
const INK = "#15181d";
/** Breadth of a ruler, on the screen. */
export const RULER = 18;
const FONT = "500 11px 'IBM Plex Mono', monospace";

/** Guides across the whole table, dotted. */
export function drawGuides(
  pen: CanvasRenderingContext2D,
  { x, y }: Guides,
  { toScreen }: OnTable,
  box: Box,
): void {
  pen.strokeStyle = GUIDE;
  pen.lineWidth = 1.2;
  pen.setLineDash([1.5, 3]);
  pen.beginPath();
  for (const mm of x) {
    const at = Math.round(toScreen([mm, 0])[0]) + 0.5;
    pen.moveTo(at, 0);
    pen.lineTo(at, box.height);
  }
  for (const mm of y) {
    const at = Math.round(toScreen([0, mm])[1]) + 0.5;
    pen.moveTo(0, at);
    pen.lineTo(box.width, at);
  }
  pen.stroke();
  pen.setLineDash([]);
}

/** What something snapped to, and how far off it is. */
export function drawSnaps(
  pen: CanvasRenderingContext2D,
  snaps: readonly SnapLine[],
  { toScreen }: OnTable,
  words: (mm: number) => string,
): void {
  pen.strokeStyle = GUIDE;
  pen.lineWidth = 1.5;
  for (const { axis, at, from, to, told } of snaps) {
    const place = (along: number) => toScreen(axis === "x" ? [at, along] : [along, at]);
    pen.setLineDash([1.5, 3]);
    pen.beginPath();
    pen.moveTo(...place(from));
    pen.lineTo(...place(to));
    pen.stroke();
    pen.setLineDash([]);
    for (const [a, b] of told) label(pen, place((a + b) / 2), words(b - a));
  }
}

/** A few words on a pale ground. */
export function label(pen: CanvasRenderingContext2D, [x, y]: readonly [number, number], text: string): void {
  pen.font = FONT;
  const width = pen.measureText(text).width + 8;
  pen.fillStyle = "#ffffff";
  pen.fillRect(x - width / 2, y - 9, width, 18);
  pen.fillStyle = GUIDE;
  pen.textAlign = "center";
  pen.textBaseline = "middle";
  pen.fillText(text, x, y + 1);
}

/** Steps between a ruler's marks, in mm or inches; marks are no nearer than this on the screen. */
const STEPS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500];
const APART = 42;

/** Rulers along the top and the left, in mm, or in inches. */
export function drawRulers(
  pen: CanvasRenderingContext2D,
  { toMm, toScreen, perMm }: OnTable,
  box: Box,
  mmPerUnit: number,
): void {
  pen.fillStyle = "#ffffff";
  pen.fillRect(0, 0, box.width, RULER);
  pen.fillRect(0, 0, RULER, box.height);
  pen.strokeStyle = INK;
  pen.fillStyle = INK;
  pen.lineWidth = 1;
  pen.font = "500 10px 'IBM Plex Mono', monospace";
  const perUnit = perMm * mmPerUnit;
  const step = STEPS.find((s) => s * perUnit >= APART) ?? 1000;
  const [left, top] = toMm(RULER, RULER);
  const [right, bottom] = toMm(box.width, box.height);
  pen.beginPath();
  for (const [from, to, across] of [
    [left, right, true],
    [top, bottom, false],
  ] as const)
    for (let k = Math.ceil(from / mmPerUnit / step); k * step * mmPerUnit <= to; k++) {
      const value = k * step;
      const at = Math.round(toScreen([value * mmPerUnit, value * mmPerUnit])[across ? 0 : 1]) + 0.5;
      pen.moveTo(...((across ? [at, RULER - 6] : [RULER - 6, at]) as [number, number]));
      pen.lineTo(...((across ? [at, RULER] : [RULER, at]) as [number, number]));
      pen.textBaseline = "top";
      pen.textAlign = "left";
      const text = String(Math.round(value * 1000) / 1000);
      if (across) pen.fillText(text, at + 2, 2);
      else {
        pen.save();
        pen.translate(2, at + 2);
        pen.rotate(Math.PI / 2);
        pen.textBaseline = "bottom";
        pen.fillText(text, 0, 0);
        pen.restore();
      }
    }
  pen.moveTo(0, RULER + 0.5);
  pen.lineTo(box.width, RULER + 0.5);
  pen.moveTo(RULER + 0.5, 0);
  pen.lineTo(RULER + 0.5, box.height);
  pen.stroke();
}
