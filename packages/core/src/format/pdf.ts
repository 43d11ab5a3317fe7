import { PDFDocument, PDFName } from "pdf-lib";
import { type Bits } from "../raster/types";

const POINTS_PER_MM = 72 / 25.4;

/**
 * Writes a one-page PDF that holds the picture as a 1-bit image filling a page of the finish size.
 *
 * @param group4             the picture in Group 4 code
 * @param widthMm, heightMm  of the page
 */
export async function writeBitsPdf(bits: Bits, group4: Uint8Array, widthMm: number, heightMm: number): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const width = widthMm * POINTS_PER_MM;
  const height = heightMm * POINTS_PER_MM;
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
  const content = document.context.stream(`q ${width} 0 0 ${height} 0 0 cm /Bitmap Do Q`);
  page.node.set(PDFName.of("Contents"), document.context.register(content));
  return document.save({ useObjectStreams: false });
}
