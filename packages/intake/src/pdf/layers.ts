import { isCutByName } from "../paths";
import { borrowed, bytesOf, withPage, type OpenPdf, type Pdfium } from "./library";
import { cuttingLayers } from "./steps";

/** The layer that an object is marked as being on, by its name. @see ISO 32000-2, 8.11.3 */
export function layerOf(library: Pdfium, object: number): string | null {
  for (let k = 0; k < library.FPDFPageObj_CountMarks(object); k++) {
    const mark = library.FPDFPageObj_GetMark(object, k);
    const kind = textOf(library, (to, room, length) =>
      library.FPDFPageObjMark_GetName(mark, to, room, length),
    );
    if (kind !== "OC") continue;
    const name = textOf(library, (to, room, length) =>
      library.FPDFPageObjMark_GetParamStringValue(mark, "Name", to, room, length),
    );
    if (name) return name;
  }
  return null;
}

const MOST_LETTERS = 512;

/** A text that the library writes in UTF-16; null where it has none. */
function textOf(
  library: Pdfium,
  write: (to: number, room: number, length: number) => boolean,
): string | null {
  return borrowed(library, MOST_LETTERS + 4, (at) => {
    if (!write(at + 4, MOST_LETTERS, at)) return null;
    const length = Math.min(MOST_LETTERS, library.pdfium.getValue(at, "i32"));
    const bytes = bytesOf(library).slice(at + 4, at + 4 + Math.max(0, length - 2));
    return new TextDecoder("utf-16le").decode(bytes);
  });
}

/** Everything on an open page that is on a layer, and which. Drawings within drawings are of the layer they are put on. */
function* layered({ library }: OpenPdf, page: number): Generator<readonly [object: number, layer: string]> {
  for (let k = 0; k < library.FPDFPage_CountObjects(page); k++) {
    const object = library.FPDFPage_GetObject(page, k);
    const layer = layerOf(library, object);
    if (layer) yield [object, layer];
  }
}

/** The names of the layers that a page, from 1, has something on. */
export const layersOn = (pdf: OpenPdf, page: number): ReadonlySet<string> =>
  withPage(pdf, page, (at) => new Set([...layered(pdf, at)].map(([, layer]) => layer)));

/** Those of some layers that are cut along. A file without layers is not looked through for them. */
export async function cutAmong(layers: ReadonlySet<string>, bytes: Uint8Array): Promise<ReadonlySet<string>> {
  if (layers.size === 0) return layers;
  const said = await cuttingLayers(bytes);
  return new Set([...layers].filter((layer) => said.has(layer) || isCutByName(layer)));
}

/** Has an open page drawn without what is on some of its layers. */
export function leaveOut(pdf: OpenPdf, page: number, layers: ReadonlySet<string>): void {
  if (layers.size === 0) return;
  for (const [object, layer] of layered(pdf, page))
    if (layers.has(layer)) pdf.library.FPDFPageObj_SetIsActive(object, false);
}
