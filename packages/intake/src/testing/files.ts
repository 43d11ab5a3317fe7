import { crc32, deflateSync } from "node:zlib";

/** Little-endian numbers one after another: [value, bytes]. */
export function packed(...numbers: readonly (readonly [value: number, bytes: 1 | 2 | 4])[]): Buffer {
  return Buffer.concat(
    numbers.map(([value, bytes]) => {
      const out = Buffer.alloc(bytes);
      if (bytes === 1) out.writeUInt8(value);
      else if (bytes === 2) out.writeUInt16LE(value);
      else out.writeUInt32LE(value >>> 0);
      return out;
    }),
  );
}

interface BmpParts {
  readonly width: number;
  readonly height: number;
  readonly bits: number;
  readonly compression?: number;
  /** 12 (OS/2) or 40. */
  readonly header?: number;
  readonly palette?: readonly (readonly [r: number, g: number, b: number])[];
  readonly masks?: readonly number[];
  /** Bytes nobody reads between palette and pixels. */
  readonly gap?: number;
  readonly data: Uint8Array;
}

/** A BMP from its parts, to the letter of its layout. */
export function bmpOf({ width, height, bits, data, ...more }: BmpParts): Buffer {
  const { compression = 0, header = 40, palette = [], masks = [], gap = 0 } = more;
  const head =
    header === 12
      ? packed([12, 4], [width, 2], [height, 2], [1, 2], [bits, 2])
      : Buffer.concat([
          packed([40, 4], [width, 4], [height, 4], [1, 2], [bits, 2], [compression, 4], [data.length, 4]),
          packed([2835, 4], [2835, 4], [palette.length, 4], [0, 4]),
        ]);
  const colours = Buffer.from(palette.flatMap(([r, g, b]) => (header === 12 ? [b, g, r] : [b, g, r, 0])));
  const fields = Buffer.concat(masks.map((m) => packed([m, 4])));
  const start = 14 + head.length + fields.length + colours.length + gap;
  const file = Buffer.concat([
    Buffer.from("BM"),
    packed([start + data.length, 4], [0, 4], [start, 4]),
    ...[head, fields, colours, Buffer.alloc(gap, 0xee), data],
  ]);
  return file;
}

const pngChunk = (type: string, data: Uint8Array): Buffer => {
  const body = Buffer.concat([Buffer.from(type), data]);
  const out = Buffer.alloc(body.length + 8);
  out.writeUInt32BE(data.length);
  body.copy(out, 4);
  out.writeUInt32BE(crc32Of(body), out.length - 4);
  return out;
};
// In Node since 20.15.
const crc32Of = crc32 as (data: Uint8Array) => number;

/** A PNG of RGB samples, one or two bytes each, with chunks of one's own before them. */
export function pngOf(
  width: number,
  samples: readonly number[],
  depth: 8 | 16,
  own: Readonly<Record<string, Uint8Array>> = {},
): Buffer {
  const height = samples.length / 3 / width;
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width);
  header.writeUInt32BE(height, 4);
  header.set([depth, 2, 0, 0, 0], 8);
  const rows = Array.from({ length: height }, (_, y) => [
    0,
    ...samples
      .slice(y * width * 3, (y + 1) * width * 3)
      .flatMap((v) => (depth === 8 ? [v] : [v >> 8, v & 255])),
  ]);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]),
    pngChunk("IHDR", header),
    ...Object.entries(own).map(([type, data]) => pngChunk(type, data)),
    pngChunk("IDAT", deflateSync(Buffer.from(rows.flat()))),
    pngChunk("IEND", Buffer.alloc(0)),
  ]);
}

/** Big-endian 32-bit numbers. */
export const words = (...values: readonly number[]): Buffer => {
  const out = Buffer.alloc(values.length * 4);
  values.forEach((v, k) => out.writeInt32BE(v, k * 4));
  return out;
};

const fixed = (v: number): number => Math.round(v * 65536);

/** An ICC profile of one gamma: of RGB by the XYZ (D50) of its primaries, or of grey. */
export function profileOf(gamma: number, primaries?: readonly (readonly number[])[]): Buffer {
  const curve = Buffer.concat([Buffer.from("curv\0\0\0\0"), words(1), Buffer.from([gamma, 0, 0, 0])]);
  const xyz = (v: readonly number[]) => Buffer.concat([Buffer.from("XYZ \0\0\0\0"), words(...v.map(fixed))]);
  const white = [0.9642, 1, 0.8249];
  const tags: [string, Buffer][] = primaries
    ? [
        ["wtpt", xyz(white)],
        ...["rXYZ", "gXYZ", "bXYZ"].map((tag, k) => [tag, xyz(primaries[k])] as [string, Buffer]),
        ...["rTRC", "gTRC", "bTRC"].map((tag) => [tag, curve] as [string, Buffer]),
      ]
    : [
        ["wtpt", xyz(white)],
        ["kTRC", curve],
      ];
  const header = Buffer.alloc(128);
  header.write("mntr", 12);
  header.write(primaries ? "RGB " : "GRAY", 16);
  header.write("XYZ ", 20);
  header.write("acsp", 36);
  header.writeUInt32BE(0x02400000, 8);
  words(...white.map(fixed)).copy(header, 68);
  let at = 128 + 4 + tags.length * 12;
  const list = tags.map(([tag, data]) => {
    const entry = Buffer.concat([Buffer.from(tag), words(at, data.length)]);
    at += data.length;
    return entry;
  });
  const out = Buffer.concat([header, words(tags.length), ...list, ...tags.map(([, data]) => data)]);
  out.writeUInt32BE(out.length);
  return out;
}

/** A little-endian TIFF of one strip; tags as [number, type, values]: 3 is two bytes a value, 4 four, 7 one. */
export function tiffOf(
  width: number,
  height: number,
  strip: Uint8Array,
  tags: readonly (readonly [tag: number, type: 1 | 3 | 4 | 7, values: readonly number[]])[],
): Buffer {
  const all = [
    [256, 4, [width]],
    [257, 4, [height]],
    [273, 4, [8]],
    [278, 4, [height]],
    [279, 4, [strip.length]],
    ...tags,
  ] as [number, number, number[]][];
  all.sort((a, b) => a[0] - b[0]);
  const begin = 8 + strip.length + (strip.length % 2);
  let beyond = begin + 2 + all.length * 12 + 4;
  const far: Buffer[] = [];
  const entries = all.map(([tag, type, values]) => {
    const wide = type === 3 ? 2 : type === 4 ? 4 : 1;
    const data = Buffer.concat(values.map((v) => packed([v, wide])));
    const field = Buffer.alloc(4);
    if (data.length <= 4) data.copy(field);
    else {
      field.writeUInt32LE(beyond);
      far.push(data);
      beyond += data.length;
    }
    return Buffer.concat([packed([tag, 2], [type, 2], [values.length, 4]), field]);
  });
  return Buffer.concat([
    ...[Buffer.from("II"), packed([42, 2], [begin, 4]), strip, Buffer.alloc(strip.length % 2)],
    ...[packed([all.length, 2]), ...entries, packed([0, 4]), ...far],
  ]);
}
