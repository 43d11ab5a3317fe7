import {
  PDFArray,
  PDFDocument,
  PDFName,
  PDFString,
  type PDFContext,
  type PDFDict,
  type PDFRef,
} from "pdf-lib";
import { runToEnd, workSlice, type Doing, type Work } from "../maths/work";
import { type PathSet, type PathUse } from "../path/pathSet";
import { type Rect } from "../raster/types";
import { packedBytes } from "./pack";
import { Pieces } from "./pieces";
import { drawnInPieces, pictureOf, points, POINTS_PER_MM, type PackedPicture } from "./pdfImages";

/** A hairline, in mm. */
const LINE_MM = 0.1;

/** Processing steps of what a machine does with paths; what is only printed or filled has none. */
const STEPS: Record<PathUse, string | null> = {
  through: "Cutting",
  kiss: "PartialCutting",
  score: "Creasing",
  fill: null,
  print: null,
};

/** A picture under the paths, and where it lies on the piece, in mm. */
export interface PagePicture extends Rect, PackedPicture {}

/**
 * A one-page PDF of paths, over a picture if there is one. Every set is drawn in a spot colour of its own name and lies on
 * its own layer; layers that a machine follows say by which processing step.
 *
 * @param box    of the page, in mm from the piece's top left
 * @param doing  how long work is done; left out, at once
 * @see ISO 32000-1, 8.6.6.4 Separation, 8.6.7 Overprint control, 8.11 Optional content
 * @see ISO 19593-1, processing steps: group Structural, types Cutting, PartialCutting and Creasing
 */
export async function writePathsPdf(
  sets: readonly PathSet[],
  box: Rect,
  under: PagePicture | null = null,
  doing: Doing = (work) => Promise.resolve(runToEnd(work)),
): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  const { context } = document;
  const page = document.addPage([box.width * POINTS_PER_MM, box.height * POINTS_PER_MM]);
  const [spots, layers]: [Record<string, PDFRef>, Record<string, PDFRef>] = [{}, {}];
  const content: string[] = [];
  if (under) {
    page.node.setXObject(PDFName.of("Art"), pictureOf(context, under));
    const [x, y] = [under.x - box.x, box.y + box.height - under.y - under.height].map(points);
    content.push(`q ${points(under.width)} 0 0 ${points(under.height)} ${x} ${y} cm /Art Do Q`);
  }
  // What a machine follows is not printed: it takes nothing away from the art or from another line that it crosses.
  page.node.setExtGState(PDFName.of("Over"), context.obj({ Type: "ExtGState", OP: true, op: true, OPM: 1 }));
  // Millimetres from the piece's top left, y downwards, as paths have them.
  content.push(`${points(1)} 0 0 ${points(-1)} ${points(-box.x)} ${points(box.y + box.height)} cm`);
  sets.forEach((set, k) => {
    spots[`S${k}`] = context.register(spotColour(context, set));
    layers[`L${k}`] = context.register(layerOf(context, set));
  });
  const resources = page.node.normalizedEntries().Resources as PDFDict;
  resources.set(PDFName.of("ColorSpace"), context.obj(spots));
  resources.set(PDFName.of("Properties"), context.obj(layers));
  const refs = context.obj(Object.values(layers));
  document.catalog.set(PDFName.of("OCProperties"), context.obj({ OCGs: refs, D: { Order: refs, ON: refs } }));
  const packed = await doing(drawing(content.join("\n"), sets));
  page.node.set(PDFName.of("Contents"), context.register(context.stream(packed, { Filter: "FlateDecode" })));
  return document.save({ useObjectStreams: false });
}

/** What is drawn on the page, packed: every set in its ink, on its layer. */
function* drawing(before: string, sets: readonly PathSet[]): Work<Uint8Array> {
  const text = new Pieces();
  text.add(before);
  for (const [k, set] of sets.entries()) {
    const paint = set.use === "fill" ? `/S${k} cs 1 scn` : `/S${k} CS 1 SCN ${LINE_MM} w 1 j`;
    text.add(`\n/OC /L${k} BDC q /Over gs ${paint}\n`);
    for (const part of drawnInPieces(set)) {
      text.add(part);
      yield (0.5 * k) / sets.length;
    }
    text.add(`\n${set.use === "fill" ? "f*" : "S"} Q EMC`);
  }
  return yield* workSlice(packedBytes(text.bytes(), PACKED), 0.5, 1);
}

/** How hard a page's drawing is packed, of 9. */
const PACKED = 6;

/** The set's own ink: on a screen, and on printers that have no such ink, its colour. */
function spotColour(context: PDFContext, { name, colour }: PathSet): PDFArray {
  const channels = [colour >> 16, (colour >> 8) & 255, colour & 255].map(
    (c) => Math.round((c / 255) * 1e4) / 1e4,
  );
  const tint = context.obj({ FunctionType: 2, Domain: [0, 1], C0: [1, 1, 1], C1: channels, N: 1 });
  const space = PDFArray.withContext(context);
  for (const part of [
    PDFName.of("Separation"),
    PDFName.of(name),
    PDFName.of("DeviceRGB"),
    context.register(tint),
  ])
    space.push(part);
  return space;
}

function layerOf(context: PDFContext, { name, use }: PathSet): PDFDict {
  const layer = context.obj({ Type: "OCG" }) as PDFDict;
  layer.set(PDFName.of("Name"), PDFString.of(name.replace(/[\\()]/g, "")));
  const step = STEPS[use];
  if (step)
    layer.set(
      PDFName.of("GTS_Metadata"),
      context.obj({ GTS_ProcStepsGroup: "Structural", GTS_ProcStepsType: step }),
    );
  return layer;
}
