import { type Bits } from "../raster/types";

/**
 * Writes a 1-bit bilevel TIFF from Group 4 code: one strip, marks black, with its resolution.
 *
 * @param group4  the picture in Group 4 code
 * @see TIFF Revision 6.0, 1992
 */
export function writeBitsTiff({ width, height }: Bits, group4: Uint8Array, dotsPerInch: number): Uint8Array {
  const SHORT = 3;
  const LONG = 4;
  const RATIONAL = 5;
  const tags: [tag: number, type: number, value: number][] = [
    [256, LONG, width],
    [257, LONG, height],
    [258, SHORT, 1],
    [259, SHORT, 4], // Group 4
    [262, SHORT, 0], // white is zero, as facsimile code has it
    [273, LONG, 0], // where the strip starts, set below
    [277, SHORT, 1],
    [278, LONG, height],
    [279, LONG, group4.length],
    [282, RATIONAL, 0],
    [283, RATIONAL, 0],
    [296, SHORT, 2], // resolution is per inch
  ];
  const directory = 8;
  const rational = directory + 2 + tags.length * 12 + 4;
  const strip = rational + 8;
  const file = new Uint8Array(strip + group4.length);
  const view = new DataView(file.buffer);
  file.set([0x49, 0x49, 42, 0]);
  view.setUint32(4, directory, true);
  view.setUint16(directory, tags.length, true);
  tags.forEach(([tag, type, value], i) => {
    const at = directory + 2 + i * 12;
    view.setUint16(at, tag, true);
    view.setUint16(at + 2, type, true);
    view.setUint32(at + 4, 1, true);
    const content = tag === 273 ? strip : type === RATIONAL ? rational : value;
    if (type === SHORT) view.setUint16(at + 8, content, true);
    else view.setUint32(at + 8, content, true);
  });
  view.setUint32(rational, Math.round(dotsPerInch * 1000), true);
  view.setUint32(rational + 4, 1000, true);
  file.set(group4, strip);
  return file;
}
