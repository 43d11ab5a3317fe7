import { type Rgba } from "@hardline/core/raster/types";
import { primariesOf, type Primaries } from "../colour/matrix";
import { spaceOfProfile } from "../colour/profile";
import { spaceOf, toSrgb, isSrgb, type ColourSpace } from "../colour/space";
import { broken, notRead } from "../errors";
import { isOutcome, reasonOf, type Heif, type HeldPicture, type OpenHeif } from "./library";

/** What is known of a picture before it is decoded. */
export interface HeifPicture {
  /** Upright. */
  readonly width: number;
  readonly height: number;
  readonly bits: number;
  /** What its numbers mean, where the file says so in a way that is known; sRGB otherwise. */
  readonly space: ColourSpace | null;
}

/** Bytes of an answer on how a call went; where its numbers stand in a description of colours. */
const [OUTCOME, PRIMARIES, TRANSFER] = [16, 4, 8];
/** Ways to light that are those of ordinary pictures, and those of displays of high range. @see ITU-T H.273, table 3 */
const [ORDINARY, UNSAID, HIGH_RANGE] = [[1, 6, 13, 14, 15], 2, [16, 18]];

/** @throws IntakeError for a picture for displays of high range */
export function lookAtPicture({ library: heif }: OpenHeif, { handle, at }: HeldPicture): HeifPicture {
  return {
    width: heif.heif_image_handle_get_width(handle),
    height: heif.heif_image_handle_get_height(handle),
    bits: heif._heif_image_handle_get_luma_bits_per_pixel(at),
    space: profileOf(heif, at) ?? saidByNumbers(heif, at),
  };
}

function profileOf(heif: Heif, picture: number): ColourSpace | null {
  const bytes = heif._heif_image_handle_get_raw_color_profile_size(picture);
  if (bytes === 0) return null;
  return borrowed(heif, OUTCOME + bytes, (at) => {
    heif._heif_image_handle_get_raw_color_profile(at, picture, at + OUTCOME);
    return spaceOfProfile(heif.HEAPU8.slice(at + OUTCOME, at + OUTCOME + bytes));
  });
}

function saidByNumbers(heif: Heif, picture: number): ColourSpace | null {
  const said = borrowed(heif, OUTCOME + 4, (at) => {
    const view = () => new DataView(heif.HEAPU8.buffer);
    view().setUint32(at + OUTCOME, 0, true);
    heif._heif_image_handle_get_nclx_color_profile(at, picture, at + OUTCOME);
    const found = view().getUint32(at + OUTCOME, true);
    if (found === 0) return null;
    const numbers = [PRIMARIES, TRANSFER].map((part) => view().getUint32(found + part, true));
    heif._free(found);
    return numbers;
  });
  if (!said) return null;
  const [primaries, transfer] = said;
  if (HIGH_RANGE.includes(transfer))
    throw notRead("A picture for displays of high dynamic range", "Save it as an ordinary one, in sRGB.");
  const known: Primaries | null = primariesOf(primaries);
  return known && (transfer === UNSAID || ORDINARY.includes(transfer)) ? spaceOf(null, known) : null;
}

function borrowed<T>(heif: Heif, bytes: number, act: (at: number) => T): T {
  const at = heif._malloc(bytes);
  try {
    return act(at);
  } finally {
    heif._free(at);
  }
}

/** The picture upright, in 8-bit sRGB. @throws IntakeError where it cannot be decoded whole */
export function decodePicture(
  { library: heif }: OpenHeif,
  { handle, at }: HeldPicture,
  kind: string,
  { bits, space }: HeifPicture,
): Rgba {
  const own = space && !isSrgb(space) ? space : null;
  const deep = bits > 8;
  const { heif_chroma_interleaved_RGBA: narrow, heif_chroma_interleaved_RRGGBBAA_LE: wide } =
    heif.heif_chroma;
  const { heif_colorspace_RGB: rgb } = heif.heif_colorspace;
  const decoded = heif.heif_js_decode_image2(handle, rgb, deep ? wide : narrow);
  if (isOutcome(decoded)) throw broken(kind, reasonOf(decoded));
  try {
    const channel = decoded.channels.find((c) => c.id === heif.heif_channel.heif_channel_interleaved);
    if (!channel) throw broken(kind, "its picture has no colours");
    const { width, height } = channel;
    const rows = packed(channel, deep ? 8 : 4);
    const most = 2 ** bits - 1;
    const samples = deep ? new Uint16Array(rows.buffer) : rows;
    if (heif._heif_image_handle_is_premultiplied_alpha(at)) divide(samples, most);
    if (own) return toSrgb(samples, { width, height }, most, own);
    return { width, height, data: deep ? rounded(samples, most) : rows };
  } finally {
    heif.heif_image_release(decoded.image);
  }
}

/** Rows one after another without what fills them up. */
function packed(
  { width, height, stride, data }: { width: number; height: number; stride: number; data: Uint8Array },
  bytes: number,
): Uint8Array {
  const row = width * bytes;
  const out = new Uint8Array(row * height);
  for (let y = 0; y < height; y++) out.set(data.subarray(y * stride, y * stride + row), y * row);
  return out;
}

/** Colours that were held back by what is clear, as they are. */
function divide(samples: Uint8Array | Uint16Array, most: number): void {
  for (let i = 0; i < samples.length; i += 4) {
    const alpha = samples[i + 3];
    if (alpha === 0 || alpha === most) continue;
    for (let k = i; k < i + 3; k++) samples[k] = Math.min(most, Math.round((samples[k] * most) / alpha));
  }
}

function rounded(samples: Uint8Array | Uint16Array, most: number): Uint8Array {
  const out = new Uint8Array(samples.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.round((samples[i] * 255) / most);
  return out;
}
