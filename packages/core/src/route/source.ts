import { type Rgba } from "../raster/types";

/** What is known of an artwork before its pixels are read. */
export interface ArtworkFacts {
  /** Of the file as supplied, 64 hexadecimal digits. */
  readonly sha256: string;
  /** In pixels, orientation applied; for a drawing made of shapes, its own nominal size. */
  readonly width: number;
  readonly height: number;
  /** Made of shapes, so it can be drawn at any size. */
  readonly vector: boolean;
}

/** An artwork and the way to its pixels. */
export interface ArtworkSource {
  readonly facts: ArtworkFacts;
  /** @param drawWidth  for a drawing made of shapes: the width in pixels it is wanted at */
  readonly pixels: (drawWidth?: number) => Promise<Rgba>;
}
