import { dotsPerMm } from "@hardline/core/maths/units";
import { type Rect } from "@hardline/core/raster/types";
import { type Finish } from "@hardline/core/result/finish";

/** How the picture is looked at. `free` holds a zoom of its own; the others follow the window and the finish. */
export type ZoomMode = "fit" | "dot" | "real" | "free";

export interface TableView {
  readonly mode: ZoomMode;
  /** Screen pixels a dot, for `free`. */
  readonly zoom: number;
  /** The point of the picture in the middle of the table, as fractions of its width and height. */
  readonly centre: readonly [number, number];
}

export interface Box {
  readonly width: number;
  readonly height: number;
}

export const WHOLE: TableView = { mode: "fit", zoom: 1, centre: [0.5, 0.5] };
const MARGIN = 36;
/** Room kept free at the foot of the table for its bar. */
const FOOT = 52;

/** Zooms that show whole dots as whole squares, and halves and thirds below them. */
const STEPS = [
  1 / 32,
  1 / 24,
  1 / 16,
  1 / 12,
  1 / 8,
  1 / 6,
  1 / 4,
  1 / 3,
  1 / 2,
  2 / 3,
  1,
  2,
  3,
  4,
  6,
  8,
  12,
  16,
  24,
  32,
];

/**
 * Screen pixels a dot.
 * @param whole  what is seen as a whole, in mm: the piece, and what of its paths reaches beyond it
 */
export function zoomOf(
  view: TableView,
  table: Box,
  finish: Finish,
  pixelsPerMm: number,
  whole: Rect = pieceOf(finish),
): number {
  switch (view.mode) {
    case "dot":
      return 1;
    case "real":
      return pixelsPerMm / dotsPerMm(finish);
    case "fit": {
      const perMm = dotsPerMm(finish);
      const across = (table.width - 2 * MARGIN) / (whole.width * perMm);
      const down = (table.height - MARGIN - FOOT - 24) / (whole.height * perMm);
      return Math.max(1 / 64, Math.min(across, down, 32));
    }
    default:
      return view.zoom;
  }
}

const pieceOf = ({ widthPx, heightPx, ...finish }: Finish): Rect => ({
  ...{ x: 0, y: 0 },
  width: widthPx / dotsPerMm(finish),
  height: heightPx / dotsPerMm(finish),
});

export interface Placed extends Rect {
  readonly zoom: number;
}

/** Where the picture lies on the table, in screen pixels. Whole dots lie on whole pixels. */
export function place(
  view: TableView,
  table: Box,
  finish: Finish,
  pixelsPerMm: number,
  whole: Rect = pieceOf(finish),
): Placed {
  const zoom = zoomOf(view, table, finish, pixelsPerMm, whole);
  const [width, height] = [finish.widthPx * zoom, finish.heightPx * zoom];
  const fit = view.mode === "fit";
  const middle = fit ? (table.height - FOOT + 24) / 2 : table.height / 2;
  const centre = [
    (whole.x + whole.width / 2) / finish.widthMm,
    (whole.y + whole.height / 2) / finish.heightMm,
  ] as const;
  const [cx, cy] = fit ? centre : view.centre;
  return {
    x: Math.round(table.width / 2 - cx * width),
    y: Math.round(middle - cy * height),
    width,
    height,
    zoom,
  };
}

/** The part of the picture that is to be seen, in dots, and the whole screen pixels it fills. */
export interface Seen {
  readonly part: Rect;
  readonly on: Rect;
}

/** What is to be seen of a picture; null when none of it is. */
export function visible(placed: Placed, table: Box): Seen | null {
  const left = Math.max(0, Math.floor(placed.x));
  const top = Math.max(0, Math.floor(placed.y));
  const right = Math.min(table.width, Math.ceil(placed.x + placed.width));
  const bottom = Math.min(table.height, Math.ceil(placed.y + placed.height));
  if (right - left < 1 || bottom - top < 1) return null;
  const { zoom } = placed;
  return {
    on: { x: left, y: top, width: right - left, height: bottom - top },
    part: {
      x: (left - placed.x) / zoom,
      y: (top - placed.y) / zoom,
      width: (right - left) / zoom,
      height: (bottom - top) / zoom,
    },
  };
}

/** The next zoom step up or down. */
export function stepZoom(zoom: number, up: boolean): number {
  return up
    ? (STEPS.find((s) => s > zoom * 1.001) ?? STEPS[STEPS.length - 1])
    : (STEPS.findLast((s) => s < zoom * 0.999) ?? STEPS[0]);
}

/** A view at another zoom in which the point of the picture under `at` stays where it is. */
export function zoomAt(placed: Placed, table: Box, at: readonly [number, number], zoom: number): TableView {
  const u = (at[0] - placed.x) / placed.width;
  const v = (at[1] - placed.y) / placed.height;
  const grow = zoom / placed.zoom;
  const [width, height] = [placed.width * grow, placed.height * grow];
  return {
    mode: "free",
    zoom,
    centre: [u + (table.width / 2 - at[0]) / width, v + (table.height / 2 - at[1]) / height],
  };
}

/** A view moved by screen pixels. */
export function pan(view: TableView, placed: Placed, table: Box, dx: number, dy: number): TableView {
  const cx = (table.width / 2 - placed.x - dx) / placed.width;
  const cy = (table.height / 2 - placed.y - dy) / placed.height;
  return {
    mode: view.mode === "fit" ? "free" : view.mode,
    zoom: placed.zoom,
    centre: [clamp(cx), clamp(cy)],
  };
}

/** A view that shows a place (in mm) in the middle, close enough to see its dots but with some around it. */
export function flyTo(
  where: { xMm: number; yMm: number; widthMm: number; heightMm: number },
  table: Box,
  finish: Finish,
): TableView {
  const perMm = dotsPerMm(finish);
  const wanted = Math.min(
    table.width / (where.widthMm * perMm * 3),
    table.height / (where.heightMm * perMm * 3),
    8,
  );
  return {
    mode: "free",
    zoom: Math.max(stepZoom(wanted * 1.002, false), 1 / 4),
    centre: [
      (where.xMm + where.widthMm / 2) / finish.widthMm,
      (where.yMm + where.heightMm / 2) / finish.heightMm,
    ],
  };
}

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
