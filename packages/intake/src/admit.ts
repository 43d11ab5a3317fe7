import { MOST_ARTWORK_PIXELS, MOST_ARTWORK_SIDE } from "@hardline/contract";
import { IntakeError } from "./errors";

export const million = (n: number): string => (n / 1e6).toFixed(1).replace(/\.0$/, "");

/** @throws IntakeError for a picture larger than is taken, with its size and what is allowed */
export function admitSize(width: number, height: number): void {
  if (Math.max(width, height) > MOST_ARTWORK_SIDE) {
    throw new IntakeError(
      `The picture has ${width} x ${height} pixels; ${MOST_ARTWORK_SIDE} or less a side is taken.`,
    );
  }
  if (width * height > MOST_ARTWORK_PIXELS) {
    throw new IntakeError(
      `The picture has ${width} x ${height} = ${million(width * height)} million pixels; ${million(MOST_ARTWORK_PIXELS)} million or less is taken.`,
    );
  }
}
