import { type Found } from "../found";
import { lookAtPicture } from "../heif/picture";
import { withHeif } from "../heif/library";
import { lookAtPhoto } from "./photo";

/** A still AVIF; what its numbers mean is asked of the file's own boxes, as the decoder looks at profiles alone. */
export function lookAtAvif(bytes: Uint8Array): Promise<Found> {
  const { space } = withHeif(bytes, "AVIF", (heif) => lookAtPicture(heif, heif.pictures[0]));
  return lookAtPhoto(bytes, "AVIF", space ? { space } : {});
}
