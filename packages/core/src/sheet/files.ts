import { type Doing } from "../maths/work";
import { strToU8 } from "fflate";
import { pathFiles } from "../format/pathFormats";
import { packedPlanes } from "../format/pack";
import { writeBitsPng } from "../format/png";
import { writeSheetPdf, type SheetPicture, type Showing } from "../format/sheetPdf";
import { type Check } from "../inspect/check";
import { type DeliveredFile } from "../stage/stage";
import { type Placing } from "./arrangement";
import { drawnMark, markPlaces } from "./marks";
import { type SheetPiece } from "./piece";
import { marksOf, type SheetSettings } from "./sheetFile";
import { ontoSheet, sheetJob } from "./sheetJob";

/** What sheets are, and what was found of them. */
export interface ArrangedSheets {
  readonly name: string;
  readonly settings: SheetSettings;
  readonly pieces: readonly SheetPiece[];
  readonly placings: readonly Placing[];
  readonly checks: readonly Check[];
  readonly used: number;
  readonly left: readonly number[];
}

/**
 * Files of sheets, each numbered: what is printed on a page of exactly the sheet's size, the lines that fit it, and the dots
 * of all copies as one bitmap.
 */
export async function* sheetFiles(sheets: ArrangedSheets, doing: Doing): AsyncIterable<DeliveredFile> {
  const { name, settings, pieces, placings } = sheets;
  const { widthMm, heightMm } = settings.stock;
  const count = placings.reduce((most, p) => Math.max(most, p.sheet + 1), 0);
  const entry = marksOf(settings);
  const marks = entry ? markPlaces(entry, settings.stock).map((at) => drawnMark(at, entry)) : [];
  const pictures: (SheetPicture | null)[] = [];
  for (const { print } of pieces)
    pictures.push(print ? { ...print, ...(await doing(packedPlanes(print.picture))) } : null);
  for (let k = 0; k < count; k++) {
    const own = placings.filter((p) => p.sheet === k);
    const stem = `sheet-${k + 1}`;
    const printed = own.filter((p) => pictures[p.piece]);
    if (printed.length > 0 || marks.length > 0) {
      const showings = printed.map((at): Showing => {
        const { print } = pieces[at.piece];
        const onto = ontoSheet(pieces[at.piece], at);
        return { picture: at.piece, onto: (x, y) => onto(print!.xMm + x, print!.yMm + y) };
      });
      const none = { picture: { width: 1, height: 1 }, colour: new Uint8Array(), alpha: new Uint8Array() };
      const all = pictures.map((p) => p ?? { ...none, widthMm: 0, heightMm: 0 });
      const bytes = await writeSheetPdf(widthMm, heightMm, all, showings, marks);
      yield { name: `${stem}.pdf`, mediaType: "application/pdf", bytes };
    }
    const job = await doing(
      sheetJob(`${name}, sheet ${k + 1}`, pieces, own, settings.stock, settings.commonLines),
    );
    for (const { bits, dotsPerInch } of job.bitmaps) {
      const bytes = await doing(writeBitsPng(bits, dotsPerInch));
      yield { name: `${stem}.bitmap.png`, mediaType: "image/png", bytes };
    }
    if (job.sets.length > 0) {
      const box = { x: 0, y: 0, width: widthMm, height: heightMm };
      yield* pathFiles(`${stem}.cut`, job.sets, box, doing);
    }
  }
  yield { name: "readings.json", mediaType: "application/json", bytes: readingsOf(sheets, count) };
}

const round = (v: number): number => Math.round(v * 1e5) / 1e5;

function readingsOf(
  { name, pieces, placings, checks, used, left, settings }: ArrangedSheets,
  sheets: number,
): Uint8Array {
  const readings = {
    ...{ name, sheets, usedShare: round(used) },
    stock: settings.stock,
    pieces: pieces.map(({ name: piece, box }, k) => ({
      ...{ piece: k, name: piece, widthMm: round(box.width), heightMm: round(box.height) },
      ...{ placed: placings.filter((p) => p.piece === k).length, left: left[k] },
    })),
    placements: placings.map(({ piece, sheet, xMm, yMm, turnDegrees, mirrored }) => ({
      ...{ piece, sheet: sheet + 1, xMm: round(xMm), yMm: round(yMm), turnDegrees },
      ...(mirrored ? { mirrored } : {}),
    })),
    checks,
  };
  return strToU8(`${JSON.stringify(readings, null, 2)}\n`);
}
