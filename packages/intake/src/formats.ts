import { type ArtworkPaths, type PageView } from "@hardline/contract";
import { lookAtAvif } from "./formats/avif";
import { isBmp, lookAtBmp } from "./formats/bmp";
import { dxfPaths, isDxf, lookAtDxf } from "./formats/dxf";
import { isGif, lookAtGif } from "./formats/gif";
import { heicPages, isAvif, isHeic, lookAtHeic } from "./formats/heic";
import { isJxl, jxlPages, lookAtJxl } from "./formats/jxl";
import { isJpeg, isWebP, lookAtPhoto, lookAtWebP, photoSizes } from "./formats/photo";
import { isPdf, lookAtPdf, pdfPages, pdfPaths } from "./formats/pdf";
import { isPng, lookAtPng } from "./formats/png";
import { isPostScript, refusePostScript } from "./formats/postscript";
import { isSvg, lookAtSvg, svgPaths } from "./formats/svg";
import { isTiff, lookAtTiff } from "./formats/tiff";
import { type Found, type Head } from "./found";
import { framesOf, type Part } from "./pages";

/** A kind of file that is taken as artwork. */
export interface ArtworkFormat {
  readonly name: string;
  readonly mediaType: string;
  readonly extension: string;
  /** Whether a file is one, by its content alone. */
  readonly sniff: (head: Head) => boolean;
  /** What it is, or a part of it, before its pixels are decoded. @throws IntakeError where it is broken */
  readonly inspect: (bytes: Uint8Array, part?: Part) => Found | Promise<Found>;
  /** What it has to choose from, where it may have several pages, frames or pictures. @throws IntakeError */
  readonly pages?: (bytes: Uint8Array) => Promise<readonly PageView[]>;
  /** The paths that it is made of. @throws IntakeError */
  readonly paths?: (bytes: Uint8Array, part?: Part) => ArtworkPaths | Promise<ArtworkPaths>;
  /** It is made of shapes, drawn at whatever width is asked for. */
  readonly vector?: true;
  /** It is known, and refused with what to do instead. */
  readonly refused?: true;
}

/**
 * Every kind of file that is taken as artwork, in the order in which they are told apart: what has a signature first, texts
 * last. A new one is a file in `formats/` and an entry here.
 */
export const ARTWORK_FORMATS: readonly ArtworkFormat[] = [
  { name: "PNG", mediaType: "image/png", extension: "png", sniff: isPng, inspect: lookAtPng },
  {
    ...{ name: "JPEG", mediaType: "image/jpeg", extension: "jpg", sniff: isJpeg },
    inspect: (bytes) => lookAtPhoto(bytes, "JPEG"),
  },
  {
    ...{ name: "WebP", mediaType: "image/webp", extension: "webp", sniff: isWebP },
    ...{ inspect: lookAtWebP, pages: async (bytes) => framesOf("frame", await photoSizes(bytes, "WebP")) },
  },
  { name: "AVIF", mediaType: "image/avif", extension: "avif", sniff: isAvif, inspect: lookAtAvif },
  {
    ...{ name: "HEIC", mediaType: "image/heic", extension: "heic" },
    ...{ sniff: isHeic, inspect: lookAtHeic, pages: heicPages },
  },
  {
    ...{ name: "JPEG XL", mediaType: "image/jxl", extension: "jxl" },
    ...{ sniff: isJxl, inspect: lookAtJxl, pages: jxlPages },
  },
  {
    ...{ name: "TIFF", mediaType: "image/tiff", extension: "tif", sniff: isTiff, inspect: lookAtTiff },
    pages: async (bytes) => framesOf("page", await photoSizes(bytes, "TIFF")),
  },
  {
    ...{ name: "GIF", mediaType: "image/gif", extension: "gif", sniff: isGif, inspect: lookAtGif },
    pages: async (bytes) => framesOf("frame", await photoSizes(bytes, "GIF")),
  },
  { name: "BMP", mediaType: "image/bmp", extension: "bmp", sniff: isBmp, inspect: lookAtBmp },
  {
    ...{ name: "PDF", mediaType: "application/pdf", extension: "pdf", vector: true },
    ...{ sniff: isPdf, inspect: lookAtPdf, pages: pdfPages, paths: pdfPaths },
  },
  {
    ...{ name: "EPS", mediaType: "application/postscript", extension: "eps", refused: true },
    ...{ sniff: isPostScript, inspect: refusePostScript },
  },
  {
    ...{ name: "SVG", mediaType: "image/svg+xml", extension: "svg", vector: true },
    sniff: ({ text }) => text !== null && isSvg(text),
    ...{ inspect: lookAtSvg, paths: svgPaths },
  },
  {
    ...{ name: "DXF", mediaType: "image/vnd.dxf", extension: "dxf", vector: true },
    sniff: ({ text }) => text !== null && isDxf(text),
    ...{ inspect: lookAtDxf, paths: dxfPaths },
  },
];

/** What is taken, in words: "PNG, JPEG or DXF". */
export const formatWords = (): string =>
  ARTWORK_FORMATS.filter((f) => !f.refused)
    .map((f) => f.name)
    .join(", ")
    .replace(/, ([^,]*)$/, " or $1");
