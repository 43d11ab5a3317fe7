import { PAGE_BOXES, type ArtworkPaths, type PageBox, type PageView } from "@hardline/contract";
import { type Rgba } from "@hardline/core/raster/types";
import { MM_PER_INCH } from "@hardline/core/maths/units";
import { admitSize } from "../admit";
import { IntakeError } from "../errors";
import { type Found, type Head } from "../found";
import { drawPage, WITHIN } from "../pdf/draw";
import { groupsOf } from "../paths";
import { withPdf, type OpenPdf } from "../pdf/library";
import { pathsOn } from "../pdf/paths";
import { cutAmong, layersOn } from "../pdf/layers";
import { FIRST, pageOf, type Area, type Page, type Part } from "../pdf/page";

/** Where in a file its mark may stand: what comes before it is not of it. */
const MARK_WITHIN = 1024;
export const isPdf = ({ ascii }: Head): boolean => ascii(0, MARK_WITHIN).includes("%PDF-");

const POINTS = 72;
/** What shapes are said to have, in dots to an inch, and how many dots at most. */
const [USUAL_DENSITY, MOST_DOTS] = [300, 40e6];
const mmOf = (points: number): number => (points / POINTS) * MM_PER_INCH;
const sizeWords = ({ width, height }: Area): string =>
  [width, height].map((side) => Math.round(mmOf(side) * 10) / 10).join(" × ") + " mm";

/**
 * A page of a PDF: drawn at whatever width is asked for, or, where one picture is all there is on it, that picture with its
 * own pixels.
 */
export async function lookAtPdf(bytes: Uint8Array, part: Part = FIRST): Promise<Found> {
  const { pages, page, layers } = await withPdf(bytes, (pdf) => ({
    pages: pdf.pages,
    page: pageOf(pdf, pageIn(pdf, part)),
    layers: layersOn(pdf, part.page),
  }));
  // What is cut along is told to the cutter, and never printed.
  const cut = await cutAmong(layers, bytes);
  const area = areaOf(page, part);
  const alone = part.box === "crop" ? page.alone : null;
  const of = alone ?? area;
  const [width, height] = alone ? [alone.pixelsWide, alone.pixelsHigh] : dotsOf(of);
  return {
    width,
    height,
    vector: alone === null,
    pages,
    boxes: PAGE_BOXES.filter((box) => page.boxes[box]),
    widthMm: mmOf(of.width),
    notes: [
      ...notesOf(page, part, pages, alone !== null, of),
      ...(cut.size > 0 ? [`cut lines left out: ${[...cut].join(", ")}`] : []),
    ],
    pixels: async (drawWidth) => {
      if (alone) return drawn(bytes, part.page, of, width, height, cut, WITHIN);
      return drawn(
        bytes,
        part.page,
        of,
        drawWidth,
        Math.max(1, Math.round((of.height * drawWidth) / of.width)),
        cut,
      );
    },
  };
}

/** The page's number. @throws IntakeError where there is none such */
function pageIn({ pages }: OpenPdf, { page }: Part): number {
  if (!(Number.isInteger(page) && page >= 1 && page <= pages))
    throw new IntakeError(`page is ${page}; allowed: a whole number 1 to ${pages}.`);
  return page;
}

/** What is within the edge that counts. @throws IntakeError where the page has no such edge */
function areaOf({ boxes }: Page, { page, box }: Part): Area {
  const area = boxes[box];
  if (area) return area;
  throw new IntakeError(`box is ${box}; page ${page} has ${Object.keys(boxes).join(" and ")} alone.`);
}

function dotsOf({ width, height }: Area): [number, number] {
  const density = Math.min(USUAL_DENSITY, POINTS * Math.sqrt(MOST_DOTS / (width * height)));
  return [width, height].map((side) => Math.max(1, Math.round((side / POINTS) * density))) as [
    number,
    number,
  ];
}

function drawn(
  bytes: Uint8Array,
  page: number,
  area: Area,
  width: number,
  height: number,
  without: ReadonlySet<string>,
  inset?: number,
): Promise<Rgba> {
  admitSize(width, height);
  return withPdf(bytes, (pdf) => drawPage(pdf, page, area, width, height, without, inset));
}

function notesOf(
  { boxes, fields }: Page,
  { page, box }: Part,
  pages: number,
  alone: boolean,
  of: Area,
): string[] {
  const others = PAGE_BOXES.filter((b) => b !== box && boxes[b]);
  const WORDS: Record<PageBox, string> = { crop: "as shown", trim: "as cut", bleed: "with bleed" };
  return [
    pages > 1 ? `page ${page} of ${pages}` : "",
    `${sizeWords(of)}${box === "crop" ? "" : `, ${WORDS[box]}`}`,
    ...others.map((b) => `${WORDS[b]} ${sizeWords(boxes[b]!)}`),
    alone ? "the picture on it, with its own pixels" : "drawn from shapes",
    fields ? "what is filled in is left out" : "",
  ].filter(Boolean);
}

/** The pages of a PDF. @throws IntakeError */
export const pdfPages = (bytes: Uint8Array): Promise<readonly PageView[]> =>
  withPdf(bytes, (pdf) =>
    Array.from({ length: pdf.pages }, (_, k) => {
      const { boxes } = pageOf(pdf, k + 1);
      return {
        called: "page" as const,
        page: k + 1,
        boxes: PAGE_BOXES.filter((box) => boxes[box]).map((box) => ({
          box,
          widthMm: mmOf(boxes[box]!.width),
          heightMm: mmOf(boxes[box]!.height),
        })),
      };
    }),
  );

/** The paths of a page. @throws IntakeError */
export async function pdfPaths(bytes: Uint8Array, part: Part = FIRST): Promise<ArtworkPaths> {
  const { area, groups } = await withPdf(bytes, (pdf) => {
    const area = areaOf(pageOf(pdf, pageIn(pdf, part)), part);
    return { area, groups: pathsOn(pdf, part.page, area) };
  });
  const layers = groups.flatMap(({ layer }) => (layer === null ? [] : [layer]));
  const cut = await cutAmong(new Set(layers), bytes);
  const told = groups.map((group) => ({ ...group, cutting: group.layer !== null && cut.has(group.layer) }));
  return { widthMm: mmOf(area.width), heightMm: mmOf(area.height), groups: groupsOf(told) };
}
