import { type Frame } from "../clear/clearing";
import { type Gap } from "../clear/gaps";
import { type Bits, type Cover, type Gray, type Rgba } from "../raster/types";

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

/** The finished size. `widthMm` is exactly `widthPx` dots at `dotsPerInch`. */
export interface Finish {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly dotsPerInch: number;
}

/** Grey at finish resolution, and how much of each pixel is art. */
export interface Toned {
  readonly gray: Gray;
  readonly cover: Cover;
}

/** Marks at finish resolution, and which pixels are art. */
export interface Dots {
  readonly bits: Bits;
  readonly cover: Cover;
  /** Threshold that was used, when the method has one. */
  readonly threshold?: number;
}

/** What Clear found out. */
export interface Cleared {
  /** Colours of the background that was taken away, sRGB codes. */
  readonly background: (readonly [number, number, number])[];
  /** For each gaps operation: the islands, largest first, and which pixels are theirs. */
  readonly gaps: { readonly op: number; readonly gaps: readonly Gap[]; readonly plane: Uint8Array }[];
}

/** What one stage hands to the next; a later stage adds what it makes. */
export interface Art {
  readonly facts: ArtworkFacts;
  readonly colour: Rgba;
  readonly finish: Finish | null;
  /** The part of the artwork that the picture shows; null for all of it. */
  readonly frame: Frame | null;
  readonly cleared: Cleared | null;
  readonly toned: Toned | null;
  readonly dots: Dots | null;
}

export const MM_PER_INCH = 25.4;
