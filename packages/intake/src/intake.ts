import { fingerprint, type ArtworkFacts, type Rgba } from "@hardline/core";
import { ARTWORK_FORMATS, MOST_ARTWORK_BYTES, MOST_ARTWORK_PIXELS } from "@hardline/contract";
import { decode as decodeBmp } from "bmp-ts";
import sharp, { type OutputInfo } from "sharp";
import { sniff, type Kind } from "./sniff";

/** A file that cannot be taken in as artwork; the message says why and what is allowed. */
export class IntakeError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "IntakeError";
  }
}

/** An artwork as it was supplied, and what was found in it. */
export interface Intake {
  readonly facts: ArtworkFacts;
  readonly kind: Kind;
  /** What was done to bring it to upright 8-bit sRGB, in words, for the operator. */
  readonly notes: readonly string[];
  /** @param drawWidth  width in pixels to draw at, for artwork made of shapes */
  readonly pixels: (drawWidth?: number) => Promise<Rgba>;
}

const OPTIONS = { limitInputPixels: MOST_ARTWORK_PIXELS, failOn: "error" } as const;
const million = (n: number): string => (n / 1e6).toFixed(1).replace(/\.0$/, "");

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
  const sha256 = fingerprint(bytes);
  if (kind.name === "BMP") return fromBmp(bytes, kind, sha256);
  const meta = await readable(kind, () => sharp(bytes, { ...OPTIONS, limitInputPixels: false }).metadata());
  const turned = (meta.orientation ?? 1) >= 5;
  const [width, height] = turned ? [meta.height, meta.width] : [meta.width, meta.height];
  admitSize(width, height);
  const vector = kind.name === "SVG";
  const notes = [
    (meta.pages ?? 1) > 1 ? `first of ${meta.pages} ${kind.name === "TIFF" ? "pages" : "frames"}` : "",
    (meta.orientation ?? 1) > 1 ? "turned upright by its tag" : "",
    meta.space === "cmyk" ? "CMYK brought to sRGB" : "",
    meta.depth === "ushort" ? "16 bits kept as 8" : "",
    vector ? "drawn from shapes" : "",
  ].filter(Boolean);
  return {
    facts: { sha256, width, height, vector },
    kind,
    notes,
    pixels: (drawWidth) =>
      readable(kind, () =>
        vector ? drawShapes(bytes, width, height, drawWidth ?? width) : decode(bytes, meta.depth),
      ),
  };
}

function admitSize(width: number, height: number): void {
  if (width * height > MOST_ARTWORK_PIXELS) {
    throw new IntakeError(
      `The picture has ${width} x ${height} = ${million(width * height)} million pixels; ${million(MOST_ARTWORK_PIXELS)} million or less is taken.`,
    );
  }
}

async function readable<T>(kind: Kind, read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof IntakeError) throw error;
    const reason = (error as Error).message.split("\n")[0];
    throw new IntakeError(`The ${kind.name} file is broken and cannot be read whole (${reason}).`);
  }
}

async function decode(bytes: Uint8Array, depth: string | undefined): Promise<Rgba> {
  const upright = sharp(bytes, OPTIONS).autoOrient();
  if (depth === "ushort") {
    const { data, info } = await upright
      .toColourspace("rgb16")
      .ensureAlpha()
      .raw({ depth: "ushort" })
      .toBuffer({ resolveWithObject: true });
    const wide = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
    const narrow = new Uint8Array(wide.length);
    for (let i = 0; i < wide.length; i++) narrow[i] = (wide[i] * 255 + 32767) / 65535;
    return rgba(narrow, info);
  }
  const { data, info } = await upright
    .toColourspace("srgb")
    .ensureAlpha()
    .raw({ depth: "uchar" })
    .toBuffer({ resolveWithObject: true });
  return rgba(data, info);
}

/** Shapes are drawn by the library from memory, which has no place to follow outside references from. */
async function drawShapes(
  bytes: Uint8Array,
  width: number,
  height: number,
  drawWidth: number,
): Promise<Rgba> {
  const drawHeight = Math.max(1, Math.round((height * drawWidth) / width));
  admitSize(drawWidth, drawHeight);
  const density = Math.min(100000, Math.max(1, (72 * drawWidth) / width));
  const { data, info } = await sharp(bytes, { ...OPTIONS, density })
    .resize(drawWidth, drawHeight, { fit: "fill" })
    .toColourspace("srgb")
    .ensureAlpha()
    .raw({ depth: "uchar" })
    .toBuffer({ resolveWithObject: true });
  return rgba(data, info);
}

/** Four channels on a buffer of its own, so that it may be read as 32-bit words. */
function rgba(data: Uint8Array, { width, height, channels }: OutputInfo): Rgba {
  if (channels === 4) {
    return {
      width,
      height,
      data:
        data.byteOffset % 4 === 0
          ? new Uint8Array(data.buffer, data.byteOffset, data.length)
          : Uint8Array.from(data),
    };
  }
  const out = new Uint8Array(width * height * 4);
  for (let i = 0, o = 0; o < out.length; i += channels, o += 4) {
    out[o] = data[i];
    out[o + 1] = data[i + (channels > 2 ? 1 : 0)];
    out[o + 2] = data[i + (channels > 2 ? 2 : 0)];
    out[o + 3] = channels === 2 ? data[i + 1] : 255;
  }
  return { width, height, data: out };
}

async function fromBmp(bytes: Uint8Array, kind: Kind, sha256: string): Promise<Intake> {
  const header = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.length, 64));
  const [width, height] = [Math.abs(header.readInt32LE(18)), Math.abs(header.readInt32LE(22))];
  if (width === 0 || height === 0)
    throw new IntakeError("The BMP file is broken and cannot be read whole (it has no size).");
  admitSize(width, height);
  const pixels = () =>
    readable(kind, async () => {
      const bmp = decodeBmp(Buffer.from(bytes), { toRGBA: true });
      const data = Uint8Array.from(bmp.data);
      if (data.length !== width * height * 4) throw new Error("picture data is not whole");
      // Most writers leave the fourth byte zero; a picture that is clear everywhere is meant to be whole.
      if (bmp.bitPP < 32 || !data.some((v, i) => (i & 3) === 3 && v !== 0))
        for (let i = 3; i < data.length; i += 4) data[i] = 255;
      return { width, height, data };
    });
  return { facts: { sha256, width, height, vector: false }, kind, notes: [], pixels };
}
