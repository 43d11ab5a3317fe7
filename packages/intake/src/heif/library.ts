import { readFileSync } from "node:fs";
import { join } from "node:path";
import { broken } from "../errors";

/** Something that the library keeps for whoever asked for it. */
type Kept = object;

/** What a call of the library says of how it went. */
interface Outcome {
  readonly code: unknown;
  readonly message: string;
}

interface Channel {
  readonly id: unknown;
  readonly width: number;
  readonly height: number;
  /** Bytes from one row to the next. */
  readonly stride: number;
  readonly data: Uint8Array;
}

/** The part of the library that is used here. Handles and places in its memory are numbers in what begins with `_`. */
export interface Heif {
  readonly heif_error_code: { readonly heif_error_Ok: unknown };
  readonly heif_colorspace: { readonly heif_colorspace_RGB: unknown };
  readonly heif_chroma: Readonly<
    Record<"heif_chroma_interleaved_RGBA" | "heif_chroma_interleaved_RRGGBBAA_LE", unknown>
  >;
  readonly heif_channel: { readonly heif_channel_interleaved: unknown };
  readonly HEAPU8: Uint8Array;
  heif_context_alloc(): Kept;
  heif_context_free(context: Kept): void;
  heif_context_read_from_memory(context: Kept, bytes: Uint8Array): Outcome;
  heif_js_context_get_list_of_top_level_image_IDs(context: Kept): readonly number[] | Outcome;
  heif_js_context_get_image_handle(context: Kept, id: number): Kept | Outcome;
  heif_image_handle_is_primary_image(handle: Kept): number;
  heif_image_handle_get_width(handle: Kept): number;
  heif_image_handle_get_height(handle: Kept): number;
  heif_image_handle_release(handle: Kept): void;
  heif_js_decode_image2(
    handle: Kept,
    colours: unknown,
    chroma: unknown,
  ): { readonly channels: readonly Channel[]; readonly image: Kept } | Outcome;
  heif_image_release(image: Kept): void;
  _heif_image_handle_get_luma_bits_per_pixel(handle: number): number;
  _heif_image_handle_is_premultiplied_alpha(handle: number): number;
  _heif_image_handle_get_raw_color_profile_size(handle: number): number;
  _heif_image_handle_get_raw_color_profile(error: number, handle: number, to: number): void;
  _heif_image_handle_get_nclx_color_profile(error: number, handle: number, to: number): void;
  _malloc(bytes: number): number;
  _free(at: number): void;
}

/** A picture of a file, and where the library keeps it. */
export interface HeldPicture {
  readonly handle: Kept;
  readonly at: number;
}

/** A file that is open. */
export interface OpenHeif {
  readonly library: Heif;
  /** Its pictures that are there to be seen, the main one first; depth, gain maps and thumbnails are none. */
  readonly pictures: readonly HeldPicture[];
}

let loaded: Heif | null = null;

/** The library, loaded once in a process. */
function library(): Heif {
  if (loaded) return loaded;
  const folder = join(require.resolve("libheif-js/package.json"), "../libheif-wasm");
  // eslint-disable-next-line @typescript-eslint/no-require-imports -- the package has no types for this door
  const open = require(join(folder, "libheif.js")) as (options: object) => Heif;
  loaded = open({
    wasmBinary: readFileSync(join(folder, "libheif.wasm")),
    print: () => {},
    printErr: () => {},
  });
  return loaded;
}

/** The number that a handle is in the library's memory. */
const placeOf = (handle: Kept): number => (handle as { readonly $$: { readonly ptr: number } }).$$.ptr;

/**
 * Opens a file of pictures (ISO/IEC 23008-12), has something done with it and closes it again.
 * @throws IntakeError where it cannot be read
 */
export function withHeif<T>(bytes: Uint8Array, kind: string, act: (heif: OpenHeif) => T): T {
  const heif = library();
  const context = heif.heif_context_alloc();
  const handles: Kept[] = [];
  try {
    const read = heif.heif_context_read_from_memory(context, bytes);
    if (read.code !== heif.heif_error_code.heif_error_Ok) throw broken(kind, reasonOf(read));
    const ids = heif.heif_js_context_get_list_of_top_level_image_IDs(context);
    if (!isList(ids) || ids.length === 0) throw broken(kind, "there is no picture in it");
    for (const id of ids) {
      const handle = heif.heif_js_context_get_image_handle(context, id);
      if (isOutcome(handle)) throw broken(kind, reasonOf(handle));
      if (heif.heif_image_handle_is_primary_image(handle)) handles.unshift(handle);
      else handles.push(handle);
    }
    return act({ library: heif, pictures: handles.map((handle) => ({ handle, at: placeOf(handle) })) });
  } finally {
    for (const handle of handles) heif.heif_image_handle_release(handle);
    heif.heif_context_free(context);
  }
}

const isList = (value: readonly number[] | Outcome): value is readonly number[] => Array.isArray(value);
export const isOutcome = (value: object): value is Outcome => "message" in value && "code" in value;
export const reasonOf = ({ message }: Outcome): string => message.split("\n")[0].toLowerCase();
