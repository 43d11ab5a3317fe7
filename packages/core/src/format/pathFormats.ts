import { type Doing, type Work } from "../maths/work";
import { type PathSet } from "../path/pathSet";
import { type Rect } from "../raster/types";
import { writeDxf } from "./dxf";
import { writeHpgl } from "./hpgl";
import { writePathsSvg } from "./svg";

/** A format in which paths are handed over. */
export interface PathFormat {
  readonly extension: string;
  readonly mediaType: string;
  /** @param box  what the file shows, in mm from the piece's top left */
  readonly write: (sets: readonly PathSet[], box: Rect, doing: Doing) => Promise<Uint8Array>;
}

/** Every format of paths there is. A new one is a writer and an entry here; whatever hands over paths hands it over too. */
export const PATH_FORMATS: readonly PathFormat[] = [
  {
    extension: "svg",
    mediaType: "image/svg+xml",
    write: inSlices((sets, { x, y, width, height }) => writePathsSvg(sets, width, height, x, y)),
  },
  { extension: "dxf", mediaType: "image/vnd.dxf", write: inSlices(writeDxf) },
  { extension: "plt", mediaType: "application/vnd.hp-hpgl", write: inSlices(writeHpgl) },
  {
    extension: "pdf",
    mediaType: "application/pdf",
    write: async (sets, box, doing) => (await import("./pathsPdf")).writePathsPdf(sets, box, null, doing),
  },
];

/** How a writer that does its work in slices is asked. */
function inSlices(write: (sets: readonly PathSet[], box: Rect) => Work<Uint8Array>): PathFormat["write"] {
  return (sets, box, doing) => doing(write(sets, box));
}

/** Sets of paths in every format, each file by a name and its format's extension. */
export async function* pathFiles(
  name: string,
  sets: readonly PathSet[],
  box: Rect,
  doing: Doing,
): AsyncIterable<{ readonly name: string; readonly mediaType: string; readonly bytes: Uint8Array }> {
  for (const { extension, mediaType, write } of PATH_FORMATS)
    yield { name: `${name}.${extension}`, mediaType, bytes: await write(sets, box, doing) };
}
