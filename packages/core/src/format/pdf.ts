import { PDFDocument, PDFName } from "pdf-lib";
import { type Bits } from "../raster/types";
import { bitsOf, POINTS_PER_MM } from "./pdfImages";

/**
 * The picture keeps this far (in points, a fifth of a thousandth of a millimetre) inside the page: a renderer that
 * fills every pixel it touches would otherwise stretch it by a dot at each edge.
 */
export const INSET = 0.0005;

/**
 * Writes a one-page PDF that holds the picture as a 1-bit image filling a page of the finish size.
 *
 * @param group4             the picture in Group 4 code
 * @param widthMm, heightMm  of the page
 */
export async function writeBitsPdf(
  bits: Bits,
  group4: Uint8Array,
  widthMm: number,
  heightMm: number,
): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const width = pointsOf(widthMm);
  const height = pointsOf(heightMm);
  const page = document.addPage([width, height]);
  page.node.setXObject(PDFName.of("Bitmap"), bitsOf(document.context, bits, group4));
  const content = document.context.stream(
    `q ${width - 2 * INSET} 0 0 ${height - 2 * INSET} ${INSET} ${INSET} cm /Bitmap Do Q`,
  );
  page.node.set(PDFName.of("Contents"), document.context.register(content));
  return document.save({ useObjectStreams: false });
}

/** Points to a millionth, never above the true size, so that no renderer rounds the page up to one more dot. */
export function pointsOf(mm: number): number {
  const millionths = mm * POINTS_PER_MM * 1e6;
  const nearest = Math.round(millionths);
  return (Math.abs(millionths - nearest) < 1e-6 ? nearest : Math.floor(millionths)) / 1e6;
}
