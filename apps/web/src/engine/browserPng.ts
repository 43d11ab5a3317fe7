import { type Rgba } from "@hardline/core/raster/types";
import { sharedRoom } from "./host";

/** Larger ones are read row by row: the browser's own decoder holds the picture a second time while it is copied. */
const MOST_PIXELS = 32e6;
/** Copied between two pauses: some ten milliseconds. */
const AT_ONCE = 1 << 22;
/** A PNG's signature and the chunk that says what the picture is, up to its last byte. */
const HEAD = 29;

/**
 * A PNG that the browser itself can read exactly: 8-bit, opaque, not interlaced. Of one that is see-through in parts
 * it would change the colours there.
 *
 * @param head  the file's first bytes
 */
export function isForBrowser(head: Uint8Array): boolean {
  if (typeof ImageDecoder === "undefined" || head.length < HEAD) return false;
  const view = new DataView(head.buffer, head.byteOffset);
  const [depth, colour, , , interlace] = head.subarray(24, HEAD);
  const opaque = colour === 0 || colour === 2;
  return depth === 8 && opaque && interlace === 0 && view.getUint32(16) * view.getUint32(20) <= MOST_PIXELS;
}

/**
 * Has the browser read a PNG, beside this thread and four times as fast as script does.
 *
 * @param pause  lets other things happen
 * @throws Error  where the browser cannot after all
 */
export async function readByBrowser(
  bytes: ReadableStream<Uint8Array<ArrayBuffer>>,
  pause: () => Promise<void>,
): Promise<Rgba> {
  const decoder = new ImageDecoder({ data: bytes, type: "image/png", colorSpaceConversion: "none" });
  try {
    const { image } = await decoder.decode();
    try {
      const { codedWidth: width, codedHeight: height } = image;
      const data = sharedRoom(width * height * 4);
      const rows = Math.max(1, Math.floor(AT_ONCE / (width * 4)));
      for (let y = 0; y < height; y += rows) {
        const rect = { x: 0, y, width, height: Math.min(rows, height - y) };
        await image.copyTo(data.subarray(y * width * 4), { rect, format: "RGBA" });
        await pause();
      }
      return { width, height, data };
    } finally {
      image.close();
    }
  } finally {
    decoder.close();
  }
}

/** The first bytes of a stream, and the stream with them still in it. */
export async function headOf(
  bytes: ReadableStream<Uint8Array<ArrayBuffer>>,
): Promise<{ head: Uint8Array; whole: ReadableStream<Uint8Array<ArrayBuffer>> }> {
  const reader = bytes.getReader();
  const read: Uint8Array<ArrayBuffer>[] = [];
  const head = new Uint8Array(HEAD);
  let have = 0;
  while (have < HEAD) {
    const { done, value } = await reader.read();
    if (done) break;
    read.push(value);
    head.set(value.subarray(0, HEAD - have), have);
    have = Math.min(HEAD, have + value.length);
  }
  const whole = new ReadableStream<Uint8Array<ArrayBuffer>>({
    start: (to) => read.forEach((piece) => to.enqueue(piece)),
    pull: async (to) => {
      const { done, value } = await reader.read();
      if (done) to.close();
      else to.enqueue(value);
    },
    cancel: (why) => reader.cancel(why),
  });
  return { head: head.subarray(0, have), whole };
}
