import { z } from "zod";
import { onPiece } from "../path/frame";
import { type KnotPath } from "../path/pathSet";
import { type Placement } from "../result/finish";
import { furtherTurn, type FurtherTurn } from "../turn/further";
import { knotsFrom } from "./pathData";
import { turnedPathData } from "./turnedData";

/** How large the whole of a drawing is, which lies over the whole artwork as it is turned. */
export const drawingSize = {
  widthMm: z.number().min(0.1).max(100000),
  heightMm: z.number().min(0.1).max(100000),
};

interface Size {
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Paths of a drawing on the piece, in mm from its upper left. */
export function drawnOn(
  d: string,
  { widthMm, heightMm }: Size,
  place: Pick<Placement, "finish" | "frame">,
): KnotPath[] {
  const [x, y] = onPiece([0, 0], place);
  const [right, foot] = onPiece([1, 1], place);
  return knotsFrom(d, `translate(${x} ${y}) scale(${(right - x) / widthMm} ${(foot - y) / heightMm})`);
}

/** A drawing's size, and how its path data becomes, once the artwork is turned by a quarter or mirrored. */
export function drawingTurned(
  size: Size,
  { quarter }: FurtherTurn,
): { readonly size: Size; readonly turned: (d: string) => string } {
  const { widthMm, heightMm } = size;
  if (!quarter) return { size: { widthMm, heightMm }, turned: (d) => d };
  const by = furtherTurn(quarter, size);
  const across = by.across ? { widthMm: heightMm, heightMm: widthMm } : { widthMm, heightMm };
  return { size: across, turned: (d) => turnedPathData(d, by) };
}
