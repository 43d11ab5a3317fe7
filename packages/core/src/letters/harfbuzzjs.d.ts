/** What is used of harfbuzzjs and bidi-js, which come without types of these. */
declare module "harfbuzzjs/hb.js" {
  /** @param given  the program itself, where it is not found beside the script */
  export default function createHarfBuzz(given?: { readonly wasmBinary?: ArrayBuffer }): Promise<object>;
}

declare module "harfbuzzjs/hbjs.js" {
  interface Blob {
    destroy(): void;
  }
  interface Face {
    readonly upem: number;
    collectUnicodes(): Uint32Array;
    destroy(): void;
  }
  interface Font {
    glyphToPath(glyph: number): string;
    destroy(): void;
  }
  interface Buffer {
    addText(text: string): void;
    guessSegmentProperties(): void;
    setDirection(way: "ltr" | "rtl"): void;
    /** g: glyph, cl: index of the text, ax and ay: how far on the next one is, dx and dy: where it is drawn. */
    json(): { g: number; cl: number; ax: number; ay: number; dx: number; dy: number }[];
    destroy(): void;
  }
  export interface HarfBuzz {
    createBlob(bytes: Uint8Array): Blob;
    createFace(blob: Blob, index: number): Face;
    createFont(face: Face): Font;
    createBuffer(): Buffer;
    shape(font: Font, buffer: Buffer, features?: string): void;
  }
  export default function hbjs(module: object): HarfBuzz;
}

declare module "bidi-js" {
  interface Levels {
    readonly levels: Uint8Array;
    readonly paragraphs: readonly { readonly start: number; readonly end: number; readonly level: number }[];
  }
  interface Bidi {
    getEmbeddingLevels(text: string, way?: "ltr" | "rtl"): Levels;
    getReorderSegments(text: string, levels: Levels): [number, number][];
  }
  export default function bidiFactory(): Bidi;
}
