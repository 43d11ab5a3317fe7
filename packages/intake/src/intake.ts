import { fingerprint } from "@hardline/core/raster/fingerprint";
import { type Rgba } from "@hardline/core/raster/types";
import { type ArtworkFacts } from "@hardline/core/route/source";
import { ARTWORK_FORMATS, MOST_ARTWORK_BYTES } from "@hardline/contract";
import { admitSize, million } from "./admit";
import { IntakeError } from "./errors";
import { lookAtBmp } from "./formats/bmp";
import { lookAtGif } from "./formats/gif";
import { lookAtPhoto } from "./formats/photo";
import { lookAtPng } from "./formats/png";
import { lookAtDxf } from "./formats/dxf";
import { lookAtSvg } from "./formats/svg";
import { lookAtTiff } from "./formats/tiff";
import { type Found } from "./found";
import { sniff, type Kind } from "./sniff";

/** An artwork as it was supplied, and what was found in it. */
export interface Intake {
  readonly facts: ArtworkFacts;
  readonly kind: Kind;
  /** What was done to bring it to upright 8-bit sRGB, in words, for the operator; whole once it is decoded. */
  readonly notes: readonly string[];
  /** @param drawWidth  width in pixels to draw at, for artwork made of shapes */
  readonly pixels: (drawWidth?: number) => Promise<Rgba>;
}

const READERS: Record<Kind["name"], (bytes: Uint8Array) => Found | Promise<Found>> = {
  PNG: lookAtPng,
  JPEG: (bytes) => lookAtPhoto(bytes, "JPEG"),
  WebP: (bytes) => lookAtPhoto(bytes, "WebP"),
  TIFF: lookAtTiff,
  GIF: lookAtGif,
  BMP: lookAtBmp,
  SVG: lookAtSvg,
  DXF: lookAtDxf,
};

/**
 * Looks at a file and says what it is; its pixels are decoded when asked for.
 * @throws IntakeError when it is empty, too large, of another kind or broken
 */
export async function takeIn(bytes: Uint8Array): Promise<Intake> {
  if (bytes.length === 0) throw new IntakeError("The file is empty (0 bytes).");
  if (bytes.length > MOST_ARTWORK_BYTES) {
    throw new IntakeError(
      `The file has ${million(bytes.length)} MB; ${million(MOST_ARTWORK_BYTES)} MB or less is taken.`,
    );
  }
  const kind = sniff(bytes);
  if (!kind) throw new IntakeError(`This is not a picture that can be read; ${ARTWORK_FORMATS} is taken.`);
  const { width, height, vector, notes, pixels } = await READERS[kind.name](bytes);
  admitSize(width, height);
  const told = [...notes];
  return {
    facts: { sha256: fingerprint(bytes), width, height, vector },
    kind,
    notes: told,
    pixels: (drawWidth) =>
      pixels(drawWidth ?? width, (words) => {
        if (!told.includes(words)) told.push(words);
      }),
  };
}
