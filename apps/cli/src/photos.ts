import { type PhotoSource } from "@hardline/core/mockUp/photos";
import { takeIn } from "@hardline/intake";
import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";

/** Photographs of things in a folder, known by the SHA-256 of their files. */
export const photosIn = (folder: string): PhotoSource => ({
  photo: async (key) => {
    for (const name of await readdir(folder)) {
      const bytes = await readFile(join(folder, name)).catch(() => null);
      if (bytes && createHash("sha256").update(bytes).digest("hex") === key)
        return (await takeIn(bytes)).pixels();
    }
    throw new Error(`${folder} has no file of that SHA-256`);
  },
});
