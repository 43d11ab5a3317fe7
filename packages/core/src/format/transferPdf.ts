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
 * Colour art over its white, on a page of exactly the finish size. White is a separation named White; both overprint, so
 * that a printer lays one on the other and neither is knocked out. On a screen, and on printers that have no such ink, it
 * is shown as a pale grey.
 *
 * @see ISO 32000-1, 8.6.6.4 Separation colour spaces, 8.6.7 overprint control
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
    context.obj({ FunctionType: 2, Domain: [0, 1], C0: [1, 1, 1], C1: [0.88, 0.88, 0.9], N: 1 }),
  );
  const space = PDFArray.withContext(context);
  for (const part of [PDFName.of("Separation"), PDFName.of("White"), PDFName.of("DeviceRGB"), tint])
    space.push(part);
  const layer = planeOf(context, white, "DeviceGray", white.bytes);
  layer.dict.set(PDFName.of("ColorSpace"), space);
  page.node.setXObject(PDFName.of("White"), context.register(layer));
  page.node.setXObject(PDFName.of("Colour"), pictureOf(context, colour));
  page.node.setExtGState(PDFName.of("Over"), context.obj({ Type: "ExtGState", OP: true, op: true, OPM: 1 }));
  const at = `${width - 2 * INSET} 0 0 ${height - 2 * INSET} ${INSET} ${INSET} cm`;
  const content = context.stream(`/Over gs q ${at} /White Do Q q ${at} /Colour Do Q`);
  page.node.set(PDFName.of("Contents"), context.register(content));
  return document.save({ useObjectStreams: false });
}
