import { type Rgba } from "../raster/types";

/** A photograph's name on a route: the SHA-256 of its file, in hexadecimal. */
export type PhotoKey = string;

/** Where whoever hosts the computation has the shop's photographs of things from. */
export interface PhotoSource {
  /** Its pixels, the right way up. @throws when there is none of that name */
  readonly photo: (key: PhotoKey) => Promise<Rgba>;
}

const shelf = new Map<PhotoKey, Rgba>();
/** So many photographs stay read: each may be 48 million bytes. */
const MOST = 3;

/** A photograph that was got ready; what is named by its key never changes. */
export const photoOf = (key: PhotoKey): Rgba | undefined => shelf.get(key);

/** Reads photographs, so that things can be shown on them at once. @throws what the source throws */
export async function readyPhotos(keys: Iterable<PhotoKey>, from: PhotoSource): Promise<void> {
  for (const key of new Set(keys)) {
    if (shelf.has(key)) continue;
    const photo = await from.photo(key);
    if (shelf.size >= MOST) shelf.delete(shelf.keys().next().value!);
    shelf.set(key, photo);
  }
}
