import { type Rgba } from "@hardline/core/raster/types";
import { MOST_ARTWORK_PIXELS } from "@hardline/contract";
import sharp, { type Metadata, type OutputInfo, type Sharp } from "sharp";
import { spaceOfProfile } from "../colour/profile";
import { isSrgb, toSrgb, type ColourSpace } from "../colour/space";
import { broken, IntakeError } from "../errors";
import { type Found, type Head } from "../found";
import { numbered, FIRST, type Part } from "../pages";

export const isJpeg = ({ starts }: Head): boolean => starts(0xff, 0xd8, 0xff);
export const isWebP = ({ ascii }: Head): boolean => ascii(0, 4) === "RIFF" && ascii(8, 12) === "WEBP";

type Note = (words: string) => void;

interface Known {
  /** What the numbers mean, where the file says so other than by a profile. */
  readonly space?: ColourSpace;
  /** Which of its pages or frames, from 0; the first when left out. */
  readonly page?: number;
}

/** Pages that are shown to choose from. */
const MOST_LISTED = 500;
const OPTIONS = { limitInputPixels: MOST_ARTWORK_PIXELS } as const;

/** A picture that the library decodes as it should be once it is known what its numbers mean. */
export async function lookAtPhoto(bytes: Uint8Array, kind: string, known: Known = {}): Promise<Found> {
  const { page = 0 } = known;
  const meta = await readable(kind, () =>
    sharp(bytes, { ...OPTIONS, limitInputPixels: false, page }).metadata(),
  );
  const pages = meta.pages ?? 1;
  const turned = (meta.orientation ?? 1) >= 5 && (meta.orientation ?? 1) <= 8;
  const [width, height] = turned ? [meta.height, meta.width] : [meta.width, meta.height];
  const recoloured = known.space && !isSrgb(known.space) && !meta.icc;
  return {
    width,
    height,
    vector: false,
    pages,
    notes: [
      pages > 1 ? `${kind === "TIFF" ? "page" : "frame"} ${page + 1} of ${pages}` : "",
      (meta.orientation ?? 1) > 1 ? "turned upright by its tag" : "",
      meta.space === "cmyk" ? "CMYK brought to sRGB" : "",
      meta.depth === "ushort" ? "16 bits kept as 8" : "",
      recoloured ? "colours brought to sRGB by its gamma" : "",
    ].filter(Boolean),
    pixels: (_drawWidth, note) => readable(kind, () => decode(bytes, meta, known, note)),
  };
}

export const lookAtWebP = (bytes: Uint8Array, part: Part = FIRST): Promise<Found> =>
  lookAtPhoto(bytes, "WebP", { page: numbered(part, MOST_LISTED) });

/** The picture of a plain 8-bit file, as it stands. */
export const decodeUpright = (bytes: Uint8Array, note: Note): Promise<Rgba> =>
  readable("picture", async () => decode(bytes, await sharp(bytes).metadata(), {}, note));

/** Sizes of all pages or frames. */
export async function photoSizes(
  bytes: Uint8Array,
  kind: string,
): Promise<{ width: number; height: number }[]> {
  const { pages = 1 } = await readable(kind, () => sharp(bytes).metadata());
  return Promise.all(
    Array.from({ length: Math.min(pages, MOST_LISTED) }, (_, page) =>
      readable(kind, () => sharp(bytes, { ...OPTIONS, page }).metadata()),
    ),
  );
}

async function readable<T>(kind: string, read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof IntakeError) throw error;
    throw broken(kind, (error as Error).message.split("\n")[0]);
  }
}

/**
 * Decodes a JPEG strictly, as a part that is missing is only a warning there; where that fails over a flaw that leaves
 * pixels to be had, says so and goes on. Other kinds warn of what does not concern the pixels.
 */
async function decode(bytes: Uint8Array, meta: Metadata, known: Known, note: Note): Promise<Rgba> {
  if (meta.format !== "jpeg") return decodeWith("error", bytes, meta, known);
  try {
    return await decodeWith("warning", bytes, meta, known);
  } catch (strict) {
    const picture = await decodeWith("error", bytes, meta, known);
    const reason = (strict as Error).message.split("\n")[0].replace("VipsJpeg: ", "");
    note(`damaged, look whether all of it is there (${reason})`);
    return picture;
  }
}

async function decodeWith(
  failOn: "warning" | "error",
  bytes: Uint8Array,
  meta: Metadata,
  { space, page = 0 }: Known,
): Promise<Rgba> {
  const wide = meta.depth === "ushort";
  // Shallow pictures the library brings to sRGB by their profile; deep ones it would bring to a wider space.
  const stated = meta.icc ? (wide ? spaceOfProfile(meta.icc) : null) : (space ?? null);
  const upright = sharp(bytes, { ...OPTIONS, failOn, page, ignoreIcc: wide && stated !== null }).autoOrient();
  const own = stated && !isSrgb(stated) ? stated : null;
  let picture: Rgba;
  if (!wide) {
    picture = await narrow(upright);
    if (own) picture = toSrgb(picture.data, picture, 255, own);
  } else if (meta.icc && !stated && meta.channels >= 3) {
    picture = await narrow(upright.withIccProfile("srgb"));
  } else {
    const { data, info } = await upright
      .toColourspace(meta.channels < 3 ? "grey16" : "rgb16")
      .raw({ depth: "ushort" })
      .toBuffer({ resolveWithObject: true });
    const deep = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
    picture = own ? toSrgb(spread(deep, info, 65535), info, 65535, own) : asRgba(rounded(deep), info);
  }
  return picture;
}

const rounded = (deep: Uint16Array): Uint8Array => {
  const out = new Uint8Array(deep.length);
  for (let i = 0; i < deep.length; i++) out[i] = (deep[i] * 255 + 32767) / 65535;
  return out;
};

async function narrow(image: Sharp): Promise<Rgba> {
  const { data, info } = await image
    .toColourspace("srgb")
    .ensureAlpha()
    .raw({ depth: "uchar" })
    .toBuffer({ resolveWithObject: true });
  return asRgba(data, info);
}

/** One to four channels as red, green, blue, alpha. */
function spread<T extends Uint8Array | Uint16Array>(
  data: T,
  { width, height, channels }: OutputInfo,
  most: number,
): T {
  if (channels === 4) return data;
  const out = new (data.constructor as new (length: number) => T)(width * height * 4);
  const coloured = channels > 2;
  for (let i = 0, o = 0; o < out.length; i += channels, o += 4) {
    out[o] = data[i];
    out[o + 1] = data[i + (coloured ? 1 : 0)];
    out[o + 2] = data[i + (coloured ? 2 : 0)];
    out[o + 3] = channels === 2 ? data[i + 1] : most;
  }
  return out;
}

/** Four channels on a buffer of its own, so that it may be read as 32-bit words. */
export function asRgba(data: Uint8Array, info: OutputInfo): Rgba {
  const { width, height, channels } = info;
  const aligned = channels !== 4 || data.byteOffset % 4 === 0;
  const four = spread(data, info, 255);
  return {
    width,
    height,
    data: aligned ? new Uint8Array(four.buffer, four.byteOffset, four.length) : Uint8Array.from(four),
  };
}
