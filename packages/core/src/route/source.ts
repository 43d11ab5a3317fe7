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
  /** The pixels halved so many times, 1 to `halvesKept`; left out where only the whole is kept. */
  readonly halved?: (times: number) => Promise<Rgba>;
  /** The pixels row by row, top to bottom, for whoever need not have them all at once. */
  readonly rows?: (begin: BeginRows, pause: () => Promise<void>) => Promise<void>;
}

/** What is known of a picture whose rows are about to come. */
export interface RowsAhead {
  readonly width: number;
  readonly height: number;
  /** It has no transparency. */
  readonly whole: boolean;
}

/** Is told of the picture, and says what is done with each of its rows: RGBA, to be read before it returns. */
export type BeginRows = (picture: RowsAhead) => (y: number, row: Uint8Array) => void;
