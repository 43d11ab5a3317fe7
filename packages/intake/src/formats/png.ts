import { type Found, type Head } from "../found";
import { notRead } from "../errors";
import { primariesOf, SRGB_PRIMARIES } from "../colour/matrix";
import { spaceOf, type ColourSpace } from "../colour/space";
import { lookAtPhoto } from "./photo";

export const isPng = ({ starts }: Head): boolean => starts(0x89, 0x50, 0x4e, 0x47);

interface Chunk {
  readonly type: string;
  readonly begin: number;
  readonly data: Uint8Array;
}

/** What decides how the pixels look; texts, times and further frames are left behind. */
const KEPT = new Set("IHDR PLTE tRNS gAMA cHRM sRGB iCCP cICP sBIT eXIf pHYs IDAT IEND".split(" "));
/**
 * A PNG, its colours as its own chunks say: a profile, sRGB, or gamma and primaries.
 * @see W3C, "Portable Network Graphics Specification (Third Edition)", 11.3.2, Colour space information
 */
export async function lookAtPng(bytes: Uint8Array): Promise<Found> {
  const chunks = chunksOf(bytes);
  if (!chunks) return lookAtPhoto(bytes, "PNG");
  const frames = chunks.find((c) => c.type === "acTL");
  const count = frames && frames.data.length >= 4 ? viewOf(frames.data).getUint32(0) : 1;
  const photo = await lookAtPhoto(onlyKept(bytes, chunks), "PNG", { space: spaceSaid(chunks) });
  return count > 1 ? { ...photo, notes: [`first of ${count} frames`, ...photo.notes] } : photo;
}

const viewOf = (data: Uint8Array): DataView => new DataView(data.buffer, data.byteOffset, data.byteLength);

/** Null where the file is not made of chunks as it should be: then the decoder says what is wrong. */
function chunksOf(bytes: Uint8Array): Chunk[] | null {
  const view = viewOf(bytes);
  const chunks: Chunk[] = [];
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    if (at + 12 + length > bytes.length) return null;
    const type = Buffer.from(bytes.subarray(at + 4, at + 8)).toString("latin1");
    chunks.push({ type, begin: at, data: bytes.subarray(at + 8, at + 8 + length) });
    if (type === "IEND") return chunks;
    at += 12 + length;
  }
  return null;
}

function onlyKept(bytes: Uint8Array, chunks: readonly Chunk[]): Uint8Array {
  if (chunks.every((c) => KEPT.has(c.type))) return bytes;
  const kept = chunks.filter((c) => KEPT.has(c.type));
  return Buffer.concat([
    bytes.subarray(0, 8),
    ...kept.map(({ begin, data }) => bytes.subarray(begin, begin + 12 + data.length)),
  ]);
}

function spaceSaid(chunks: readonly Chunk[]): ColourSpace | undefined {
  const of = (type: string, least: number) => {
    const found = chunks.find((c) => c.type === type);
    return found && found.data.length >= least ? viewOf(found.data) : undefined;
  };
  const numbers = of("cICP", 4);
  if (numbers) {
    const [primaries, transfer] = [numbers.getUint8(0), numbers.getUint8(1)];
    const known = primariesOf(primaries);
    if (!known || ![1, 6, 13, 14, 15].includes(transfer)) {
      throw notRead(
        "A PNG for displays of high dynamic range",
        "Save it as an ordinary PNG in sRGB, 8 or 16 bits.",
      );
    }
    return spaceOf(null, known);
  }
  if (of("iCCP", 1) || of("sRGB", 1)) return undefined;
  const [gamma, chroma] = [of("gAMA", 4), of("cHRM", 32)];
  if (!gamma && !chroma) return undefined;
  const pair = (k: number) => [chroma!.getUint32(k) / 1e5, chroma!.getUint32(k + 4) / 1e5] as const;
  const stated = gamma ? gamma.getUint32(0) / 1e5 : 0;
  // What is written for sRGB by old rule means sRGB.
  const plain = stated <= 0 || Math.abs(stated - 1 / 2.2) < 0.005;
  const primaries = chroma
    ? { white: pair(0), red: pair(8), green: pair(16), blue: pair(24) }
    : SRGB_PRIMARIES;
  return spaceOf(plain ? null : stated, primaries);
}
