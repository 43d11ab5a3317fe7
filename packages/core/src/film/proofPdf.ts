import { PDFDocument, PDFName } from "pdf-lib";
import { type ProofSheet } from "./proofSheet";
import { pathSetOf } from "../path/pathSet";
import { drawn, pictureOf, points, type PackedPicture } from "../format/pdfImages";

/** A customer's proof as a page: words and patches as shapes, pictures as they are. @param pictures  one a way */
export async function writeProofPdf(
  sheet: ProofSheet,
  pictures: readonly PackedPicture[],
): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const { context } = document;
  const page = document.addPage([points(sheet.widthMm), points(sheet.heightMm)]);
  const content = [`${points(1)} 0 0 ${points(-1)} 0 ${points(sheet.heightMm)} cm`];
  sheet.pictures.forEach(({ about, ground, x, y, width, height }, k) => {
    content.push(`${paint(ground)} ${about.x} ${about.y} ${about.width} ${about.height} re f`);
    page.node.setXObject(PDFName.of(`Way${k}`), pictureOf(context, pictures[k]));
    content.push(`q ${width} 0 0 ${-height} ${x} ${y + height} cm /Way${k} Do Q`);
  });
  for (const { x, y, width, height, colour } of sheet.patches)
    content.push(
      `${paint(colour)} ${x} ${y} ${width} ${height} re f`,
      `0.1 w 0.5 G ${x} ${y} ${width} ${height} re S`,
    );
  for (const { paths, colour } of sheet.words)
    content.push(paint(colour), drawn(pathSetOf({ name: "", use: "fill", colour }, paths)), "f");
  page.node.set(PDFName.of("Contents"), context.register(context.flateStream(content.join("\n"))));
  return document.save({ useObjectStreams: false });
}

const paint = (colour: number): string =>
  `${[colour >> 16, (colour >> 8) & 255, colour & 255].map((c) => Math.round((c / 255) * 1e4) / 1e4).join(" ")} rg`;
