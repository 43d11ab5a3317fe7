import { knotsFrom } from "../../drawing/pathData";
import { turnedPathData } from "../../drawing/turnedData";
import { onPiece } from "../../path/frame";
import { type KnotPath } from "../../path/pathSet";
import { furtherTurn, type FurtherTurn } from "../../turn/further";
import { type Placement } from "../../result/finish";
import { type CutLineSettings } from "./settings";

type DrawnPaths = NonNullable<CutLineSettings["drawing"]>;

/** A drawing's own paths on the piece, in mm from its upper left: the drawing lies over the whole artwork. */
export function drawnOn({ d, widthMm, heightMm }: DrawnPaths, place: Placement): KnotPath[] {
  const [x, y] = onPiece([0, 0], place);
  const [right, foot] = onPiece([1, 1], place);
  return knotsFrom(d, `translate(${x} ${y}) scale(${(right - x) / widthMm} ${(foot - y) / heightMm})`);
}

/** The paths of a drawing that is turned by a quarter, or mirrored, with the artwork. */
export function drawingTurned(drawing: DrawnPaths, { quarter }: FurtherTurn): DrawnPaths {
  if (!quarter) return drawing;
  const { d, widthMm, heightMm } = drawing;
  const by = furtherTurn(quarter, drawing);
  const [w, h] = by.across ? [heightMm, widthMm] : [widthMm, heightMm];
  return { d: turnedPathData(d, by), widthMm: w, heightMm: h };
}
