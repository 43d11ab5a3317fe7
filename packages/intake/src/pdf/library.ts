import { init, type WrappedPdfiumModule } from "@embedpdf/pdfium";
import { readFile } from "node:fs/promises";
import { broken, IntakeError, notRead } from "../errors";

export type Pdfium = WrappedPdfiumModule;

/** A document that is open. */
export interface OpenPdf {
  readonly library: Pdfium;
  /** The library's handle of the document. */
  readonly handle: number;
  readonly pages: number;
}

/** More pages than this are none of a customer's artwork. */
const MOST_PAGES = 5000;
/** Bytes before a catalog's type within which its object begins. */
const OBJECT = 4096;
/** What the library says went wrong when a document was opened. */
const [NO_PDF, LOCKED, UNKNOWN_LOCK] = [3, 4, 5];

let loaded: Promise<Pdfium> | null = null;

/** The library, loaded once in a process. It has no way out: no files, no network, no fonts but its own. */
function library(): Promise<Pdfium> {
  loaded ??= (async () => {
    const wasm = await readFile(require.resolve("@embedpdf/pdfium/pdfium.wasm"));
    const module = await init({ wasmBinary: Uint8Array.from(wasm).buffer });
    module.PDFiumExt_Init();
    return module;
  })();
  return loaded;
}

/**
 * Opens a document, has something done with it and closes it again.
 * @throws IntakeError where it cannot be read, with why and what to do
 */
export async function withPdf<T>(bytes: Uint8Array, act: (pdf: OpenPdf) => T): Promise<T> {
  const pdfium = await library();
  const first = opened(pdfium, bytes, act);
  if (!("error" in first)) return first.done;
  const ended = first.error === NO_PDF ? withEnd(bytes) : null;
  const second = ended && opened(pdfium, ended, act);
  if (second && !("error" in second)) return second.done;
  throw refusal(first.error);
}

function opened<T>(
  pdfium: Pdfium,
  bytes: Uint8Array,
  act: (pdf: OpenPdf) => T,
): { readonly done: T } | { readonly error: number } {
  return borrowed(pdfium, bytes.length, (at) => {
    bytesOf(pdfium).set(bytes, at);
    const handle = pdfium.FPDF_LoadMemDocument64(at, bytes.length, "");
    if (handle === 0) return { error: pdfium.FPDF_GetLastError() };
    try {
      const pages = pdfium.FPDF_GetPageCount(handle);
      if (pages < 1) throw broken("PDF", "it has no page");
      if (pages > MOST_PAGES)
        throw new IntakeError(`The PDF has ${pages} pages; ${MOST_PAGES} or fewer are taken.`);
      return { done: act({ library: pdfium, handle, pages }) };
    } finally {
      pdfium.FPDF_CloseDocument(handle);
    }
  });
}

/** A file whose end is lost, with another that names its catalog; null where none is in it. */
function withEnd(bytes: Uint8Array): Uint8Array | null {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length);
  const type = Math.max(text.lastIndexOf("/Type /Catalog"), text.lastIndexOf("/Type/Catalog"));
  const object = /.*\s(\d+)\s+(\d+)\s+obj\b/s.exec(
    text.subarray(Math.max(0, type - OBJECT), Math.max(0, type)).toString("latin1"),
  );
  return object && Buffer.concat([text, Buffer.from(`\ntrailer\n<< /Root ${object[1]} ${object[2]} R >>\n`)]);
}

/** Opens a page, from 1, has something done with it and closes it again. */
export function withPage<T>({ library: pdfium, handle }: OpenPdf, page: number, act: (page: number) => T): T {
  const opened = pdfium.FPDF_LoadPage(handle, page - 1);
  if (opened === 0) throw broken("PDF", `page ${page} cannot be found in it`);
  try {
    return act(opened);
  } finally {
    pdfium.FPDF_ClosePage(opened);
  }
}

/** All of the library's memory, as it is now: it is another array once it has grown. */
export const bytesOf = ({ pdfium }: Pdfium): Uint8Array =>
  (pdfium as unknown as { HEAPU8: Uint8Array }).HEAPU8;

/** Memory of the library for as long as something is done with it. */
export function borrowed<T>({ pdfium }: Pdfium, bytes: number, act: (at: number) => T): T {
  const at = pdfium.wasmExports.malloc(bytes);
  if (at === 0) throw new IntakeError("The PDF needs more memory than there is. Save it simpler or smaller.");
  try {
    return act(at);
  } finally {
    pdfium.wasmExports.free(at);
  }
}

/** Numbers of four bytes that the library writes; null where it says it has none. */
export function floatsOf(
  pdfium: Pdfium,
  count: number,
  write: (...at: number[]) => boolean,
): number[] | null {
  return borrowed(pdfium, 4 * count, (at) => {
    const places = Array.from({ length: count }, (_, k) => at + 4 * k);
    return write(...places) ? places.map((p) => pdfium.pdfium.getValue(p, "float")) : null;
  });
}

function refusal(error: number): IntakeError {
  if (error === LOCKED || error === UNKNOWN_LOCK)
    return notRead("A PDF that is locked with a password", "Save it without one.");
  return broken("PDF", error === NO_PDF ? "its parts cannot be found" : `fault ${error}`);
}
