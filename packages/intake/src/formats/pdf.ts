import {
  PAGE_BOXES,
  type ArtworkPaths,
  type PageBox,
  type PageLayer,
  type PageView,
} from "@hardline/contract";
import { type Rgba } from "@hardline/core/raster/types";
import { MM_PER_INCH } from "@hardline/core/maths/units";
import { admitSize } from "../admit";
import { IntakeError } from "../errors";
import { type Found, type Head } from "../found";
import { drawPage, WITHIN } from "../pdf/draw";
import { groupsOf } from "../paths";
import { withPdf, type OpenPdf } from "../pdf/library";
import { pathsOn } from "../pdf/paths";
import { asDrawn, knownLayers, layersOn } from "../pdf/layers";
import { type SaidOfLayer } from "../pdf/steps";
import { unitsOf } from "../pdf/unit";
import { FIRST, type Part } from "../pages";
import { pageOf, type Area, type Page } from "../pdf/page";

/** Where in a file its mark may stand: what comes before it is not of it. */
const MARK_WITHIN = 1024;
export const isPdf = ({ ascii }: Head): boolean => ascii(0, MARK_WITHIN).includes("%PDF-");

const POINTS = 72;
/** What shapes are said to have, in dots to an inch, and how many dots at most. */
const [USUAL_DENSITY, MOST_DOTS] = [300, 40e6];
const mmOf = (points: number): number => (points / POINTS) * MM_PER_INCH;
const sizeWords = ({ width, height }: Area, unit: number): string =>
  [width, height].map((side) => Math.round(mmOf(side) * unit * 10) / 10).join(" × ") + " mm";

/**
 * A page of a PDF: drawn at whatever width is asked for, or, where one picture is all there is on it, that picture with its
 * own pixels.
 */
export async function lookAtPdf(bytes: Uint8Array, part: Part = FIRST): Promise<Found> {
  const { pages, page, names } = await withPdf(bytes, (pdf) => ({
    pages: pdf.pages,
    page: pageOf(pdf, pageIn(pdf, part)),
    names: layersOn(pdf, part.page),
  }));
  const strange = part.layers?.find((layer) => !names.has(layer));
  if (strange !== undefined)
    throw new IntakeError(
      `layers has "${strange}"; page ${part.page} has ${names.size > 0 ? [...names].join(", ") : "none"}.`,
    );
  const known = await knownLayers(names, bytes);
  const layers = asDrawn(names, known, part.layers);
  const unit = (await unitsOf(bytes))(part.page);
  const area = areaOf(page, part);
  const alone = part.box === "crop" ? page.alone : null;
  const of = alone ?? area;
  const [width, height] = alone ? [alone.pixelsWide, alone.pixelsHigh] : dotsOf(of, unit);
  return {
    width,
    height,
    vector: alone === null,
    pages,
    boxes: PAGE_BOXES.filter((box) => page.boxes[box]),
    layers,
    widthMm: mmOf(of.width) * unit,
    notes: [...notesOf(page, part, pages, alone !== null, of, unit), ...layerNotes(layers, known)],
    pixels: async (drawWidth) => {
      if (alone) return drawn(bytes, part.page, of, width, height, layers, WITHIN);
      return drawn(
        bytes,
        part.page,
        of,
        drawWidth,
        Math.max(1, Math.round((of.height * drawWidth) / of.width)),
        layers,
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

function dotsOf({ width, height }: Area, unit: number): [number, number] {
  const density = Math.min(USUAL_DENSITY * unit, POINTS * Math.sqrt(MOST_DOTS / (width * height)));
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
  layers: readonly PageLayer[],
  inset?: number,
): Promise<Rgba> {
  admitSize(width, height);
  return withPdf(bytes, (pdf) => drawPage(pdf, page, area, width, height, layers, inset));
}

function notesOf(
  { boxes, fields }: Page,
  { page, box }: Part,
  pages: number,
  alone: boolean,
  of: Area,
  unit: number,
): string[] {
  const others = PAGE_BOXES.filter((b) => b !== box && boxes[b]);
  const WORDS: Record<PageBox, string> = { crop: "as shown", trim: "as cut", bleed: "with bleed" };
  return [
    pages > 1 ? `page ${page} of ${pages}` : "",
    `${sizeWords(of, unit)}${box === "crop" ? "" : `, ${WORDS[box]}`}`,
    ...others.map((b) => `${WORDS[b]} ${sizeWords(boxes[b]!, unit)}`),
    alone ? "the picture on it, with its own pixels" : "drawn from shapes",
    fields ? "what is filled in is left out" : "",
  ].filter(Boolean);
}

/** What was done with layers, where it is not what the file shows. */
function layerNotes(layers: readonly PageLayer[], known: ReadonlyMap<string, SaidOfLayer>): string[] {
  const told = (words: string, of: readonly PageLayer[]): string[] =>
    of.length > 0 ? [`${words}: ${of.map((layer) => layer.name).join(", ")}`] : [];
  const shown = (layer: PageLayer): boolean => known.get(layer.name)!.shown;
  return [
    ...told(
      "cut lines left out",
      layers.filter((l) => l.cut && !l.drawn),
    ),
    ...told(
      "layers left out",
      layers.filter((l) => !l.cut && !l.drawn && shown(l)),
    ),
    ...told(
      "layers shown that the file hides",
      layers.filter((l) => l.drawn && !shown(l)),
    ),
  ];
}

/** The pages of a PDF. @throws IntakeError */
export async function pdfPages(bytes: Uint8Array): Promise<readonly PageView[]> {
  const pages = await withPdf(bytes, (pdf) =>
    Array.from({ length: pdf.pages }, (_, k) => ({
      boxes: pageOf(pdf, k + 1).boxes,
      names: layersOn(pdf, k + 1),
    })),
  );
  const unitOf = await unitsOf(bytes);
  const known = await knownLayers(
    pages.flatMap(({ names }) => [...names]),
    bytes,
  );
  return pages.map(({ boxes, names }, k) => ({
    called: "page" as const,
    page: k + 1,
    boxes: PAGE_BOXES.filter((box) => boxes[box]).map((box) => ({
      box,
      widthMm: mmOf(boxes[box]!.width) * unitOf(k + 1),
      heightMm: mmOf(boxes[box]!.height) * unitOf(k + 1),
    })),
    layers: asDrawn(names, known),
  }));
}

/** The paths of a page. @throws IntakeError */
export async function pdfPaths(bytes: Uint8Array, part: Part = FIRST): Promise<ArtworkPaths> {
  const unit = (await unitsOf(bytes))(part.page);
  const { area, groups } = await withPdf(bytes, (pdf) => {
    const area = areaOf(pageOf(pdf, pageIn(pdf, part)), part);
    return { area, groups: pathsOn(pdf, part.page, area, unit) };
  });
  const names = groups.flatMap(({ layer }) => (layer === null ? [] : [layer]));
  const known = await knownLayers(names, bytes);
  const told = groups.map((group) => ({
    ...group,
    cutting: group.layer !== null && known.get(group.layer)!.cut,
  }));
  return { widthMm: mmOf(area.width) * unit, heightMm: mmOf(area.height) * unit, groups: groupsOf(told) };
}
