import { fontFault } from "./fontFault";
import { startShaper } from "./shaper";
import { Typeface } from "./typeface";

/** A font's name on a route: one that ships, or the SHA-256 of one of the shop's own, in hexadecimal. */
export type FontKey = string;

/** Where whoever hosts the computation has fonts from. */
export interface FontSource {
  /** @throws when there is none of that name */
  readonly bytes: (key: FontKey) => Promise<Uint8Array>;
  /** The shaping program's bytes, where it cannot find them itself. */
  readonly program?: () => Promise<ArrayBuffer>;
}

const shelf = new Map<FontKey, Typeface>();
/** So many fonts stay read; a font is half a megabyte or less. */
const MOST = 48;

/** A font that was got ready; what is named by its key never changes. */
export const typefaceOf = (key: FontKey): Typeface | undefined => shelf.get(key);

/** Reads fonts, so that words can be set in them at once. @throws what the source throws; Error when a font is broken */
export async function readyFonts(keys: Iterable<FontKey>, from: FontSource): Promise<void> {
  for (const key of new Set(keys)) {
    if (shelf.has(key)) continue;
    const [bytes] = await Promise.all([from.bytes(key), startShaper(from.program)]);
    const fault = fontFault(bytes);
    if (fault) throw new Error(`the font ${key} ${fault}`);
    if (shelf.size >= MOST) shelf.delete(shelf.keys().next().value!);
    shelf.set(key, new Typeface(bytes));
  }
}
