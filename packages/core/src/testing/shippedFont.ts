import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { readyFonts, typefaceOf, type FontSource } from "../letters/shelf";
import { shippedFontOf } from "../letters/shipped";
import { type Typeface } from "../letters/typeface";

/** The fonts that ship, from where they lie. */
export const FONTS: FontSource = {
  bytes: (key) => readFile(join(__dirname, "../../../fonts/files", shippedFontOf(key)!.file)),
};

/** A font that ships, got ready. */
export async function shippedFace(key: string): Promise<Typeface> {
  await readyFonts([key], FONTS);
  return typefaceOf(key)!;
}
