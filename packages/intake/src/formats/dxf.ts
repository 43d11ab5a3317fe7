import { type Drawing } from "@hardline/core/drawing/drawing";
import { readDxfDrawing } from "@hardline/core/drawing/readDxf";
import { writePathsSvg } from "@hardline/core/format/svg";
import { runToEnd } from "@hardline/core/maths/work";
import { type PathSet } from "@hardline/core/path/pathSet";
import { type ArtworkPaths } from "@hardline/contract";
import { pathsOfDrawing, readAs } from "../paths";
import { type Found } from "../found";
import { lookAtSvg, textOf } from "./svg";

/** A drawing of group codes and values, line by line: a section comes first, after remarks. */
export const isDxf = (text: string): boolean =>
  /^\uFEFF?\s*(?:999\r?\n[^\r\n]*\r?\n\s*)*0\r?\n\s*SECTION\s*\r?\n/.test(text);

/** The shapes of a DXF as paths. @throws IntakeError */
export const dxfPaths = (bytes: Uint8Array): ArtworkPaths => pathsOfDrawing(drawingOf(bytes));

const drawingOf = (bytes: Uint8Array): Drawing =>
  readAs("DXF", () => readDxfDrawing(textOf(bytes) ?? Buffer.from(bytes).toString("latin1")));

/** Closed shapes are drawn filled, as what is cut out of a material; open lines as strokes. */
export async function lookAtDxf(bytes: Uint8Array): Promise<Found> {
  const { sets, widthMm, heightMm } = drawingOf(bytes);
  const drawn = sets.map((set): PathSet => ({ ...set, use: set.closed.includes(1) ? "fill" : "score" }));
  const found = await lookAtSvg(runToEnd(writePathsSvg(drawn, widthMm, heightMm)));
  return { ...found, notes: ["drawn from the shapes of a DXF"] };
}
