import { type PageBox } from "@hardline/contract";
import { floatsOf, withPage, type OpenPdf } from "./library";

/** A rectangle on a page as it is shown, in points from its upper left corner. */
export interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** One picture is all that is on the page. */
export interface Alone extends Area {
  /** Its own pixels, as it is shown. */
  readonly pixelsWide: number;
  readonly pixelsHigh: number;
}

export interface Page {
  /** What is within each edge that the page has; those that are as the crop are left out, but for itself. */
  readonly boxes: Readonly<Partial<Record<PageBox, Area>>> & { readonly crop: Area };
  readonly alone: Alone | null;
  /** Fields to be filled in, whose contents are not drawn. */
  readonly fields: boolean;
}

/** Points by which edges may differ and still be the same. */
const SAME = 0.1;
const [NO_FORM, PICTURE, FIELD] = [0, 3, 20];

/** What a page is, from 1: its edges, and whether a picture is all that is on it. @throws IntakeError */
export function pageOf(pdf: OpenPdf, page: number): Page {
  const { library, handle } = pdf;
  return withPage(pdf, page, (at) => {
    const shown = shownFrom(pdf, at);
    const crop = {
      x: 0,
      y: 0,
      width: library.FPDF_GetPageWidthF(at),
      height: library.FPDF_GetPageHeightF(at),
    };
    const edge = (
      read: (page: number, ...to: [number, number, number, number]) => boolean,
    ): Area | undefined => {
      const found = floatsOf(library, 4, (l, b, r, t) => read(at, l, b, r, t));
      const area = found && within(shown(found), crop);
      return area && !alike(area, crop) ? area : undefined;
    };
    const [trim, bleed] = [edge(library.FPDFPage_GetTrimBox), edge(library.FPDFPage_GetBleedBox)];
    const hasForm = library.FPDF_GetFormType(handle) !== NO_FORM;
    return {
      boxes: { crop, ...(trim && { trim }), ...(bleed && { bleed }) },
      alone: aloneOn(pdf, at, shown),
      fields: hasForm && marksOf(pdf, at).includes(FIELD),
    };
  });
}

/** Kinds of what is laid over the page's own content. */
function marksOf({ library }: OpenPdf, page: number): number[] {
  return Array.from({ length: library.FPDFPage_GetAnnotCount(page) }, (_, k) => {
    const mark = library.FPDFPage_GetAnnot(page, k);
    const kind = library.FPDFAnnot_GetSubtype(mark);
    library.FPDFPage_CloseAnnot(mark);
    return kind;
  });
}

/** From a place on the page's own plane to where it is shown, turned and from its upper left corner. */
export function placeOn({ library }: OpenPdf, page: number): (x: number, y: number) => [number, number] {
  const [left, top, right, bottom] =
    floatsOf(library, 4, (at) => library.FPDF_GetPageBoundingBox(page, at)) ?? [];
  const turned = library.FPDFPage_GetRotation(page);
  return (x, y) =>
    (
      [
        [x - left, top - y],
        [y - bottom, x - left],
        [right - x, y - bottom],
        [top - y, right - x],
      ] as const
    )[turned].slice() as [number, number];
}

/** From left, bottom, right and top on the page's own plane to a rectangle as it is shown. */
function shownFrom(pdf: OpenPdf, page: number): (edges: readonly number[]) => Area {
  const place = placeOn(pdf, page);
  return ([l, b, r, t]) => {
    const [[x0, y0], [x1, y1]] = [place(l, b), place(r, t)];
    return { x: Math.min(x0, x1), y: Math.min(y0, y1), width: Math.abs(x1 - x0), height: Math.abs(y1 - y0) };
  };
}

/** What of an area lies on another; nothing where that is less than a point. */
function within(area: Area, { width, height }: Area): Area | null {
  const [x, y] = [Math.max(0, area.x), Math.max(0, area.y)];
  const [right, foot] = [Math.min(width, area.x + area.width), Math.min(height, area.y + area.height)];
  return right - x < 1 || foot - y < 1 ? null : { x, y, width: right - x, height: foot - y };
}

const alike = (a: Area, b: Area): boolean =>
  (["x", "y", "width", "height"] as const).every((k) => Math.abs(a[k] - b[k]) < SAME);

/** The picture that is all there is on a page, if it stands straight on it. */
function aloneOn(pdf: OpenPdf, page: number, shown: (edges: readonly number[]) => Area): Alone | null {
  const { library } = pdf;
  if (library.FPDFPage_CountObjects(page) !== 1 || marksOf(pdf, page).length > 0) return null;
  const object = library.FPDFPage_GetObject(page, 0);
  if (library.FPDFPageObj_GetType(object) !== PICTURE) return null;
  const across = floatsOf(library, 6, (at) => library.FPDFPageObj_GetMatrix(object, at));
  const edges = floatsOf(library, 4, (l, b, r, t) => library.FPDFPageObj_GetBounds(object, l, b, r, t));
  const size = sizeOf(pdf, object);
  if (!across || !edges || !size) return null;
  const [a, b, c, d] = across.map(Math.abs);
  const least = 1e-3 * Math.max(a, b, c, d);
  const lies = a < least && d < least;
  if (!lies && !(b < least && c < least)) return null;
  const turned = library.FPDFPage_GetRotation(page) % 2 === 1;
  const [pixelsWide, pixelsHigh] = lies !== turned ? [size[1], size[0]] : size;
  return { ...shown(edges), pixelsWide, pixelsHigh };
}

function sizeOf({ library }: OpenPdf, picture: number): [number, number] | null {
  const at = library.pdfium.wasmExports.malloc(8);
  try {
    if (!library.FPDFImageObj_GetImagePixelSize(picture, at, at + 4)) return null;
    const [wide, high] = [0, 4].map((k) => library.pdfium.getValue(at + k, "i32"));
    return wide > 0 && high > 0 ? [wide, high] : null;
  } finally {
    library.pdfium.wasmExports.free(at);
  }
}
