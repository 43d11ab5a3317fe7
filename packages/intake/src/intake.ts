import { fingerprint } from "@hardline/core/raster/fingerprint";
import { type Rgba } from "@hardline/core/raster/types";
import { type ArtworkFacts } from "@hardline/core/route/source";
import {
  MOST_ARTWORK_BYTES,
  type ArtworkPaths,
  type PageBox,
  type PageLayer,
  type PageView,
} from "@hardline/contract";
import { admitSize, million } from "./admit";
import { IntakeError } from "./errors";
import { FIRST, type Part } from "./pages";
import { formatWords, type ArtworkFormat } from "./formats";
import { sniff, type Kind } from "./sniff";

/** An artwork as it was supplied, and what was found in it. */
export interface Intake {
  readonly facts: ArtworkFacts;
  readonly kind: Kind;
  /** Pages that it has, of which one is taken. */
  readonly pages: number;
  /** Edges that the page has. */
  readonly boxes: readonly PageBox[];
  /** Layers that the page has; those that are drawn are so here. */
  readonly layers: readonly PageLayer[];
  /** How wide it is in truth, in millimetres, where the file says so. */
  readonly widthMm: number | null;
  /** What was done to bring it to upright 8-bit sRGB, in words, for the operator; whole once it is decoded. */
  readonly notes: readonly string[];
  /** @param drawWidth  width in pixels to draw at, for artwork made of shapes */
  readonly pixels: (drawWidth?: number) => Promise<Rgba>;
}

/**
 * Looks at a file, or a part of one that has pages, and says what it is; its pixels are decoded when asked for.
 * @throws IntakeError when it is empty, too large, of another kind or broken
 */
export async function takeIn(bytes: Uint8Array, part: Part = FIRST): Promise<Intake> {
  if (bytes.length === 0) throw new IntakeError("The file is empty (0 bytes).");
  if (bytes.length > MOST_ARTWORK_BYTES) {
    throw new IntakeError(
      `The file has ${million(bytes.length)} MB; ${million(MOST_ARTWORK_BYTES)} MB or less is taken.`,
    );
  }
  const format = formatOf(bytes);
  const { name, mediaType, extension, inspect } = format;
  if (!format.pages && partWords(part) !== "")
    throw new IntakeError(`page is ${part.page}, box is ${part.box}; a ${name} is taken whole.`);
  const {
    width,
    height,
    vector,
    pages = 1,
    boxes = [FIRST.box],
    layers = [],
    widthMm = null,
    notes,
    pixels,
  } = await inspect(bytes, part);
  admitSize(width, height);
  const told = [...notes];
  return {
    facts: { sha256: fingerprint(bytes) + partWords(part), width, height, vector },
    kind: { name, mediaType, extension },
    pages,
    boxes,
    layers,
    widthMm,
    notes: told,
    pixels: (drawWidth) =>
      pixels(drawWidth ?? width, (words) => {
        if (!told.includes(words)) told.push(words);
      }),
  };
}

/** What a file has to choose from: its pages, frames or pictures. @throws IntakeError where it is taken whole */
export async function pagesOf(bytes: Uint8Array): Promise<readonly PageView[]> {
  const { name, pages } = formatOf(bytes);
  if (!pages) throw new IntakeError(`A ${name} is taken whole.`);
  return pages(bytes);
}

/** The paths that a file made of shapes has of its own. @throws IntakeError where it has none */
export async function pathsOf(bytes: Uint8Array, part: Part = FIRST): Promise<ArtworkPaths> {
  const { name, paths } = formatOf(bytes);
  if (!paths) throw new IntakeError(`A ${name} is made of pixels and has no paths.`);
  return paths(bytes, part);
}

function formatOf(bytes: Uint8Array): ArtworkFormat {
  const format = sniff(bytes);
  if (!format) throw new IntakeError(`This is not a picture that can be read; ${formatWords()} is taken.`);
  return format;
}

/** A part as it is added to a file's fingerprint; nothing for what is taken when none is named. @see RFC 8118, fragments */
export function partWords({ page, box, layers }: Part): string {
  if (page === FIRST.page && box === FIRST.box && !layers) return "";
  const drawn = layers ? `&layers=${[...layers].sort().map(encodeURIComponent).join(",")}` : "";
  return `#page=${page}${box === FIRST.box ? "" : `&box=${box}`}${drawn}`;
}
