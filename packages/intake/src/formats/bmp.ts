import { type Rgba } from "@hardline/core/raster/types";
import { broken, notRead } from "../errors";
import { type Found, type Head } from "../found";

export const isBmp = ({ ascii, bytes }: Head): boolean => ascii(0, 2) === "BM" && bytes.length > 26;

const [PLAIN, RLE8, RLE4, FIELDS, ALPHA_FIELDS] = [0, 1, 2, 3, 6];
/** Length of a header by which its kind is known; the two of OS/2 first. */
const [CORE, SHORT] = [12, 16];

interface Header {
  readonly width: number;
  readonly height: number;
  /** Rows are stored from the top; from the bottom otherwise. */
  readonly fromTop: boolean;
  readonly bits: number;
  readonly compression: number;
  readonly masks: readonly number[];
  /** r, g, b of each colour. */
  readonly palette: Uint8Array;
  readonly start: number;
}

/** A Windows or OS/2 bitmap of 1 to 32 bits a pixel, plain, by fields or run-length coded. */
export function lookAtBmp(bytes: Uint8Array): Found {
  const header = readHeader(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  const { width, height } = header;
  return { width, height, vector: false, notes: [], pixels: async () => decodeBmp(bytes, header) };
}

function readHeader(view: DataView): Header {
  const u16 = (at: number) => view.getUint16(at, true);
  const u32 = (at: number) => view.getUint32(at, true);
  if (view.byteLength < 14 + CORE) throw broken("BMP", "it ends within its header");
  const length = u32(14);
  const core = length === CORE;
  if (length < CORE || length > 1024 || view.byteLength < 14 + length)
    throw broken("BMP", `its header is said to be ${length} bytes long`);
  const width = core ? u16(18) : view.getInt32(18, true);
  const rows = core ? view.getInt16(20, true) : view.getInt32(22, true);
  const bits = u16(core ? 24 : 28);
  const compression = core || length <= SHORT ? PLAIN : u32(30);
  if (width <= 0 || rows === 0 || rows === -0x80000000) throw broken("BMP", "it has no size");
  const coded = compression === RLE8 || compression === RLE4;
  const fields = compression === FIELDS || compression === ALPHA_FIELDS;
  const fits =
    compression === PLAIN
      ? [1, 2, 4, 8, 16, 24, 32].includes(bits)
      : coded
        ? bits === (compression === RLE8 ? 8 : 4) && rows > 0
        : fields && (bits === 16 || bits === 32);
  if (!fits) {
    throw notRead(
      `A BMP of ${bits} bits a pixel stored in way ${compression}`,
      "Save it as PNG, or as BMP of 1 to 32 bits a pixel.",
    );
  }
  // Masks follow the short header, and are part of every longer one.
  const masksAt = 14 + 40;
  const own = length >= 56 || compression === ALPHA_FIELDS;
  const given = fields ? [0, 4, 8, ...(own ? [12] : [])] : [];
  if (fields && view.byteLength < masksAt + given.length * 4)
    throw broken("BMP", "it ends within its header");
  const masks = fields
    ? given.map((at) => u32(masksAt + at))
    : bits === 16
      ? [0x7c00, 0x3e0, 0x1f]
      : [0xff0000, 0xff00, 0xff];
  const paletteAt = 14 + length + (fields && length === 40 ? given.length * 4 : 0);
  const used = bits > 8 ? 0 : (!core && length > SHORT && u32(46)) || 1 << bits;
  const step = core ? 3 : 4;
  const said = u32(10);
  const start = said >= 14 + length ? said : paletteAt + used * step;
  // Some writers store fewer colours than they say; what follows is pixels, not colours.
  const colours = Math.max(0, Math.min(used, 1 << Math.min(8, bits), Math.floor((start - paletteAt) / step)));
  if (start >= view.byteLength || paletteAt + colours * step > view.byteLength)
    throw broken("BMP", "its pixels lie beyond its end");
  const palette = new Uint8Array(256 * 3);
  for (let k = 0; k < (bits > 8 ? 0 : colours); k++)
    for (let c = 0; c < 3; c++) palette[k * 3 + c] = view.getUint8(paletteAt + k * step + 2 - c);
  return { width, height: Math.abs(rows), fromTop: rows < 0, bits, compression, masks, palette, start };
}

function decodeBmp(bytes: Uint8Array, header: Header): Rgba {
  const { width, height, bits, compression } = header;
  const data = new Uint8Array(width * height * 4);
  if (compression === RLE8 || compression === RLE4) fromIndices(unpackRuns(bytes, header), header, data);
  else {
    const stride = Math.ceil((width * bits) / 32) * 4;
    // The last row may come without its filling.
    if (header.start + stride * (height - 1) + Math.ceil((width * bits) / 8) > bytes.length)
      throw broken("BMP", "picture data is not whole");
    if (bits <= 8) fromIndices(unpackBits(bytes, header, stride), header, data);
    else fromFields(bytes, header, stride, data);
  }
  return { width, height, data };
}

const rowOf = ({ height, fromTop }: Header, stored: number): number =>
  fromTop ? stored : height - 1 - stored;

function unpackBits(bytes: Uint8Array, header: Header, stride: number): Uint8Array {
  const { width, height, bits, start } = header;
  const out = new Uint8Array(width * height);
  const [each, mask] = [8 / bits, (1 << bits) - 1];
  for (let y = 0; y < height; y++) {
    const [from, to] = [start + y * stride, rowOf(header, y) * width];
    for (let x = 0; x < width; x++) {
      const shift = 8 - bits - (x % each) * bits;
      out[to + x] = (bytes[from + Math.floor(x / each)] >> shift) & mask;
    }
  }
  return out;
}

/**
 * Runs of one index (or two in turn, at four bits), stretches as they are, ends of rows and jumps. What is jumped over
 * keeps the first colour.
 */
function unpackRuns(bytes: Uint8Array, header: Header): Uint8Array {
  const { width, height, bits, start } = header;
  const out = new Uint8Array(width * height);
  let [x, y, at] = [0, 0, start];
  const next = (): number => {
    if (at >= bytes.length) throw broken("BMP", "picture data is not whole");
    return bytes[at++];
  };
  const put = (index: number): void => {
    if (x < width && y < height) out[rowOf(header, y) * width + x] = index;
    x++;
  };
  const half = (pair: number, k: number): number => (k % 2 === 0 ? pair >> 4 : pair & 15);
  while (y < height) {
    const [count, value] = [next(), next()];
    if (count > 0) {
      for (let k = 0; k < count; k++) put(bits === 8 ? value : half(value, k));
    } else if (value === 0) [x, y] = [0, y + 1];
    else if (value === 1) break;
    else if (value === 2) [x, y] = [x + next(), y + next()];
    else {
      let pair = 0;
      for (let k = 0; k < value; k++) {
        if (bits === 8 || k % 2 === 0) pair = next();
        put(bits === 8 ? pair : half(pair, k));
      }
      const stored = bits === 8 ? value : Math.ceil(value / 2);
      if (stored % 2 === 1) next();
    }
  }
  return out;
}

function fromIndices(indices: Uint8Array, { palette }: Header, data: Uint8Array): void {
  for (let i = 0, o = 0; i < indices.length; i++, o += 4) {
    const p = indices[i] * 3;
    data[o] = palette[p];
    data[o + 1] = palette[p + 1];
    data[o + 2] = palette[p + 2];
    data[o + 3] = 255;
  }
}

function fromFields(bytes: Uint8Array, header: Header, stride: number, data: Uint8Array): void {
  const { width, height, bits, masks, start } = header;
  const wide = bits / 8;
  const channels = masks.map(channelOf);
  const alpha = channels.length > 3 && masks[3] !== 0;
  let clear = true;
  for (let y = 0; y < height; y++) {
    let from = start + y * stride;
    let o = rowOf(header, y) * width * 4;
    for (let x = 0; x < width; x++, from += wide, o += 4) {
      let word = bytes[from] | (bytes[from + 1] << 8);
      if (wide > 2) word |= bytes[from + 2] << 16;
      if (wide > 3) word |= bytes[from + 3] << 24;
      for (let c = 0; c < 3; c++) data[o + c] = channels[c](word);
      data[o + 3] = alpha ? channels[3](word) : 255;
      if (data[o + 3]) clear = false;
    }
  }
  // Many writers leave the fourth byte zero; a picture that is clear everywhere is meant to be whole.
  if (clear) for (let i = 3; i < data.length; i += 4) data[i] = 255;
}

/** Takes a channel out of a word and spreads it over 0..255, so that the most it can hold is white. */
function channelOf(mask: number): (word: number) => number {
  if (mask === 0) return () => 0;
  const shift = 31 - Math.clz32(mask & -mask);
  const most = mask >>> shift;
  return (word) => Math.round((((word & mask) >>> shift) * 255) / most);
}
