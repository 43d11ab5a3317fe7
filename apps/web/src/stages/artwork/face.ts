import { defineFace } from "../face";
import { ArtworkPanel } from "./ArtworkPanel";

export const artworkFace = defineFace({
  id: "artwork",
  words: ({ ticket: { artwork } }) => `${artwork.name}, ${artwork.width} × ${artwork.height}`,
  Panel: ArtworkPanel,
});
