import { type PageView } from "@hardline/contract";
import { type Found, type Head } from "../found";
import { decodePicture, lookAtPicture } from "../heif/picture";
import { withHeif } from "../heif/library";
import { isSrgb } from "../colour/space";
import { framesOf, numbered, FIRST, type Part } from "../pages";

/** Names by which such files say what pictures they hold. @see ISO/IEC 23008-12, B.4; AV1 Image File Format, 6 */
const [HEVC, AV1, ANY] = [
  ["heic", "heix", "heim", "heis", "hevc", "hevx"],
  ["avif", "avis"],
  ["mif1", "msf1"],
];

function namesOf({ bytes, ascii }: Head): string[] {
  if (ascii(4, 8) !== "ftyp") return [];
  const end = Math.min(bytes.length, new DataView(bytes.buffer, bytes.byteOffset).getUint32(0), 256);
  const names = [ascii(8, 12)];
  for (let at = 16; at + 4 <= end; at += 4) names.push(ascii(at, at + 4));
  return names;
}

const hasOne = (names: readonly string[], of: readonly string[]): boolean =>
  names.some((n) => of.includes(n));

export const isAvif = (head: Head): boolean => hasOne(namesOf(head), AV1);
export const isHeic = (head: Head): boolean => hasOne(namesOf(head), [...HEVC, ...ANY]);

const KIND = "HEIC";

/** A picture of a phone's file; its main one, or another that is there to be seen. Turns in the file are made, profiles honoured. */
export function lookAtHeic(bytes: Uint8Array, part: Part = FIRST): Found {
  const { count, picture } = withHeif(bytes, KIND, (heif) => ({
    count: heif.pictures.length,
    picture: lookAtPicture(heif, heif.pictures[numbered(part, heif.pictures.length)]),
  }));
  return {
    ...{ width: picture.width, height: picture.height, vector: false, pages: count },
    notes: [
      count > 1 ? `picture ${part.page} of ${count}` : "",
      picture.space && !isSrgb(picture.space) ? "colours brought to sRGB by its profile" : "",
      picture.bits > 8 ? `${picture.bits} bits kept as 8` : "",
    ].filter(Boolean),
    pixels: async () =>
      withHeif(bytes, KIND, (heif) => decodePicture(heif, heif.pictures[part.page - 1], KIND, picture)),
  };
}

export const heicPages = async (bytes: Uint8Array): Promise<readonly PageView[]> =>
  withHeif(bytes, KIND, (heif) =>
    framesOf(
      "picture",
      heif.pictures.map((p) => lookAtPicture(heif, p)),
    ),
  );
