import { dotsPerMm, USUAL_DOTS_PER_INCH } from "../maths/units";
import { WHOLE_FRAME, type Frame } from "../path/frame";
import { rectangleKnots } from "../path/outline";
import { type KnotPath } from "../path/pathSet";

/** The finished size. `widthMm` is exactly `widthPx` dots at `dotsPerInch`. */
export interface Finish {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly dotsPerInch: number;
}

/** How large a result is, and which part of the artwork it shows. */
export interface Placement {
  readonly finish: Finish;
  readonly frame: Frame;
  /** The piece's own outline, in mm, where it is known. */
  readonly outline?: readonly KnotPath[];
}

/** A picture of which nothing was decided yet: every pixel a dot, all of the artwork. */
export function asItIs({ width, height }: { readonly width: number; readonly height: number }): Placement {
  const perMm = dotsPerMm({ dotsPerInch: USUAL_DOTS_PER_INCH });
  const finish = {
    widthMm: width / perMm,
    heightMm: height / perMm,
    widthPx: width,
    heightPx: height,
    dotsPerInch: USUAL_DOTS_PER_INCH,
  };
  return { finish, frame: WHOLE_FRAME };
}

/** The piece's outline in mm: its own shape, or its edge. */
export const outlineOf = ({ outline, finish }: Placement): readonly KnotPath[] =>
  outline ?? [{ knots: rectangleKnots(0, 0, finish.widthMm, finish.heightMm), closed: true }];
