import { readPng, readPngRows } from "@hardline/core/format/readPng";
import { type Rgba } from "@hardline/core/raster/types";
import { type ArtworkFacts, type ArtworkSource } from "@hardline/core/route/source";
import { pause, piecesOf, pngHost } from "./host";

/** The way to the pixels of artworks on the server: whole, drawn at a width, row by row, or halved. */
export class ServedArtworks {
  /** The half that was last asked for. */
  private ahead: { readonly name: string; readonly pixels: Promise<Rgba> } | null = null;

  source(artworkId: string, facts: ArtworkFacts): ArtworkSource {
    return {
      facts,
      pixels: (drawWidth) => pixelsOf(artworkId, drawWidth ? `?width=${drawWidth}` : ""),
      rows: async (begin, pause) =>
        readPngRows(await bytesOf(artworkId, ""), begin, { inflate: pngHost.inflate, pause }),
      halved: (times) => this.halved(artworkId, times),
    };
  }

  /** Begins to read a half, so that it is there sooner. What goes wrong is told to whoever asks for it then. */
  readAhead(artworkId: string, times: number): void {
    this.halved(artworkId, times).catch(() => undefined);
  }

  private halved(artworkId: string, times: number): Promise<Rgba> {
    const name = `${artworkId} ${times}`;
    if (this.ahead?.name === name) return this.ahead.pixels;
    const pixels = pixelsOf(artworkId, `?halved=${times}`);
    this.ahead = { name, pixels };
    pixels.catch(() => (this.ahead = null));
    return pixels;
  }
}

/** The bytes of an artwork's lossless picture as they come. */
async function bytesOf(artworkId: string, query: string): Promise<AsyncIterable<Uint8Array>> {
  const response = await fetch(`/api/artworks/${artworkId}/pixels${query}`);
  if (!response.ok) throw new Error("The artwork cannot be read from the server.");
  return piecesOf(response);
}

const pixelsOf = async (artworkId: string, query: string): Promise<Rgba> =>
  readPng(await bytesOf(artworkId, query), { ...pngHost, pause });
