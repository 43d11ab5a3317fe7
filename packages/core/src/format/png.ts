import { zlibSync } from "fflate";
import { type Bits, type Gray, type Rgba } from "../raster/types";

const SIGNATURE = [137, 80, 78, 71, 13, 10, 26, 10];
const CRC_TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c >>> 0;
});

/** Writes a 1-bit greyscale PNG in which 0 (black) is a mark, with its resolution. @see ISO/IEC 15948 */
export function writeBitsPng(bits: Bits, dotsPerInch: number): Uint8Array {
  const { width, height, stride, data } = bits;
  const raw = new Uint8Array((stride + 1) * height);
  for (let y = 0, i = 0, o = 0; y < height; y++) {
    o++; // filter type 0
    for (let b = 0; b < stride; b++) raw[o++] = ~data[i++];
  }
  return png(width, height, 1, 0, dotsPerInch, raw);
}

/** Writes an 8-bit greyscale PNG with its resolution. */
export function writeGrayPng(picture: Gray, dotsPerInch: number): Uint8Array {
  return png(
    picture.width,
    picture.height,
    8,
    0,
    dotsPerInch,
    filterUp(picture.data, picture.width, picture.height),
  );
}

/** Writes an 8-bit RGBA PNG (straight alpha) with its resolution. */
export function writeRgbaPng(picture: Rgba, dotsPerInch: number): Uint8Array {
  return png(
    picture.width,
    picture.height,
    8,
    6,
    dotsPerInch,
    filterUp(picture.data, picture.width * 4, picture.height),
  );
}

function filterUp(data: Uint8Array, stride: number, height: number): Uint8Array {
  const raw = new Uint8Array((stride + 1) * height);
  for (let y = 0, i = 0, o = 0; y < height; y++) {
    raw[o++] = 2;
    for (let b = 0; b < stride; b++, i++) raw[o++] = data[i] - (y > 0 ? data[i - stride] : 0);
  }
  return raw;
}

function png(
  width: number,
  height: number,
  depth: number,
  colour: number,
  dotsPerInch: number,
  raw: Uint8Array,
) {
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header.set([depth, colour, 0, 0, 0], 8);
  const physical = new Uint8Array(9);
  const perMetre = Math.round(dotsPerInch / 0.0254);
  new DataView(physical.buffer).setUint32(0, perMetre);
  new DataView(physical.buffer).setUint32(4, perMetre);
  physical[8] = 1;
  return concat([
    Uint8Array.from(SIGNATURE),
    chunk("IHDR", header),
    chunk("pHYs", physical),
    chunk("IDAT", zlibSync(raw, { level: 6 })),
    chunk("IEND", new Uint8Array(0)),
  ]);
}

function chunk(type: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(data.length + 12);
  const view = new DataView(out.buffer);
  view.setUint32(0, data.length);
  for (let i = 0; i < 4; i++) out[4 + i] = type.charCodeAt(i);
  out.set(data, 8);
  let crc = 0xffffffff;
  for (let i = 4; i < data.length + 8; i++) crc = CRC_TABLE[(crc ^ out[i]) & 255] ^ (crc >>> 8);
  view.setUint32(data.length + 8, ~crc >>> 0);
  return out;
}

export function concat(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/**
 * Reads an 8-bit, not interlaced PNG (grey, grey with alpha, RGB or RGBA) into RGBA.
 *
 * @param inflate  undoes zlib compression; the host has a faster one than plain script
 * @throws Error   when the file is something else or broken
 */
export async function readPng(
  file: Uint8Array,
  inflate: (data: Uint8Array) => Promise<Uint8Array>,
): Promise<Rgba> {
  if (SIGNATURE.some((byte, i) => file[i] !== byte)) throw new Error("not a PNG file");
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  const parts: Uint8Array[] = [];
  let width = 0;
  let height = 0;
  let channels = 0;
  for (let at = 8; at + 12 <= file.length;) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...file.subarray(at + 4, at + 8));
    const start = at + 8;
    if (type === "IHDR") {
      width = view.getUint32(start);
      height = view.getUint32(start + 4);
      const [depth, colour, , , interlace] = file.subarray(start + 8, start + 13);
      channels = [1, 0, 3, 0, 2, 0, 4][colour] ?? 0;
      if (depth !== 8 || channels === 0 || interlace !== 0)
        throw new Error(`PNG of depth ${depth}, type ${colour} is not read`);
    } else if (type === "IDAT") parts.push(file.subarray(start, start + length));
    else if (type === "IEND") break;
    at = start + length + 4;
  }
  const raw = await inflate(concat(parts));
  if (raw.length !== (width * channels + 1) * height) throw new Error("PNG picture data is not whole");
  unfilter(raw, width * channels, height, channels);
  return spreadToRgba(raw, width, height, channels);
}

/** Undoes the row filters in place. */
function unfilter(raw: Uint8Array, stride: number, height: number, step: number): void {
  const row = stride + 1;
  for (let y = 0; y < height; y++) {
    const start = y * row + 1;
    const type = raw[start - 1];
    const up = y > 0 ? -row : 0;
    if (type === 1) for (let i = start + step; i < start + stride; i++) raw[i] += raw[i - step];
    else if (type === 2 && up) for (let i = start; i < start + stride; i++) raw[i] += raw[i + up];
    else if (type === 3) {
      for (let k = 0, i = start; k < stride; k++, i++) {
        raw[i] += ((k >= step ? raw[i - step] : 0) + (up ? raw[i + up] : 0)) >> 1;
      }
    } else if (type === 4) {
      for (let k = 0, i = start; k < stride; k++, i++) {
        const a = k >= step ? raw[i - step] : 0;
        const b = up ? raw[i + up] : 0;
        const c = k >= step && up ? raw[i - step + up] : 0;
        const pa = Math.abs(b - c);
        const pb = Math.abs(a - c);
        const pc = Math.abs(a + b - 2 * c);
        raw[i] += pa <= pb && pa <= pc ? a : pb <= pc ? b : c;
      }
    }
  }
}

function spreadToRgba(raw: Uint8Array, width: number, height: number, channels: number): Rgba {
  const data = new Uint8Array(width * height * 4);
  const [g, b, a] = channels >= 3 ? [1, 2, 3] : [0, 0, 1];
  const alpha = channels === 2 || channels === 4;
  for (let y = 0, o = 0; y < height; y++) {
    for (let x = 0, i = y * (width * channels + 1) + 1; x < width; x++, i += channels, o += 4) {
      data[o] = raw[i];
      data[o + 1] = raw[i + g];
      data[o + 2] = raw[i + b];
      data[o + 3] = alpha ? raw[i + a] : 255;
    }
  }
  return { width, height, data };
}
