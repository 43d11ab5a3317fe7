import { type FontSource } from "@hardline/core/letters/shelf";
import { SHIPPED_FONTS, shippedFontOf } from "@hardline/core/letters/shipped";
import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";

const folder = join(__dirname, "../files");

/** The bytes of a font that ships. @throws Error when none is called so */
export async function shippedFont(key: string): Promise<Uint8Array> {
  const font = shippedFontOf(key);
  if (!font)
    throw new Error(`none is called so; those that ship are ${SHIPPED_FONTS.map((f) => f.key).join(", ")}`);
  return readFile(join(folder, font.file));
}

/** The fonts that ship, and no others. */
export const shippedFonts: FontSource = { bytes: shippedFont };

/** The fonts that ship, and those of a folder, which routes name by the SHA-256 of their files. */
export function fontsWith(own: string): FontSource {
  let known: Promise<Map<string, Uint8Array>> | null = null;
  const ownFonts = async (): Promise<Map<string, Uint8Array>> => {
    const found = new Map<string, Uint8Array>();
    for (const name of await readdir(own))
      if (/\.(otf|ttf)$/i.test(name)) {
        const bytes = await readFile(join(own, name));
        found.set(createHash("sha256").update(bytes).digest("hex"), bytes);
      }
    return found;
  };
  return {
    bytes: async (key) => {
      known ??= ownFonts();
      return (await known).get(key) ?? shippedFont(key);
    },
  };
}
