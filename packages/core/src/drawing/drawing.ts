import { type PathSet } from "../path/pathSet";

/** Shapes that came in a file, in mm, y down from the drawing's own top left. */
export interface Drawing {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly sets: readonly PathSet[];
}

/** A drawing that cannot be read, in words for whoever gave it. */
export class DrawingError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "DrawingError";
  }
}

/** Points that a drawing may have; more is no outline of a piece. */
export const MOST_POINTS = 2e6;
