import { type PageLayer } from "@hardline/contract";
import { type Rgba } from "@hardline/core/raster/types";
import { IntakeError } from "../errors";
import { drawnLayers } from "./layers";
import { borrowed, bytesOf, withPage, type OpenPdf } from "./library";
import { type Area } from "./page";

/** Pixels drawn at once: a strip of the page, so that no picture is held twice. */
const AT_ONCE = 8e6;
/** Red, green, blue, alpha, each for itself: not multiplied. */
const FOUR_CHANNELS = 4;
const [WITH_MARKS, RED_FIRST] = [1, 16];

/** A picture drawn pixel for pixel ends so much within its last ones: a hair beyond, and all of it would be resampled. */
export const WITHIN = 0.01;

/**
 * Draws an area of a page so large, on nothing: where nothing is drawn the picture is clear.
 * @param page   from 1
 * @param layers  of the page, and which of them are drawn
 * @param inset  pixels by which the area ends within the picture's edges
 */
export function drawPage(
  pdf: OpenPdf,
  page: number,
  area: Area,
  width: number,
  height: number,
  layers: readonly PageLayer[],
  inset = 0,
): Rgba {
  const data = new Uint8Array(width * height * 4);
  withPage(pdf, page, (at) => {
    drawnLayers(pdf, at, layers);
    const rows = Math.max(1, Math.min(height, Math.floor(AT_ONCE / width)));
    for (let y = 0; y < height; y += rows)
      drawStrip(pdf, at, area, { width, height, inset, from: y, rows: Math.min(rows, height - y) }, data);
  });
  return { width, height, data };
}

interface Strip {
  readonly width: number;
  /** Of the whole picture. */
  readonly height: number;
  readonly inset: number;
  readonly from: number;
  readonly rows: number;
}

function drawStrip(
  { library }: OpenPdf,
  page: number,
  area: Area,
  { width, height, inset, from, rows }: Strip,
  out: Uint8Array,
): void {
  const { pdfium } = library;
  const bitmap = library.FPDFBitmap_CreateEx(width, rows, FOUR_CHANNELS, 0, 0);
  if (bitmap === 0) throw new IntakeError("The PDF needs more memory than there is. Draw it smaller.");
  try {
    library.FPDFBitmap_FillRect(bitmap, 0, 0, width, rows, 0);
    const across = (width - 2 * inset) / area.width;
    const down = (height - 2 * inset) / area.height;
    borrowed(library, 40, (at) => {
      const floats = [
        across,
        0,
        0,
        down,
        inset - area.x * across,
        inset - area.y * down - from,
        0,
        0,
        width,
        rows,
      ];
      floats.forEach((v, k) => pdfium.setValue(at + 4 * k, v, "float"));
      library.FPDF_RenderPageBitmapWithMatrix(bitmap, page, at, at + 24, WITH_MARKS | RED_FIRST);
    });
    const [begin, stride] = [library.FPDFBitmap_GetBuffer(bitmap), library.FPDFBitmap_GetStride(bitmap)];
    for (let y = 0; y < rows; y++)
      out.set(
        bytesOf(library).subarray(begin + y * stride, begin + y * stride + 4 * width),
        (from + y) * width * 4,
      );
  } finally {
    library.FPDFBitmap_Destroy(bitmap);
  }
}
