import { PDFDocument, PDFName } from "pdf-lib";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import { type Bits } from "../raster/types";
import { INSET, pointsOf } from "./pdf";
import { bitsOf, drawn, points } from "./pdfImages";

/** Dots and where their top left lies on the page, in mm. */
export interface PlacedDots {
  readonly bits: Pick<Bits, "width" | "height">;
  readonly group4: Uint8Array;
  readonly xMm: number;
  readonly yMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** One film: dots, and what is drawn about them in mm from the page's top left. */
export interface FilmPage {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly dots: readonly PlacedDots[];
  readonly lines: readonly KnotPath[];
  readonly lineMm: number;
  readonly words: readonly KnotPath[];
  /** Lines and words are seen from behind; dots are given as they are to lie. */
  readonly mirror: boolean;
}

/** Films, a page each, all in black. */
export async function writeFilmsPdf(films: readonly FilmPage[]): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const { context } = document;
  for (const film of films) {
    const [width, height] = [pointsOf(film.widthMm), pointsOf(film.heightMm)];
    const page = document.addPage([width, height]);
    const content: string[] = [];
    film.dots.forEach(({ bits, group4, xMm, yMm, widthMm, heightMm }, k) => {
      page.node.setXObject(PDFName.of(`Dots${k}`), bitsOf(context, bits, group4));
      const left = film.mirror ? film.widthMm - xMm - widthMm : xMm;
      const [w, h] = [points(widthMm) - 2 * INSET, points(heightMm) - 2 * INSET];
      const [x, y] = [points(left) + INSET, height - points(yMm + heightMm) + INSET];
      content.push(`q ${w} 0 0 ${h} ${x} ${y} cm /Dots${k} Do Q`);
    });
    const across = film.mirror ? -points(1) : points(1);
    content.push(`${across} 0 0 ${points(-1)} ${film.mirror ? width : 0} ${height} cm`);
    const set = (paths: readonly KnotPath[]) => pathSetOf({ name: "", use: "fill", colour: 0 }, paths);
    if (film.lines.length > 0) content.push(`0 G ${film.lineMm} w`, drawn(set(film.lines)), "S");
    if (film.words.length > 0) content.push("0 g", drawn(set(film.words)), "f");
    page.node.set(PDFName.of("Contents"), context.register(context.flateStream(content.join("\n"))));
  }
  return document.save({ useObjectStreams: false });
}
