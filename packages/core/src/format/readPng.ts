import { concat, SIGNATURE } from "./pngParts";
import { type Rgba } from "../raster/types";
import { type BeginRows } from "../route/source";

type Chunks = AsyncIterable<Uint8Array>;

export interface PngHost {
  /** Undoes zlib compression as it comes; the host has a faster one than plain script. */
  readonly inflate: (data: Chunks) => Chunks;
  /** Room for the pixels; the host may want them in shared memory. */
  readonly room?: (bytes: number) => Uint8Array;
  /** Lets other things happen, and may throw to stop. */
  readonly pause?: () => Promise<void>;
}

interface Header {
  readonly width: number;
  readonly height: number;
  readonly channels: number;
}

/** Bytes of rows between two pauses: some ten milliseconds. */
const AT_ONCE = 1 << 20;

/**
 * Reads an 8-bit, not interlaced PNG (grey, grey with alpha, RGB or RGBA) row by row as its bytes come in: no more is
 * held than two rows and what the host's inflate has in hand.
 *
 * @param begin  is told of the picture, and says what is done with each row; RGBA
 * @throws Error  when the file is something else or broken
 * @see ISO/IEC 15948
 */
export async function readPngRows(
  file: Chunks,
  begin: BeginRows,
  { inflate, pause }: Omit<PngHost, "room">,
): Promise<void> {
  let header: Header | null = null;
  const compressed = pictureData(file, (h) => (header = h));
  let rows: Rows | null = null;
  let since = 0;
  for await (const raw of inflate(compressed)) {
    if (!header) throw new Error("not a PNG file");
    rows ??= new Rows(header, begin);
    for (let at = 0; at < raw.length; at += AT_ONCE) {
      const part = raw.subarray(at, at + AT_ONCE);
      rows.take(part);
      since += part.length;
      if (since < AT_ONCE || !pause) continue;
      since = 0;
      await pause();
    }
  }
  if (!rows?.whole) throw new Error("PNG picture data is not whole");
}

/** The whole picture of a PNG. @throws as `readPngRows` */
export async function readPng(file: Chunks, host: PngHost): Promise<Rgba> {
  let picture: Rgba | null = null;
  const begin: BeginRows = ({ width, height }) => {
    const bytes = width * height * 4;
    const data = host.room ? host.room(bytes) : new Uint8Array(bytes);
    picture = { width, height, data };
    return (y, row) => data.set(row, y * width * 4);
  };
  await readPngRows(file, begin, host);
  return picture!;
}

/** The compressed picture data of a PNG's chunks, in order, handed on as it comes. */
async function* pictureData(file: Chunks, tell: (header: Header) => void): Chunks {
  let held: Uint8Array = new Uint8Array(0); // what is read whole: the signature, a chunk's head, the header
  let wanted = SIGNATURE.length;
  let [type, left] = ["", 0];
  let next: "signature" | "head" | "content" | "pass" = "signature";
  for await (const bytes of file) {
    for (let at = 0; at < bytes.length;) {
      if (next === "pass") {
        const part = bytes.subarray(at, at + left);
        at += part.length;
        left -= part.length;
        const content = part.subarray(0, Math.max(0, part.length + Math.min(0, left - CHECKSUM)));
        if (type === "IDAT" && content.length > 0) yield content;
        if (left === 0) [next, wanted] = ["head", 8];
        continue;
      }
      const part = bytes.subarray(at, at + wanted - held.length);
      held = concat([held, part]);
      at += part.length;
      if (held.length < wanted) continue;
      const whole = held;
      held = new Uint8Array(0);
      if (next === "signature") {
        if (SIGNATURE.some((byte, i) => whole[i] !== byte)) throw new Error("not a PNG file");
        [next, wanted] = ["head", 8];
      } else if (next === "head") {
        left = new DataView(whole.buffer, whole.byteOffset).getUint32(0) + CHECKSUM;
        type = String.fromCharCode(...whole.subarray(4));
        if (type === "IEND") return;
        [next, wanted] = type === "IHDR" ? ["content", left] : ["pass", 0];
      } else {
        tell(headerOf(whole));
        [next, wanted] = ["head", 8];
      }
    }
  }
  if (next === "signature") throw new Error("not a PNG file");
}

/** Every chunk ends with four bytes that are not its content. */
const CHECKSUM = 4;

function headerOf(content: Uint8Array): Header {
  const view = new DataView(content.buffer, content.byteOffset);
  const [depth, colour, , , interlace] = content.subarray(8, 13);
  const channels = [1, 0, 3, 0, 2, 0, 4][colour] ?? 0;
  if (depth !== 8 || channels === 0 || interlace !== 0)
    throw new Error(`PNG of depth ${depth}, type ${colour} is not read`);
  return { width: view.getUint32(0), height: view.getUint32(4), channels };
}

/** Takes filtered rows in pieces of any size and undoes their filters. */
class Rows {
  private row: Uint8Array;
  private above: Uint8Array;
  private readonly colour: Uint8Array;
  private readonly handOn: (y: number, row: Uint8Array) => void;
  private filled = 0;
  private y = 0;

  constructor(
    private readonly header: Header,
    begin: BeginRows,
  ) {
    const { width, height, channels } = header;
    this.row = new Uint8Array(width * channels + 1);
    this.above = new Uint8Array(width * channels + 1);
    this.colour = new Uint8Array(width * 4);
    this.handOn = begin({ width, height, whole: channels === 1 || channels === 3 });
  }

  get whole(): boolean {
    return this.y === this.header.height;
  }

  take(raw: Uint8Array): void {
    for (let at = 0; at < raw.length && !this.whole;) {
      const part = raw.subarray(at, at + this.row.length - this.filled);
      this.row.set(part, this.filled);
      this.filled += part.length;
      at += part.length;
      if (this.filled === this.row.length) this.end();
    }
  }

  private end(): void {
    const { channels } = this.header;
    unfilter(this.row, this.above, channels);
    spread(this.row, channels, this.colour);
    this.handOn(this.y, this.colour);
    [this.row, this.above] = [this.above, this.row];
    this.filled = 0;
    this.y++;
  }
}

/** Undoes a row's filter in place; the first byte of a row names it. */
function unfilter(row: Uint8Array, above: Uint8Array, step: number): void {
  const type = row[0];
  const end = row.length;
  if (type === 1) for (let i = 1 + step; i < end; i++) row[i] += row[i - step];
  else if (type === 2) for (let i = 1; i < end; i++) row[i] += above[i];
  else if (type === 3)
    for (let i = 1; i < end; i++) row[i] += ((i > step ? row[i - step] : 0) + above[i]) >> 1;
  else if (type === 4) {
    for (let i = 1; i <= step && i < end; i++) row[i] += above[i];
    for (let i = 1 + step; i < end; i++) row[i] += nearestOf(row[i - step], above[i], above[i - step]);
  }
}

/**
 * Of left, above and what lies before that, the one nearest to left + above - before. Without a branch: in a picture with
 * grain nobody can guess which way it goes, and guessing wrong takes longer than all of this.
 */
function nearestOf(left: number, above: number, before: number): number {
  const a = above - before;
  const b = left - before;
  const c = a + b;
  const pa = (a ^ (a >> 31)) - (a >> 31);
  const pb = (b ^ (b >> 31)) - (b >> 31);
  const pc = (c ^ (c >> 31)) - (c >> 31);
  // All bits where it is the one, none where not.
  const isLeft = ((pa - pb - 1) & (pa - pc - 1)) >> 31;
  const isAbove = ~isLeft & ((pb - pc - 1) >> 31);
  return (left & isLeft) | (above & isAbove) | (before & ~(isLeft | isAbove));
}

function spread(row: Uint8Array, channels: number, out: Uint8Array): void {
  const [g, b, a] = channels >= 3 ? [1, 2, 3] : [0, 0, 1];
  const alpha = channels === 2 || channels === 4;
  for (let o = 0, i = 1; o < out.length; o += 4, i += channels) {
    out[o] = row[i];
    out[o + 1] = row[i + g];
    out[o + 2] = row[i + b];
    out[o + 3] = alpha ? row[i + a] : 255;
  }
}
