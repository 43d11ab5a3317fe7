import { broken, notRead } from "../errors";
import { type Found, type Head } from "../found";
import { numbered, FIRST, type Part } from "../pages";
import { lookAtPhoto } from "./photo";

/** Little-endian, big-endian, and the kind for large files. */
export const isTiff = ({ starts }: Head): boolean =>
  starts(0x49, 0x49, 42, 0) || starts(0x4d, 0x4d, 0, 42) || starts(0x49, 0x49, 43, 0);

const [SUBFILE, BITS, COMPRESSION, PHOTOMETRIC, ORIENTATION] = [254, 258, 259, 262, 274];
const [SUB_IFDS, SAMPLE_FORMAT, DNG_VERSION] = [330, 339, 50706];
/** Sensor data as makers of cameras store it. */
const RAW_COMPRESSIONS = [32767, 32769, 34713, 65535];
const RAW_PHOTOMETRICS = [32803, 34892];
const JPEG_COMPRESSIONS = [6, 7];
const [YCBCR, LAB_KINDS] = [6, [8, 9, 10]];

/** A page of a TIFF, in grey, palette, RGB or CMYK of up to 16 bits. */
export async function lookAtTiff(bytes: Uint8Array, part: Part = FIRST): Promise<Found> {
  const directories = directoriesOf(bytes);
  const page = numbered(part, directories.length);
  const tags = directories[page];
  const first = (tag: number): number | undefined => tags.get(tag)?.values[0];
  const [photometric, compression] = [first(PHOTOMETRIC), first(COMPRESSION) ?? 1];
  const camera =
    Buffer.from(bytes.subarray(8, 10)).toString("latin1") === "CR" ||
    directories[0].has(DNG_VERSION) ||
    RAW_PHOTOMETRICS.includes(photometric ?? 0) ||
    RAW_COMPRESSIONS.includes(compression) ||
    (((first(SUBFILE) ?? 0) & 1) === 1 && tags.has(SUB_IFDS));
  if (camera) throw notRead("A raw camera file", "Develop it first and save it as TIFF, PNG or JPEG.");
  const deep = Math.max(...(tags.get(BITS)?.values ?? [1]));
  if (deep > 16 || (tags.get(SAMPLE_FORMAT)?.values ?? []).some((f) => f === 2 || f === 3)) {
    throw notRead(
      `A TIFF of ${deep} bits a channel whose numbers have no fixed white`,
      "Save it with 8 or 16 bits a channel.",
    );
  }
  if (photometric === YCBCR && !JPEG_COMPRESSIONS.includes(compression))
    throw notRead("A TIFF in YCbCr without JPEG compression", "Save it as RGB.");
  if (LAB_KINDS.includes(photometric ?? 0)) throw notRead("A TIFF in Lab", "Save it as RGB.");
  const turn = tags.get(ORIENTATION);
  // A tag of no known meaning means nothing.
  const upright = turn && (turn.values[0] < 1 || turn.values[0] > 8) ? without(bytes, turn.entry) : bytes;
  return lookAtPhoto(upright, "TIFF", { page });
}

interface Tag {
  /** Where its entry stands in the file. */
  readonly entry: number;
  readonly values: readonly number[];
}

type Directory = ReadonlyMap<number, Tag>;

/** More pages than this are not looked for. */
const MOST_PAGES = 5000;

/**
 * The tags of whole numbers of each page's directory. One that lies beyond the file's end, or was there before, ends the
 * list; the first must be there.
 * @see "TIFF Revision 6.0", 1992; BigTIFF has wider offsets
 */
function directoriesOf(bytes: Uint8Array): Directory[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = bytes[0] === 0x49;
  const u16 = (at: number) => view.getUint16(at, little);
  const u32 = (at: number) => view.getUint32(at, little);
  const found: Directory[] = [];
  try {
    const big = u16(2) === 43;
    const offset = (at: number) => (big ? Number(view.getBigUint64(at, little)) : u32(at));
    const [head, step, room] = big ? [8, 20, 8] : [2, 12, 4];
    const directoryAt = (begin: number): { tags: Directory; next: number } => {
      const count = big ? offset(begin) : u16(begin);
      const tags = new Map<number, Tag>();
      for (let k = 0, entry = begin + head; k < Math.min(count, 4096); k++, entry += step) {
        const [tag, type, number] = [u16(entry), u16(entry + 2), offset(entry + 4)];
        const wide = type === 3 ? 2 : type === 4 ? 4 : type === 1 ? 1 : 0;
        if (wide === 0) {
          tags.set(tag, { entry, values: [] });
          continue;
        }
        const at = number * wide <= room ? entry + 4 + room : offset(entry + 4 + room);
        const values = Array.from({ length: Math.min(number, 16) }, (_, i) => {
          const place = at + i * wide;
          return wide === 2 ? u16(place) : wide === 4 ? u32(place) : view.getUint8(place);
        });
        tags.set(tag, { entry, values });
      }
      const end = begin + head + count * step;
      return { tags, next: end + room <= bytes.length ? offset(end) : 0 };
    };
    const visited = new Set<number>();
    for (let begin = offset(big ? 8 : 4); begin !== 0 && !visited.has(begin);) {
      visited.add(begin);
      const { tags, next } = directoryAt(begin);
      found.push(tags);
      if (found.length === MOST_PAGES) break;
      begin = next;
    }
  } catch {
    // It lies beyond the end: so many pages are there, where there is one.
  }
  if (found.length === 0) throw broken("TIFF", "its list of tags lies beyond its end");
  return found;
}

/** The file with one tag's number changed to a private one, which nobody reads. */
function without(bytes: Uint8Array, entry: number): Uint8Array {
  const out = Uint8Array.from(bytes);
  new DataView(out.buffer).setUint16(entry, 65000, bytes[0] === 0x49);
  return out;
}
