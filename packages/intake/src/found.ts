import { type Rgba } from "@hardline/core/raster/types";

/** What a reader of one kind of file says of it before its pixels are decoded. */
export interface Found {
  /** Upright, in pixels. */
  readonly width: number;
  readonly height: number;
  /** Made of shapes, drawn at whatever width is asked for. */
  readonly vector: boolean;
  /** What is done to bring it to upright 8-bit sRGB, in words, for the operator; more may come while decoding. */
  readonly notes: readonly string[];
  readonly pixels: (drawWidth: number, note: (words: string) => void) => Promise<Rgba>;
}
