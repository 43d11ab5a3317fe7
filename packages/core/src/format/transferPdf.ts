import { PDFArray, PDFDocument, PDFName } from "pdf-lib";
import { INSET, pointsOf } from "./pdf";
import { pictureOf, planeOf, type PackedPicture } from "./pdfImages";

/** A plane of how much white, 0..255, packed by zlib. */
export interface PackedPlane {
  readonly width: number;
  readonly height: number;
  readonly bytes: Uint8Array;
}

/**
 * Colour art and its white, on a page of exactly the finish size. White is a separation named White, painted last and
 * multiplied: whatever is painted over a separation takes it away, and a soft mask does so however overprint is set. On a
 * screen, and on printers that have no such ink, it changes nothing: the art is seen as it is.
 *
 * @see ISO 32000-1, 8.6.6.4 Separation colour spaces, 8.6.7 overprint control, 11.7.4.2 blending and spot colours
 */
export async function writeTransferPdf(
  colour: PackedPicture,
  white: PackedPlane,
  widthMm: number,
  heightMm: number,
): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const { context } = document;
  const [width, height] = [pointsOf(widthMm), pointsOf(heightMm)];
  const page = document.addPage([width, height]);
  const tint = context.register(
    context.obj({ FunctionType: 2, Domain: [0, 1], C0: [1, 1, 1], C1: [1, 1, 1], N: 1 }),
  );
  const space = PDFArray.withContext(context);
  for (const part of [PDFName.of("Separation"), PDFName.of("White"), PDFName.of("DeviceRGB"), tint])
    space.push(part);
  const layer = planeOf(context, white, "DeviceGray", white.bytes);
  layer.dict.set(PDFName.of("ColorSpace"), space);
  page.node.setXObject(PDFName.of("White"), context.register(layer));
  page.node.setXObject(PDFName.of("Colour"), pictureOf(context, colour));
  const over = context.obj({ Type: "ExtGState", OP: true, op: true, OPM: 1, BM: "Multiply" });
  page.node.setExtGState(PDFName.of("Over"), over);
  const at = `${width - 2 * INSET} 0 0 ${height - 2 * INSET} ${INSET} ${INSET} cm`;
  const content = context.stream(`q ${at} /Colour Do Q q /Over gs ${at} /White Do Q`);
  page.node.set(PDFName.of("Contents"), context.register(content));
  return document.save({ useObjectStreams: false });
}
