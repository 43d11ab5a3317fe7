import { PDFDocument, PDFName } from "pdf-lib";
import { MM_PER_INCH } from "../maths/units";
import { type Bits } from "../raster/types";

const POINTS_PER_MM = 72 / MM_PER_INCH;

/**
 * The picture keeps this far (in points, a fifth of a thousandth of a millimetre) inside the page: a renderer that
 * fills every pixel it touches would otherwise stretch it by a dot at each edge.
 */
const INSET = 0.0005;

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
  const image = document.context.stream(group4, {
    Type: "XObject",
    Subtype: "Image",
    Width: bits.width,
    Height: bits.height,
    ColorSpace: "DeviceGray",
    BitsPerComponent: 1,
    Filter: "CCITTFaxDecode",
    DecodeParms: { K: -1, Columns: bits.width, Rows: bits.height },
  });
  page.node.setXObject(PDFName.of("Bitmap"), document.context.register(image));
  const content = document.context.stream(
    `q ${width - 2 * INSET} 0 0 ${height - 2 * INSET} ${INSET} ${INSET} cm /Bitmap Do Q`,
  );
  page.node.set(PDFName.of("Contents"), document.context.register(content));
  return document.save({ useObjectStreams: false });
}

/** Points to a millionth, never above the true size, so that no renderer rounds the page up to one more dot. */
function pointsOf(mm: number): number {
  const millionths = mm * POINTS_PER_MM * 1e6;
  const nearest = Math.round(millionths);
  return (Math.abs(millionths - nearest) < 1e-6 ? nearest : Math.floor(millionths)) / 1e6;
}
