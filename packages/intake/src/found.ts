import { type PageBox, type PageLayer } from "@hardline/contract";
import { type Rgba } from "@hardline/core/raster/types";

/** A file as its kind is found out. */
export interface Head {
  readonly bytes: Uint8Array;
  /** Its beginning, where it is text; null where it is none. */
  readonly text: string | null;
  /** Whether it begins with these bytes. */
  readonly starts: (...expected: number[]) => boolean;
  /** Some of its bytes as letters. */
  readonly ascii: (from: number, to: number) => string;
}

/** What a reader of one kind of file says of it before its pixels are decoded. */
export interface Found {
  /** Upright, in pixels. */
  readonly width: number;
  readonly height: number;
  /** Made of shapes, drawn at whatever width is asked for. */
  readonly vector: boolean;
  /** Pages that the file has, of which the first is taken; one when left out. */
  readonly pages?: number;
  /** Edges that the page has; the one that is shown when left out. */
  readonly boxes?: readonly PageBox[];
  /** Layers that the page has; none when left out. */
  readonly layers?: readonly PageLayer[];
  /** How wide it is in truth, where the file says so. */
  readonly widthMm?: number;
  /** What is done to bring it to upright 8-bit sRGB, in words, for the operator; more may come while decoding. */
  readonly notes: readonly string[];
  readonly pixels: (drawWidth: number, note: (words: string) => void) => Promise<Rgba>;
}
