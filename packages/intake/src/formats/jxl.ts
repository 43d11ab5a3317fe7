import type * as jxlLibrary from "jxl-oxide-wasm";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { broken } from "../errors";
import { type Found, type Head } from "../found";
import { framesOf, numbered, FIRST, type Part } from "../pages";
import { decodeUpright } from "./photo";

/** Where a file in boxes says that it is one, and how one without them begins. @see ISO/IEC 18181-2:2024, 9.1 */
const BOXED = [0, 0, 0, 12, 0x4a, 0x58, 0x4c, 0x20, 13, 10, 0x87, 10] as const;
const BARE = [0xff, 0x0a] as const;

export const isJxl = ({ starts }: Head): boolean => starts(...BOXED) || starts(...BARE);

type Library = typeof jxlLibrary;
let loaded: Library | null = null;

/** The library, loaded once in a process. */
function library(): Library {
  if (loaded) return loaded;
  const folder = join(require.resolve("jxl-oxide-wasm/package.json"), "..");
  // eslint-disable-next-line @typescript-eslint/no-require-imports -- the package's door is for modules alone
  const module = require(join(folder, "jxl_oxide_wasm.js")) as Library;
  module.initSync({ module: readFileSync(join(folder, "jxl_oxide_wasm_bg.wasm")) });
  return (loaded = module);
}

type Open = InstanceType<Library["JxlImage"]>;

/** Has something done with a file that is read as far as it goes. @throws IntakeError where it cannot be */
function withJxl<T>(bytes: Uint8Array, act: (image: Open, width: number, height: number) => T): T {
  let image: Open | null = null;
  try {
    image = new (library().JxlImage)();
    image.feedBytes(bytes);
    if (!image.tryInit()) throw new Error("it ends before its size");
    return act(image, image.width!, image.height!);
  } catch (error) {
    // A library that came to an end in the middle is not used again.
    if ((error as Error).name === "RuntimeError") loaded = null;
    throw broken("JPEG XL", String((error as Error).message ?? error));
  } finally {
    if (loaded) image?.free();
  }
}

/** A frame of a JPEG XL, brought upright and to sRGB by its own decoder. */
export function lookAtJxl(bytes: Uint8Array, part: Part = FIRST): Found {
  const { width, height, frames } = withJxl(bytes, (image, width, height) => ({
    ...{ width, height },
    frames: Math.max(1, image.numLoadedKeyframes),
  }));
  const frame = numbered(part, frames);
  return {
    ...{ width, height, vector: false, pages: frames },
    notes: frames > 1 ? [`frame ${part.page} of ${frames}`] : [],
    pixels: async (_drawWidth, note) => decodeUpright(pngOf(bytes, frame), note),
  };
}

/** The frame as a PNG, which is what the library hands over. */
const pngOf = (bytes: Uint8Array, frame: number): Uint8Array =>
  withJxl(bytes, (image) => {
    if (!image.loaded) throw new Error("it ends before its last pixel");
    image.forceSrgb = true;
    return image.render(frame).encodeToPng();
  });

export const jxlPages = async (bytes: Uint8Array) =>
  withJxl(bytes, (image, width, height) =>
    framesOf(
      "frame",
      Array.from({ length: Math.max(1, image.numLoadedKeyframes) }, () => ({ width, height })),
    ),
  );
