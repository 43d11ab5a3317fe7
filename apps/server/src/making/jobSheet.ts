import { ticketFields, type TicketView } from "@hardline/contract";
import { writeRgbaPng } from "@hardline/core/format/png";
import { figure, type Check } from "@hardline/core/inspect/check";
import { inUnit, type Unit } from "@hardline/core/maths/lengthWords";
import { runToEnd } from "@hardline/core/maths/work";
import { type Rgba } from "@hardline/core/raster/types";
import { type Finish } from "@hardline/core/result/finish";
import { settingsOf, type Route } from "@hardline/core/route/route";
import { stageById } from "@hardline/core/stage/stages";
import fontkit from "@pdf-lib/fontkit";
import { PDFDocument, rgb, type PDFFont, type PDFPage, type RGB } from "pdf-lib";
import { readFileSync } from "node:fs";
import { type StoredFile } from "../database/schema";
import { type SheetPlate } from "./platePictures";
import { type Sitting } from "./sitting";

export interface JobSheet {
  readonly ticket: TicketView;
  readonly route: Route;
  readonly revision: number;
  readonly finish: Finish;
  /** What the route comes to, as large as `SHEET_PICTURE`; null when it comes to nothing that can be seen. */
  readonly picture: Rgba | null;
  readonly checks: readonly Check[];
  readonly files: readonly StoredFile[];
  /** Plates that are printed one over another; none when there is only one. */
  readonly plates: readonly SheetPlate[];
  /** Where prints sit on the thing that they go on; null where the route does not say. */
  readonly sits?: Sitting | null;
  /** The unit that lengths are written in; millimetres when left out. */
  readonly unit?: Unit;
}

const INK = rgb(0.082, 0.094, 0.114);
const SOFT = rgb(0.36, 0.37, 0.38);
const RULE = rgb(0.8, 0.81, 0.81);
const LEVEL: Record<Check["level"], RGB> = {
  fine: rgb(0.114, 0.42, 0.27),
  look: rgb(0.604, 0.384, 0),
  stop: rgb(0.702, 0.149, 0.118),
};
const [WIDTH, HEIGHT] = [595.28, 841.89]; // A4
const MARGIN = 42;
const BOTTOM = 54;
const LEFT = 250; // width of the text column

/** What goes with the piece, on one page or as many as it needs: what, how large, how set, what it looks like, what to watch, which files. */
export async function drawJobSheet({
  ticket,
  route,
  revision,
  finish,
  picture,
  checks,
  files,
  plates,
  sits = null,
  unit = "mm",
}: JobSheet): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.registerFontkit(fontkit);
  const words = JSON.stringify([ticket, route, checks, files, plates.map((p) => p.name), sits?.dimensions]);
  const pen = new Pen(document, await faces(document, "400", words), await faces(document, "700", words));

  pen.text(`${ticket.number}`, MARGIN, HEIGHT - 62, 30, { bold: true });
  pen.text(ticket.piece, MARGIN + 92, HEIGHT - 50, 15, { bold: true, width: 400 });
  const due = ticket.due ? `due ${ticket.due}` : "no due date";
  pen.text(
    [ticket.customer, due, `${ticket.pieces} off`].filter(Boolean).join(", "),
    MARGIN + 92,
    HEIGHT - 66,
    10,
    { colour: SOFT, width: 400 },
  );
  pen.rule(HEIGHT - 80);

  const pictureEnds = picture ? await drawPicture(document, pen.page, picture) : HEIGHT;

  let y = HEIGHT - 106;
  /** Goes on at the top of a new page where so much does not fit below. */
  const room = (height: number): void => {
    if (y - height >= BOTTOM) return;
    pen.turnPage();
    pen.text(`${ticket.number} ${ticket.piece}`, MARGIN, HEIGHT - 50, 9, {
      colour: SOFT,
      width: 500,
      lines: 1,
    });
    pen.rule(HEIGHT - 58);
    y = HEIGHT - 80;
  };
  const heading = (title: string) => {
    room(40);
    pen.text(title, MARGIN, y, 11, { bold: true });
    y -= 17;
  };
  const row = (label: string, value: string) => {
    const style = { width: LEFT - 80 };
    room(pen.height(value, 9, style));
    pen.text(label, MARGIN, y, 9, { colour: SOFT });
    y = pen.text(value, MARGIN + 80, y, 9, style) - 14;
  };
  heading("Piece");
  row("Finish size", inUnit(`${figure(finish.widthMm, 2)} x ${figure(finish.heightMm, 2)} mm`, unit));
  row("Dots", `${finish.widthPx} x ${finish.heightPx} at ${figure(finish.dotsPerInch)} per inch`);
  row("Output", [ticket.output, ticket.material].filter(Boolean).join(", "));
  for (const [name, { label, onSheet }] of ticketFields())
    if (onSheet && ticket[name]) row(label, String(ticket[name]));
  row("Route", `${route.name}, revision ${revision}`);
  row("Artwork", `${ticket.artwork.name}, ${ticket.artwork.width} x ${ticket.artwork.height}`);
  y -= 8;
  heading("Settings");
  for (const { stage } of route.stages)
    row(stageById(stage).title, inUnit(stageById(stage).summary(settingsOf(route, stage)!), unit));
  if (ticket.note) {
    y -= 8;
    heading("Note");
    for (const line of pen.lines(ticket.note, 9, { width: LEFT })) {
      room(12);
      pen.text(line, MARGIN, y, 9);
      y -= 12;
    }
    y -= 2;
  }
  y -= 8;
  heading("Checks");
  for (const { level, ...told } of checks) {
    const [text, detail] = [inUnit(told.text, unit), inUnit(told.detail, unit)];
    const style = { colour: SOFT, width: LEFT - 14, lines: 6 };
    room(12 + pen.height(detail, 8.5, style));
    pen.mark(level, MARGIN + 3, y + 3);
    pen.text(text, MARGIN + 14, y, 9, { bold: true });
    y = pen.text(detail, MARGIN + 14, y - 12, 8.5, style) - 15;
  }

  // Names and fingerprints take the whole width, so below the picture; at the foot of the page where they fit there.
  const foot = BOTTOM + 36 + files.length * 22;
  if (pen.pages === 1) y = Math.min(y, pictureEnds - 14);
  if (y > foot) y = foot;
  room(60);
  pen.rule(y);
  y -= 16;
  pen.text("Files and their SHA-256", MARGIN, y, 11, { bold: true });
  y -= 14;
  for (const { name, bytes, sha256 } of files) {
    room(14);
    pen.text(`${name}, ${bytes} bytes`, MARGIN, y, 8.5, { width: WIDTH - 2 * MARGIN, lines: 1 });
    pen.text(sha256, MARGIN, y - 10, 7.5, { colour: SOFT });
    y -= 22;
  }
  if (plates.length > 0) {
    y = -1; // plates have a page of their own
    room(0);
    await drawPlates(document, pen, plates, ticket.pieces, y);
  }
  if (sits) {
    y = -1; // so has where it sits
    room(0);
    await drawSitting(document, pen, sits, unit, y);
  }
  return document.save({ useObjectStreams: false });
}

/** The thing with its prints, and how far they lie from what a ruler is laid to. */
async function drawSitting(
  document: PDFDocument,
  pen: Pen,
  { picture, dimensions: { words, outlines, measures } }: Sitting,
  unit: Unit,
  top: number,
): Promise<void> {
  pen.text("Where it sits", MARGIN, top, 11, { bold: true });
  let y = top - 16;
  for (const line of words)
    y = pen.text(inUnit(`${line}.`, unit), MARGIN, y, 9, { width: WIDTH - 2 * MARGIN }) - 14;
  const by = Math.min((WIDTH - 2 * MARGIN) / picture.width, (y - BOTTOM - 10) / picture.height);
  const box = {
    x: MARGIN,
    y: y - picture.height * by,
    width: picture.width * by,
    height: picture.height * by,
  };
  pen.page.drawImage(await document.embedPng(runToEnd(writeRgbaPng(picture, 150))), box);
  const at = ([u, v]: readonly [number, number]) => ({
    x: box.x + u * box.width,
    y: box.y + (1 - v) * box.height,
  });
  for (const outline of outlines)
    outline.forEach((point, k) =>
      pen.page.drawLine({
        start: at(point),
        end: at(outline[(k + 1) % outline.length]),
        thickness: 0.6,
        color: MEASURE,
      }),
    );
  for (const { from, to, words: text } of measures) {
    const [a, b] = [at(from), at(to)];
    pen.page.drawLine({ start: a, end: b, thickness: 0.7, color: MEASURE });
    const long = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    const across = { x: (-(b.y - a.y) / long) * 3.5, y: ((b.x - a.x) / long) * 3.5 };
    for (const end of [a, b])
      pen.page.drawLine({
        start: { x: end.x - across.x, y: end.y - across.y },
        end: { x: end.x + across.x, y: end.y + across.y },
        thickness: 0.7,
        color: MEASURE,
      });
    const shown = inUnit(text, unit);
    const wide = pen.wide(shown, 9) + 6;
    const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
    pen.page.drawRectangle({
      x: middle.x - wide / 2,
      y: middle.y - 6,
      width: wide,
      height: 12,
      color: rgb(1, 1, 1),
    });
    pen.text(shown, middle.x - wide / 2 + 3, middle.y - 3, 9, { bold: true, colour: MEASURE });
  }
}

const MEASURE = rgb(0.12, 0.27, 0.77);

/** Plates side by side, each with what it covers and the ink that all pieces take. */
async function drawPlates(
  document: PDFDocument,
  pen: Pen,
  plates: readonly SheetPlate[],
  pieces: number,
  top: number,
): Promise<void> {
  const across = 3;
  const gap = 14;
  const cell = (WIDTH - 2 * MARGIN - (across - 1) * gap) / across;
  pen.text("Plates, in print order", MARGIN, top, 11, { bold: true });
  let y = top - 16;
  for (let k = 0; k < plates.length; k += across) {
    const row = plates.slice(k, k + across);
    const sizes = row.map(({ picture }) => {
      const by = Math.min(cell / picture.width, PLATE_HEIGHT / picture.height);
      return { width: picture.width * by, height: picture.height * by };
    });
    const high = Math.max(...sizes.map((s) => s.height));
    if (y - high - 40 < BOTTOM) {
      pen.turnPage();
      y = HEIGHT - 60;
    }
    for (const [n, plate] of row.entries()) {
      const x = MARGIN + n * (cell + gap);
      const png = await document.embedPng(runToEnd(writeRgbaPng(plate.picture, 72 * PIXELS_A_POINT)));
      const box = { x, y: y - sizes[n].height, ...sizes[n] };
      pen.page.drawImage(png, box);
      pen.page.drawRectangle({ ...box, borderColor: RULE, borderWidth: 0.5 });
      pen.text(`${k + n + 1}  ${plate.name}`, x, y - high - 12, 9.5, { bold: true, width: cell, lines: 1 });
      const { percent, mm2, millilitres } = plate;
      const ink = `${figure(millilitres * pieces, 1)} ml for ${pieces}`;
      pen.text(`${figure(percent, 1)} %, ${figure(mm2 / 100, 1)} cm2, ${ink}`, x, y - high - 24, 8.5, {
        colour: SOFT,
        width: cell,
        lines: 1,
      });
    }
    y -= high + 44;
  }
}

/** Of a plate's picture, in points. */
const PLATE_HEIGHT = 190;

const BOX = { width: WIDTH - 2 * MARGIN - LEFT - 20, height: 330 };
/** The picture has three pixels a point: 216 an inch. */
const PIXELS_A_POINT = 3;
export const SHEET_PICTURE = { width: BOX.width * PIXELS_A_POINT, height: BOX.height * PIXELS_A_POINT };

/** The result at its right proportion, to the right of the text. Returns where it ends. */
async function drawPicture(document: PDFDocument, page: PDFPage, picture: Rgba): Promise<number> {
  const [w, h] = [picture.width / PIXELS_A_POINT, picture.height / PIXELS_A_POINT];
  const png = runToEnd(writeRgbaPng(picture, 72 * PIXELS_A_POINT));
  const x = WIDTH - MARGIN - w;
  const y = HEIGHT - 96 - h;
  page.drawImage(await document.embedPng(png), { x, y, width: w, height: h });
  page.drawRectangle({ x, y, width: w, height: h, borderColor: RULE, borderWidth: 0.5 });
  return y;
}

type Faces = readonly { readonly font: PDFFont; readonly has: ReadonlySet<number> }[];

/**
 * Fonts of one weight, tried in turn for each letter, so that names from elsewhere are written as they are. Only those
 * that a letter of the text needs are opened.
 */
async function faces(document: PDFDocument, weight: "400" | "700", text: string): Promise<Faces> {
  const files = [
    `@fontsource/archivo/files/archivo-latin-${weight}-normal.woff`,
    `@fontsource/archivo/files/archivo-latin-ext-${weight}-normal.woff`,
    `@fontsource/archivo/files/archivo-vietnamese-${weight}-normal.woff`,
    "@fontsource/ibm-plex-mono/files/ibm-plex-mono-cyrillic-400-normal.woff",
  ];
  const opened: { font: PDFFont; has: ReadonlySet<number> }[] = [];
  let missing = [...new Set(text)].map((letter) => letter.codePointAt(0)!).filter((point) => point > 32);
  for (const file of files) {
    if (opened.length > 0 && missing.length === 0) break;
    const font = await document.embedFont(readFileSync(require.resolve(file)), { subset: true });
    const has = new Set(font.getCharacterSet());
    opened.push({ font, has });
    missing = missing.filter((point) => !has.has(point));
  }
  return opened;
}

interface Style {
  readonly bold?: boolean;
  readonly colour?: RGB;
  /** Breaks into lines no wider than this. */
  readonly width?: number;
  readonly lines?: number;
}

class Pen {
  page: PDFPage;
  pages = 0;

  constructor(
    private readonly document: PDFDocument,
    private readonly regular: Faces,
    private readonly bold: Faces,
  ) {
    this.page = this.turnPage();
  }

  turnPage(): PDFPage {
    this.pages++;
    return (this.page = this.document.addPage([WIDTH, HEIGHT]));
  }

  /** Text as it breaks. */
  lines(text: string, size: number, { bold, width }: Style = {}): string[] {
    return width ? this.breakLines(text, bold ? this.bold : this.regular, size, width) : [text];
  }

  /** From the first line's foot to the last one's. */
  height(text: string, size: number, style: Style = {}): number {
    return (Math.min(style.lines ?? 3, this.lines(text, size, style).length) - 1) * size * 1.3;
  }

  /** Writes text and returns the height of its last line. */
  text(text: string, x: number, y: number, size: number, style: Style = {}): number {
    const { bold, colour = INK, lines = 3 } = style;
    const fonts = bold ? this.bold : this.regular;
    const broken = this.lines(text, size, style).slice(0, lines);
    broken.forEach((line, i) => {
      let at = x;
      for (const { part, font } of runs(line, fonts)) {
        this.page.drawText(part, { x: at, y: y - i * size * 1.3, size, font, color: colour });
        at += font.widthOfTextAtSize(part, size);
      }
    });
    return y - (broken.length - 1) * size * 1.3;
  }

  /** How long a line of bold text is. */
  wide(text: string, size: number): number {
    return runs(text, this.bold).reduce((sum, r) => sum + r.font.widthOfTextAtSize(r.part, size), 0);
  }

  rule(y: number): void {
    this.page.drawLine({
      start: { x: MARGIN, y },
      end: { x: WIDTH - MARGIN, y },
      thickness: 0.8,
      color: INK,
    });
  }

  /** Filled dot, ring or square: a level has a shape as well as a colour. */
  mark(level: Check["level"], x: number, y: number): void {
    const colour = LEVEL[level];
    if (level === "stop") this.page.drawRectangle({ x: x - 3, y: y - 3, width: 6, height: 6, color: colour });
    else if (level === "fine") this.page.drawCircle({ x, y, size: 3, color: colour });
    else this.page.drawCircle({ x, y, size: 2.6, borderColor: colour, borderWidth: 1.2 });
  }

  private breakLines(text: string, fonts: Faces, size: number, width: number): string[] {
    const wide = (line: string) =>
      runs(line, fonts).reduce((sum, r) => sum + r.font.widthOfTextAtSize(r.part, size), 0);
    const out: string[] = [];
    for (const paragraph of text.split("\n")) {
      let line = "";
      for (const word of paragraph.split(/\s+/)) {
        const longer = line ? `${line} ${word}` : word;
        if (line && wide(longer) > width) {
          out.push(line);
          line = word;
        } else line = longer;
      }
      out.push(line);
    }
    return out;
  }
}

/** A line cut where the font has to change; a letter that no font has becomes a question mark. */
function runs(line: string, fonts: Faces): { part: string; font: PDFFont }[] {
  const out: { part: string; font: PDFFont }[] = [];
  for (const letter of line.replace(/\u2009/g, " ").replace(/\u2212/g, "-")) {
    const face = fonts.find((f) => f.has.has(letter.codePointAt(0)!));
    const [part, font] = face ? [letter, face.font] : ["?", fonts[0].font];
    const last = out[out.length - 1];
    if (last && last.font === font) last.part += part;
    else out.push({ part, font });
  }
  return out;
}
