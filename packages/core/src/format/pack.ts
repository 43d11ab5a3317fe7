import { Deflate } from "pako";
import { rowsAtOnce, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { concat } from "./pngParts";

/** A picture's colour, three bytes a pixel, and its alpha, one, each packed by zlib in slices. */
export function* packedPlanes({
  width,
  height,
  data,
}: Rgba): Work<{ colour: Uint8Array; alpha: Uint8Array }> {
  const parts: Record<"colour" | "alpha", Uint8Array[]> = { colour: [], alpha: [] };
  const packer = (into: Uint8Array[]) => {
    const zlib = new Deflate({ level: 4, chunkSize: 1 << 16 });
    zlib.onData = (part) => void into.push(part as Uint8Array);
    return zlib;
  };
  const [colour, alpha] = [packer(parts.colour), packer(parts.alpha)];
  const atOnce = rowsAtOnce(8 * width);
  for (let y = 0; y < height; y += atOnce) {
    yield y / height;
    const rows = Math.min(atOnce, height - y);
    const [rgb, a] = [new Uint8Array(3 * rows * width), new Uint8Array(rows * width)];
    for (let i = 0, o = 4 * y * width; i < a.length; i++, o += 4) {
      rgb[3 * i] = data[o];
      rgb[3 * i + 1] = data[o + 1];
      rgb[3 * i + 2] = data[o + 2];
      a[i] = data[o + 3];
    }
    const last = y + rows === height;
    colour.push(rgb, last);
    alpha.push(a, last);
  }
  return { colour: concat(parts.colour), alpha: concat(parts.alpha) };
}

/** Bytes packed by zlib in slices. @param level  how hard, of 9 */
export function* packedBytes(bytes: Uint8Array, level: 4 | 6 = 4): Work<Uint8Array> {
  const parts: Uint8Array[] = [];
  const zlib = new Deflate({ level, chunkSize: 1 << 16 });
  zlib.onData = (part) => void parts.push(part as Uint8Array);
  for (let at = 0; at < bytes.length; at += PACKED_AT_ONCE) {
    yield at / bytes.length;
    zlib.push(bytes.slice(at, at + PACKED_AT_ONCE), at + PACKED_AT_ONCE >= bytes.length);
  }
  return concat(parts);
}

const PACKED_AT_ONCE = 1 << 16;
