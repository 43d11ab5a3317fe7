import { type Work } from "../maths/work";
import { type Bits } from "../raster/types";
import { FormatError } from "./formatError";
import { decodeGroup4 } from "./readFax";

/**
 * Reads a 1-bit TIFF as `writeBitsTiff` writes it: little-endian, Group 4 code in one strip, marks black.
 * @throws FormatError for any other file
 * @see TIFF Revision 6.0, 1992
 */
export function* readBitsTiff(
  bytes: Uint8Array,
): Work<{ readonly bits: Bits; readonly dotsPerInch: number }> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const refuse = (why: string): never => {
    throw new FormatError(`The file is no 1-bit TIFF of one strip in Group 4 code: ${why}.`);
  };
  const word = (at: number): number =>
    at + 4 <= bytes.length ? view.getUint32(at, true) : refuse("it ends too early");
  if (word(0) !== 0x002a4949) refuse("it does not begin as one");
  const directory = word(4);
  if (directory + 2 > bytes.length) refuse("it ends too early");
  const tags = new Map<number, number>();
  for (let k = 0; k < view.getUint16(directory, true); k++) {
    const at = directory + 2 + 12 * k;
    const value = word(at + 8);
    const type = view.getUint16(at + 2, true);
    tags.set(view.getUint16(at, true), type === 3 ? value & 0xffff : value);
  }
  const tag = (number: number, what: string): number => tags.get(number) ?? refuse(`it has no ${what}`);
  const [width, height] = [tag(256, "width"), tag(257, "height")];
  if (tag(259, "compression") !== 4 || tag(262, "photometric interpretation") !== 0)
    refuse("it is coded otherwise");
  if (!(width > 0 && height > 0 && width * height <= 2 ** 32)) refuse(`it is ${width} x ${height}`);
  const [strip, length] = [tag(273, "strip"), tag(279, "length of its strip")];
  if (strip + length > bytes.length) refuse("it ends too early");
  const resolution = tag(282, "resolution");
  return {
    bits: yield* decodeGroup4(bytes.subarray(strip, strip + length), width, height),
    dotsPerInch: word(resolution) / word(resolution + 4),
  };
}
