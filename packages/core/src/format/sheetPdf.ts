import { PDFDocument, PDFName, type PDFRef } from "pdf-lib";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import { pointsOf } from "./pdf";
import { drawn, pictureOf, points, type PackedPicture } from "./pdfImages";

/** A picture that a sheet shows, once or often. */
export interface SheetPicture extends PackedPicture {
  readonly widthMm: number;
  readonly heightMm: number;
}

/** One showing: which picture, and where a place of it, in mm from its top left, comes to lie on the sheet. */
export interface Showing {
  readonly picture: number;
  readonly onto: (x: number, y: number) => readonly [number, number];
}

/** A page of exactly the sheet's size: pictures where they lie, and register marks in black. */
export async function writeSheetPdf(
  widthMm: number,
  heightMm: number,
  pictures: readonly SheetPicture[],
  showings: readonly Showing[],
  marks: readonly KnotPath[],
): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const { context } = document;
  const page = document.addPage([pointsOf(widthMm), pointsOf(heightMm)]);
  const known: (PDFRef | undefined)[] = pictures.map(() => undefined);
  const content: string[] = [];
  for (const { picture: k, onto } of showings) {
    if (!known[k]) page.node.setXObject(PDFName.of(`Art${k}`), (known[k] = pictureOf(context, pictures[k])));
    const { widthMm: w, heightMm: h } = pictures[k];
    // A picture is a unit square whose lower left is the origin.
    const [origin, right, up] = [onto(0, h), onto(w, h), onto(0, 0)];
    const across = (p: readonly [number, number]) => points(p[0] - origin[0]);
    const along = (p: readonly [number, number]) => points(origin[1] - p[1]);
    const at = [points(origin[0]), points(heightMm - origin[1])];
    content.push(
      `q ${[across(right), along(right), across(up), along(up), ...at].join(" ")} cm /Art${k} Do Q`,
    );
  }
  if (marks.length > 0) {
    content.push(`q ${points(1)} 0 0 ${points(-1)} 0 ${points(heightMm)} cm 0 g`);
    content.push(drawn(pathSetOf({ name: "marks", use: "fill", colour: 0 }, marks)), "f Q");
  }
  page.node.set(PDFName.of("Contents"), context.register(context.flateStream(content.join("\n"))));
  return document.save({ useObjectStreams: false });
}
