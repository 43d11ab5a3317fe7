import { type Rgba } from "@hardline/core/raster/types";
import { type ArtworkPaths, MOST_ARTWORK_PIXELS, MOST_ARTWORK_SIDE } from "@hardline/contract";
import sharp, { type Sharp } from "sharp";
import { readSvgDrawing } from "@hardline/core/drawing/readSvg";
import { pathsOfDrawing, readAs } from "../paths";
import { admitSize } from "../admit";
import { broken, IntakeError } from "../errors";
import { type Found } from "../found";
import { asRgba } from "./photo";

/**
 * The text of a file that may be marked-up text: in UTF-16 by its mark or its first letter, else as its first line says,
 * else in UTF-8. Null for bytes that are none.
 *
 * @param most  looks no further than so many bytes, and forgives what is not text
 */
export function textOf(bytes: Uint8Array, most?: number): string | null {
  const [a, b] = bytes;
  const little = (a === 0xff && b === 0xfe) || (a === 0x3c && b === 0);
  const big = (a === 0xfe && b === 0xff) || (a === 0 && b === 0x3c);
  const head = Buffer.from(bytes.subarray(0, 100)).toString("latin1");
  const stated = /^<\?xml[^>]*encoding\s*=\s*["']([\w.-]+)["']/.exec(head)?.[1] ?? "utf-8";
  try {
    return new TextDecoder(little ? "utf-16le" : big ? "utf-16be" : stated, {
      fatal: most === undefined, // a stretch may end within a letter
    }).decode(bytes.subarray(0, most));
  } catch {
    return null; // no such encoding, or not in it
  }
}

const ROOT = /<(?:[A-Za-z_][\w.-]*:)?svg(?:\s[^>]*)?>/;

/** Whether marked-up text is a drawing: its first element is svg, with or without a prefix. */
export const isSvg = (text: string): boolean =>
  /^\s*</.test(text) &&
  /^\s*(?:<\?[^]*?\?>\s*|<!--[^]*?-->\s*|<!DOCTYPE[^[>]*(?:\[[^]*?\]\s*)?>\s*)*<(?:[A-Za-z_][\w.-]*:)?svg[\s>]/.test(
    text,
  );

/** The shapes of an SVG as paths. @throws IntakeError */
export const svgPaths = (bytes: Uint8Array): ArtworkPaths =>
  pathsOfDrawing(readAs("SVG", () => readSvgDrawing(textOf(bytes) ?? Buffer.from(bytes).toString("latin1"))));

/** Side up to which the library draws shapes; what is wider is drawn so large and enlarged. */
const LARGEST_DRAWN = 32767;

/** Shapes, drawn from memory at the width asked for; nothing outside the file is looked at. */
export async function lookAtSvg(bytes: Uint8Array): Promise<Found> {
  const text = textOf(bytes) ?? Buffer.from(bytes).toString("latin1");
  const { width: said, height: high } = sizeSaid(text);
  if (Math.max(said ?? 0, high ?? 0) > MOST_ARTWORK_SIDE) {
    throw new IntakeError(
      `The drawing is ${said ?? "?"} x ${high ?? "?"} pixels; ${MOST_ARTWORK_SIDE} or less a side is taken.`,
    );
  }
  // The library knows a drawing by "<svg" within its first thousand letters, in UTF-8; a comment says it is one.
  const body = text.replace(/^\uFEFF/, "").replace(/^\s*<\?xml[^]*?\?>/, "");
  const file = Buffer.from(`<!--<svg-->${body}`, "utf8");
  const { width, height } = await sharp(file, { limitInputPixels: false, unlimited: false })
    .metadata()
    .catch((error: Error) => {
      throw broken("SVG", error.message.split("\n")[0]);
    });
  return {
    width,
    height,
    vector: true,
    notes: ["drawn from shapes"],
    pixels: (drawWidth) => draw(file, width, height, drawWidth),
  };
}

async function draw(file: Buffer, width: number, height: number, drawWidth: number): Promise<Rgba> {
  const drawHeight = Math.max(1, Math.round((height * drawWidth) / width));
  admitSize(drawWidth, drawHeight);
  const share = Math.min(1, LARGEST_DRAWN / Math.max(drawWidth, drawHeight));
  const size = (side: number): number => Math.max(1, Math.floor(side * share));
  const options = { limitInputPixels: 2 * MOST_ARTWORK_PIXELS, failOn: "error" as const };
  const density = Math.min(100000, Math.max(1, (72 * drawWidth * share) / width));
  try {
    const drawn = await raw(
      sharp(file, { ...options, density }).resize(size(drawWidth), size(drawHeight), { fit: "fill" }),
    );
    if (share === 1) return asRgba(drawn.data, drawn.info);
    const { info } = drawn;
    const larger = sharp(drawn.data, { ...options, raw: info });
    const { data, info: at } = await raw(larger.resize(drawWidth, drawHeight, { fit: "fill" }));
    return asRgba(data, at);
  } catch (error) {
    throw broken("SVG", (error as Error).message.split("\n")[0]);
  }
}

const raw = (image: Sharp) =>
  image.toColourspace("srgb").ensureAlpha().raw({ depth: "uchar" }).toBuffer({ resolveWithObject: true });

/** CSS pixels an absolute unit has. */
const UNITS: Record<string, number> = {
  "": 1,
  px: 1,
  pt: 4 / 3,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  in: 96,
};

/** Width and height in pixels as the root element says them, in absolute units or by its view box. */
function sizeSaid(text: string): { width?: number; height?: number } {
  const root = ROOT.exec(text)?.[0] ?? "";
  const side = (name: string): number | undefined => {
    const found = new RegExp(`\\s${name}\\s*=\\s*["']\\s*([-+\\d.eE]+)\\s*([a-z]*)\\s*["']`).exec(root);
    if (!found || UNITS[found[2]] === undefined) return undefined;
    return Math.round(Number(found[1]) * UNITS[found[2]]);
  };
  const box = /\sviewBox\s*=\s*["']\s*([^"']*)["']/
    .exec(root)?.[1]
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  return { width: side("width") ?? box?.[2], height: side("height") ?? box?.[3] };
}
