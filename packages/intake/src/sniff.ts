import { isDxf } from "./formats/dxf";
import { isSvg, textOf } from "./formats/svg";

export interface Kind {
  readonly name: "PNG" | "JPEG" | "WebP" | "TIFF" | "GIF" | "BMP" | "SVG" | "DXF";
  readonly mediaType: string;
  readonly extension: string;
}

const starts = (bytes: Uint8Array, ...expected: number[]): boolean =>
  expected.every((b, i) => bytes[i] === b);
const ascii = (bytes: Uint8Array, from: number, to: number): string =>
  Buffer.from(bytes.subarray(from, to)).toString("latin1");

/** What a file is, by its content; its name is not looked at. Null for anything that is not taken in. */
export function sniff(bytes: Uint8Array): Kind | null {
  if (starts(bytes, 0x89, 0x50, 0x4e, 0x47)) return { name: "PNG", mediaType: "image/png", extension: "png" };
  if (starts(bytes, 0xff, 0xd8, 0xff)) return { name: "JPEG", mediaType: "image/jpeg", extension: "jpg" };
  if (ascii(bytes, 0, 4) === "GIF8") return { name: "GIF", mediaType: "image/gif", extension: "gif" };
  if (ascii(bytes, 0, 4) === "RIFF" && ascii(bytes, 8, 12) === "WEBP") {
    return { name: "WebP", mediaType: "image/webp", extension: "webp" };
  }
  if (
    starts(bytes, 0x49, 0x49, 42, 0) ||
    starts(bytes, 0x4d, 0x4d, 0, 42) ||
    starts(bytes, 0x49, 0x49, 43, 0)
  ) {
    return { name: "TIFF", mediaType: "image/tiff", extension: "tif" };
  }
  if (ascii(bytes, 0, 2) === "BM" && bytes.length > 26)
    return { name: "BMP", mediaType: "image/bmp", extension: "bmp" };
  const text = textOf(bytes, 65536);
  if (text !== null && isSvg(text)) return { name: "SVG", mediaType: "image/svg+xml", extension: "svg" };
  if (text !== null && isDxf(text)) return { name: "DXF", mediaType: "image/vnd.dxf", extension: "dxf" };
  return null;
}
