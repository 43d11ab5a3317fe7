import { turnedPathData } from "../../drawing/turnedData";
import { type FurtherTurn } from "../../turn/further";
import { turnedOn } from "../../turn/turn";
import { type PieceShape, type SizeSettings } from "./settings";

/** Size's settings for an artwork that is turned further: the side that is given stays that side of the picture. */
export function sizeTurnedOn(settings: SizeSettings, by: FurtherTurn): SizeSettings {
  const { widthMm, heightMm, shape, straighten, turn, mirror, ...rest } = settings;
  const sides = by.across ? { widthMm: heightMm, heightMm: widthMm } : { widthMm, heightMm };
  return {
    ...rest,
    ...Object.fromEntries(Object.entries(sides).filter(([, side]) => side !== undefined)),
    ...(by.quarter ? turnedOn({ straighten, turn, mirror }, by.quarter) : { straighten, turn, mirror }),
    shape: shapeTurnedOn(shape, by),
  };
}

function shapeTurnedOn(shape: PieceShape, by: FurtherTurn): PieceShape {
  if (shape.kind === "whole") return shape;
  const turned = { ...shape, box: by.box(shape.box) };
  // A die's outline is what it is, whatever lies under it.
  return turned.kind === "path" && by.quarter ? { ...turned, d: turnedPathData(turned.d, by) } : turned;
}
