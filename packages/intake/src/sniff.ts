import { ARTWORK_FORMATS, type ArtworkFormat } from "./formats";
import { type Head } from "./found";
import { textOf } from "./formats/svg";

/** What a file is. */
export type Kind = Pick<ArtworkFormat, "name" | "mediaType" | "extension">;

/** Bytes of a text that are looked at. */
const TEXT = 65536;

/** The format of a file, by its content; its name is not looked at. Null for anything that is not taken in. */
export function sniff(bytes: Uint8Array): ArtworkFormat | null {
  let text: string | null | undefined;
  const head: Head = {
    bytes,
    get text() {
      return (text = text === undefined ? textOf(bytes, TEXT) : text);
    },
    starts: (...expected) => expected.every((b, i) => bytes[i] === b),
    ascii: (from, to) => Buffer.from(bytes.subarray(from, to)).toString("latin1"),
  };
  return ARTWORK_FORMATS.find((format) => format.sniff(head)) ?? null;
}
