import { Deflate } from "pako";
import { type Work } from "../maths/work";
import { type Bits, type Gray, type Rgba } from "../raster/types";
import { concat, SIGNATURE } from "./pngParts";

const CRC_TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c >>> 0;
});

/** Writes a 1-bit greyscale PNG in which 0 (black) is a mark, with its resolution. @see ISO/IEC 15948 */
export function writeBitsPng({ width, height, stride, data }: Bits, dotsPerInch: number): Work<Uint8Array> {
  return png({ width, height, depth: 1, colour: 0, dotsPerInch }, stride, (y, row) => {
    row[0] = 0; // not filtered
    for (let b = 0, i = y * stride; b < stride; b++, i++) row[b + 1] = ~data[i];
  });
}

/** Writes an 8-bit greyscale PNG with its resolution. */
export function writeGrayPng({ width, height, data }: Gray, dotsPerInch: number): Work<Uint8Array> {
  return png({ width, height, depth: 8, colour: 0, dotsPerInch }, width, filteredUp(data, width));
}

/** Writes an 8-bit RGBA PNG (straight alpha) with its resolution. */
export function writeRgbaPng({ width, height, data }: Rgba, dotsPerInch: number): Work<Uint8Array> {
  return png({ width, height, depth: 8, colour: 6, dotsPerInch }, width * 4, filteredUp(data, width * 4));
}

type RowWriter = (y: number, row: Uint8Array) => void;

/** Rows as their differences from the row above. */
const filteredUp =
  (data: Uint8Array, stride: number): RowWriter =>
  (y, row) => {
    row[0] = 2;
    const i = y * stride;
    if (y === 0) row.set(data.subarray(0, stride), 1);
    else for (let b = 0; b < stride; b++) row[b + 1] = data[i + b] - data[i + b - stride];
  };

interface Header {
  readonly width: number;
  readonly height: number;
  readonly depth: number;
  readonly colour: number;
  readonly dotsPerInch: number;
}

/** Bytes compressed between two slices, some ten milliseconds. */
const AT_ONCE = 1 << 17;

/** @param stride  bytes of a row, without the byte that names its filter */
function* png(
  { width, height, depth, colour, dotsPerInch }: Header,
  stride: number,
  write: RowWriter,
): Work<Uint8Array> {
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
  const parts: Uint8Array[] = [];
  const zlib = new Deflate({ level: depth === 1 ? 6 : 4, chunkSize: 1 << 16 });
  zlib.onData = (part) => parts.push(chunk("IDAT", part as Uint8Array));
  const rows = Math.max(1, Math.floor(AT_ONCE / (stride + 1)));
  for (let y = 0; y < height; y += rows) {
    yield y / height;
    const count = Math.min(rows, height - y);
    const raw = new Uint8Array(count * (stride + 1));
    for (let k = 0; k < count; k++) write(y + k, raw.subarray(k * (stride + 1), (k + 1) * (stride + 1)));
    zlib.push(raw, y + count === height);
  }
  return concat([
    Uint8Array.from(SIGNATURE),
    chunk("IHDR", header),
    chunk("pHYs", physical),
    ...parts,
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
