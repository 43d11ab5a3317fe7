import { boxTurnedOn, pointTurnedOn, type Quarter } from "./turn";

type Pair = readonly [number, number];
type Box = readonly [number, number, number, number];

/**
 * Where what was placed on a picture lies after a further turn of what is seen. Places and boxes are fractions of the
 * picture's sides; offsets and places in mm have the same unit before and after.
 */
export interface FurtherTurn {
  readonly quarter: Quarter;
  /** Width and height change places. */
  readonly across: boolean;
  /** Clockwise becomes counterclockwise. */
  readonly mirrors: boolean;
  readonly at: (place: Pair) => [number, number];
  readonly box: (box: Box) => [number, number, number, number];
  readonly offset: (by: Pair) => [number, number];
  /** A place on the finished piece, in mm from its top left. */
  readonly atMm: (place: Pair) => [number, number];
}

/** @param piece  size of the finished piece before the turn, in mm */
export function furtherTurn(
  quarter: Quarter,
  piece: { readonly widthMm: number; readonly heightMm: number },
): FurtherTurn {
  const across = quarter === "left" || quarter === "right";
  const at = (place: Pair): [number, number] => pointTurnedOn(place, quarter);
  const zero = at([0, 0]);
  const { widthMm: w, heightMm: h } = piece;
  const [toW, toH] = across ? [h, w] : [w, h];
  return {
    quarter,
    across,
    mirrors: !across,
    at,
    box: (box) => boxTurnedOn(box, quarter),
    offset: (by) => {
      const [x, y] = at(by);
      // Adding zero makes of -0 what it is.
      return [x - zero[0] + 0, y - zero[1] + 0];
    },
    atMm: ([x, y]) => {
      const [u, v] = at([x / w, y / h]);
      return [u * toW, v * toH];
    },
  };
}
