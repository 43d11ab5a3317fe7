import { type PageLayer } from "@hardline/contract";
import { isCutByName } from "../paths";
import { borrowed, bytesOf, withPage, type OpenPdf, type Pdfium } from "./library";
import { saidOfLayers, type SaidOfLayer } from "./steps";

/** The layer that an object is marked as being on, by its name. @see ISO 32000-2, 8.11.3 */
export const layerOf = (library: Pdfium, object: number): string | null =>
  markOf(library, object)?.layer ?? null;

function markOf(library: Pdfium, object: number): { readonly layer: string; readonly mark: number } | null {
  for (let k = 0; k < library.FPDFPageObj_CountMarks(object); k++) {
    const mark = library.FPDFPageObj_GetMark(object, k);
    const kind = textOf(library, (to, room, length) =>
      library.FPDFPageObjMark_GetName(mark, to, room, length),
    );
    if (kind !== "OC") continue;
    const name = textOf(library, (to, room, length) =>
      library.FPDFPageObjMark_GetParamStringValue(mark, "Name", to, room, length),
    );
    if (name) return { layer: name, mark };
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
function* layered(
  { library }: OpenPdf,
  page: number,
): Generator<readonly [object: number, layer: string, mark: number]> {
  for (let k = 0; k < library.FPDFPage_CountObjects(page); k++) {
    const object = library.FPDFPage_GetObject(page, k);
    const on = markOf(library, object);
    if (on) yield [object, on.layer, on.mark];
  }
}

/** The names of the layers that a page, from 1, has something on. */
export const layersOn = (pdf: OpenPdf, page: number): ReadonlySet<string> =>
  withPage(pdf, page, (at) => new Set([...layered(pdf, at)].map(([, layer]) => layer)));

/**
 * What is known of layers: shown by the file, and cut along, by the standard's metadata or in the trade's words. A file
 * without layers is not looked through for them.
 */
export async function knownLayers(
  names: Iterable<string>,
  bytes: Uint8Array,
): Promise<ReadonlyMap<string, SaidOfLayer>> {
  const all = [...new Set(names)];
  if (all.length === 0) return new Map();
  const said = await saidOfLayers(bytes);
  return new Map(
    all.map((name) => {
      const { shown = true, cut = false } = said.get(name) ?? {};
      return [name, { shown, cut: cut || isCutByName(name) }];
    }),
  );
}

/** Layers of a page as they are drawn: those that are asked for, or that the file shows, but for what is cut along. */
export const asDrawn = (
  names: Iterable<string>,
  known: ReadonlyMap<string, SaidOfLayer>,
  asked?: readonly string[],
): PageLayer[] =>
  [...names].map((name) => {
    const { shown, cut } = known.get(name)!;
    return { name, drawn: asked ? asked.includes(name) : shown && !cut, cut };
  });

/** Has an open page drawn with those of its layers that are to be, and without the others. */
export function drawnLayers(pdf: OpenPdf, page: number, layers: readonly PageLayer[]): void {
  if (layers.length === 0) return;
  const { library } = pdf;
  const drawn = new Map(layers.map((layer) => [layer.name, layer.drawn]));
  for (const [object, layer, mark] of [...layered(pdf, page)]) {
    if (drawn.get(layer) === false) library.FPDFPageObj_SetIsActive(object, false);
    // What is on no layer is shown, whatever the file says of the layer that it was on.
    else if (drawn.get(layer)) library.FPDFPageObj_RemoveMark(object, mark);
  }
}
