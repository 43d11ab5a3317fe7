import { readPng, readPngRows } from "@hardline/core/format/readPng";
import { type Rgba } from "@hardline/core/raster/types";
import { type ArtworkFacts, type ArtworkSource } from "@hardline/core/route/source";
import { headOf, isForBrowser, readByBrowser } from "./browserPng";
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
        readPngRows(piecesOf(await served(artworkId, "")), begin, { inflate: pngHost.inflate, pause }),
      halved: (times) => this.halved(artworkId, times),
    };
  }

  /** An artwork's pixels, whole. */
  whole(artworkId: string): Promise<Rgba> {
    return pixelsOf(artworkId, "");
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

/** An artwork's lossless picture as it comes. */
async function served(artworkId: string, query: string): Promise<ReadableStream<Uint8Array<ArrayBuffer>>> {
  const response = await fetch(`/api/artworks/${artworkId}/pixels${query}`);
  if (!response.ok) throw new Error("The artwork cannot be read from the server.");
  return response.body!;
}

async function pixelsOf(artworkId: string, query: string): Promise<Rgba> {
  const { head, whole } = await headOf(await served(artworkId, query));
  if (!isForBrowser(head)) return readPng(piecesOf(whole), { ...pngHost, pause });
  try {
    return await readByBrowser(whole, pause);
  } catch {
    // What is wrong with the file, if it is that, is told by the reader that knows it.
    return readPng(piecesOf(await served(artworkId, query)), { ...pngHost, pause });
  }
}
