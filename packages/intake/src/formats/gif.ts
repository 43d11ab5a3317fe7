import { type Rgba } from "@hardline/core/raster/types";
import { broken } from "../errors";
import { type Found, type Head } from "../found";
import { numbered, FIRST, type Part } from "../pages";
import { decodeUpright, lookAtPhoto } from "./photo";

export const isGif = ({ ascii }: Head): boolean => ascii(0, 4) === "GIF8";

/** Where the first picture of an animation stands on the canvas, and a file that holds it alone. */
interface FirstFrame {
  readonly canvas: readonly [width: number, height: number];
  readonly at: readonly [x: number, y: number, width: number, height: number];
  readonly frames: number;
  readonly alone: Uint8Array;
}

/**
 * A picture of a GIF; the first on its whole canvas, clear around it. The canvas is the one the header tells of, also
 * where it is a common screen's size, which libraries take for a mistake.
 */
export function lookAtGif(bytes: Uint8Array, part: Part = FIRST): Found | Promise<Found> {
  const { canvas, at, frames, alone } = firstFrame(bytes);
  const page = numbered(part, frames);
  // A later one stands on those before it, which the library lays over each other.
  if (page > 0) return lookAtPhoto(bytes, "GIF", { page });
  const [width, height] = canvas;
  return {
    width,
    height,
    vector: false,
    pages: frames,
    notes: frames > 1 ? [`frame 1 of ${frames}`] : [],
    pixels: async (_drawWidth, note) => {
      const frame = await decodeUpright(alone, note);
      return at[2] === width && at[3] === height ? frame : placed(frame, canvas, at);
    },
  };
}

function placed(frame: Rgba, [width, height]: FirstFrame["canvas"], [x0, y0]: FirstFrame["at"]): Rgba {
  const data = new Uint8Array(width * height * 4);
  const across = Math.min(frame.width, width - x0);
  for (let y = 0; y < Math.min(frame.height, height - y0); y++) {
    const from = y * frame.width * 4;
    data.set(frame.data.subarray(from, from + across * 4), ((y0 + y) * width + x0) * 4);
  }
  return { width, height, data };
}

/** Walks the blocks. @see "Graphics Interchange Format, Version 89a", 1990 */
function firstFrame(bytes: Uint8Array): FirstFrame {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const whole = (end: number): void => {
    if (end > bytes.length) throw broken("GIF", "it ends before its first picture does");
  };
  whole(13);
  const canvas = [view.getUint16(6, true), view.getUint16(8, true)] as const;
  const table = (flags: number): number => (flags & 0x80 ? 3 << ((flags & 7) + 1) : 0);
  const body = 13 + table(bytes[10]);
  let at = body;
  let control: readonly [number, number] | null = null;
  let first: Omit<FirstFrame, "frames" | "canvas"> | null = null;
  let frames = 0;
  const skipBlocks = (): void => {
    while (at < bytes.length && bytes[at] !== 0) at += bytes[at] + 1;
    at++;
  };
  while (at < bytes.length && bytes[at] !== 0x3b) {
    const begin = at;
    if (bytes[at] === 0x21) {
      at += 2;
      skipBlocks();
      if (bytes[begin + 1] === 0xf9 && !first) control = [begin, at];
    } else if (bytes[at] === 0x2c) {
      if (first && begin + 10 > bytes.length) break; // a later picture that is cut off does not concern us
      whole(begin + 10);
      at += 10 + table(bytes[begin + 9]) + 1;
      skipBlocks();
      frames++;
      first ??= {
        at: [1, 3, 5, 7].map((k) => view.getUint16(begin + k, true)) as unknown as FirstFrame["at"],
        alone: alone(bytes, body, control, begin, Math.min(at, bytes.length)),
      };
    } else break; // what stands after the pictures is nobody's business
  }
  if (!first) throw broken("GIF", "there is no picture in it");
  // A canvas that is said to be nothing is as large as the picture on it.
  const [, , w, h] = first.at;
  return { ...first, canvas: canvas[0] && canvas[1] ? canvas : [w, h], frames };
}

/** One picture as a file of its own, its canvas no larger than itself. */
function alone(
  bytes: Uint8Array,
  body: number,
  control: readonly [number, number] | null,
  begin: number,
  end: number,
): Uint8Array {
  const out = Buffer.concat([
    bytes.subarray(0, body),
    control ? bytes.subarray(...control) : new Uint8Array(0),
    bytes.subarray(begin, end),
    Uint8Array.of(0x3b),
  ]);
  out.set(bytes.subarray(begin + 5, begin + 9), 6); // the canvas: this picture's size
  const moved = out.length - 1 - (end - begin);
  out.fill(0, moved + 1, moved + 5); // at its corner
  return out;
}
