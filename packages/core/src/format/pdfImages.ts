import { PDFName, PDFNumber, type PDFContext, type PDFRef } from "pdf-lib";
import { MM_PER_INCH } from "../maths/units";
import { type PathSet } from "../path/pathSet";
import { type Bits, type Rgba } from "../raster/types";

export const POINTS_PER_MM = 72 / MM_PER_INCH;

/** Millimetres as points of the page, to a millionth. */
export const points = (mm: number): number => Math.round(mm * POINTS_PER_MM * 1e6) / 1e6;
const number = (mm: number): string => String(Math.round(mm * 1e5) / 1e5);

/** A picture's colour and alpha, each packed by zlib. */
export interface PackedPicture {
  readonly picture: Pick<Rgba, "width" | "height">;
  readonly colour: Uint8Array;
  readonly alpha: Uint8Array;
}

/** A picture with its transparency as an object of a PDF. */
export function pictureOf(context: PDFContext, { picture, colour, alpha }: PackedPicture): PDFRef {
  const mask = context.register(planeOf(context, picture, "DeviceGray", alpha));
  const image = planeOf(context, picture, "DeviceRGB", colour);
  image.dict.set(PDFName.of("SMask"), mask);
  return context.register(image);
}

/** One image of 8 bits a channel. @param bytes  packed by zlib */
export function planeOf(
  context: PDFContext,
  { width, height }: Pick<Rgba, "width" | "height">,
  space: string,
  bytes: Uint8Array,
) {
  const made = context.stream(bytes, {
    ...{ Type: "XObject", Subtype: "Image", Width: width, Height: height, BitsPerComponent: 8 },
    ...{ ColorSpace: space, Filter: "FlateDecode" },
  });
  made.dict.set(PDFName.of("Length"), PDFNumber.of(bytes.length));
  return made;
}

/** Dots as an image of a PDF, marks black. @param group4  them in Group 4 code */
export const bitsOf = (
  context: PDFContext,
  { width, height }: Pick<Bits, "width" | "height">,
  group4: Uint8Array,
): PDFRef =>
  context.register(
    context.stream(group4, {
      Type: "XObject",
      Subtype: "Image",
      Width: width,
      Height: height,
      ColorSpace: "DeviceGray",
      BitsPerComponent: 1,
      Filter: "CCITTFaxDecode",
      DecodeParms: { K: -1, Columns: width, Rows: height },
    }),
  );

/** Points written at once. */
const AT_ONCE = 1 << 14;

/** The paths of a set as operators of a page, in its own millimetres. */
export const drawn = (set: PathSet): string => [...drawnInPieces(set)].join("");

/** As `drawn`, some paths at a time. */
export function* drawnInPieces({ points: p, starts, closed }: PathSet): Iterable<string> {
  let parts: string[] = [];
  const at = (i: number) => `${number(p[2 * i])} ${number(p[2 * i + 1])}`;
  for (let k = 0, told = AT_ONCE; k < closed.length; k++) {
    if (starts[k] >= told) {
      told = starts[k] + AT_ONCE;
      yield `${parts.join("\n")}\n`;
      parts = [];
    }
    parts.push(`${at(starts[k])} m`);
    for (let i = starts[k]; i + 3 < starts[k + 1]; i += 3) {
      const c = p.subarray(2 * i, 2 * i + 8);
      const straight = c[0] === c[2] && c[1] === c[3] && c[4] === c[6] && c[5] === c[7];
      parts.push(straight ? `${at(i + 3)} l` : `${at(i + 1)} ${at(i + 2)} ${at(i + 3)} c`);
    }
    if (closed[k]) parts.push("h");
  }
  yield parts.join("\n");
}
