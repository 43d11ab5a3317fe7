import { inflateSync } from "node:zlib";
import { PDFDocument, PDFName, PDFNumber } from "pdf-lib";

const WORD = Buffer.from("/UserUnit");
const [PACKED, STREAM, END] = ["/ObjStm", "stream", "endstream"].map((word) => Buffer.from(word));
/** More of such streams are not looked into, nor larger ones. */
const [MOST_STREAMS, MOST_BYTES] = [2000, 16 << 20];

/** Whether a file speaks of units anywhere: in plain words, or within streams of objects. @see ISO 32000-2, 7.5.7 */
function speaksOfUnits(bytes: Uint8Array): boolean {
  const file = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length);
  if (file.includes(WORD)) return true;
  let at = file.indexOf(PACKED);
  for (let n = 0; at >= 0 && n < MOST_STREAMS; n++, at = file.indexOf(PACKED, at + 1)) {
    const begin = file.indexOf(STREAM, at);
    const end = file.indexOf(END, begin);
    if (begin < 0 || end < 0) break;
    // A line's end, of one byte or two, comes before what is packed.
    const from = begin + STREAM.length + (file[begin + STREAM.length] === 13 ? 2 : 1);
    try {
      if (inflateSync(file.subarray(from, end), { maxOutputLength: MOST_BYTES }).includes(WORD)) return true;
    } catch {
      // Packed in another way, or damaged: nothing is told by it.
    }
  }
  return false;
}

/**
 * How many points a page's own unit has, by the page's number from 1: one where nothing else is said.
 * @see ISO 32000-2, 14.11.2.3, for pages that are larger than 14400 units
 */
export async function unitsOf(bytes: Uint8Array): Promise<(page: number) => number> {
  if (!speaksOfUnits(bytes)) return () => 1;
  try {
    const pdf = await PDFDocument.load(bytes, { ignoreEncryption: true, updateMetadata: false });
    const units = pdf.getPages().map(({ node }) => {
      const unit = node.lookupMaybe(PDFName.of("UserUnit"), PDFNumber)?.asNumber() ?? 1;
      return unit > 0 && unit <= MOST_UNIT ? unit : 1;
    });
    return (page) => units[page - 1] ?? 1;
  } catch {
    return () => 1;
  }
}

const MOST_UNIT = 1000;
