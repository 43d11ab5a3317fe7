import { boxTurnedOn, pointTurnedOn, type Quarter, type Turn } from "./turn";
import { placeAfter, placeBefore } from "./turnedPlace";

type Pair = readonly [number, number];
type Box = readonly [number, number, number, number];

/**
 * Where what was placed on a picture lies after a further turn of what is seen. Places and boxes are fractions of the
 * picture's sides; offsets and places in mm have the same unit before and after.
 */
export interface FurtherTurn {
  /** Null where it is turned in another way: a paper on it made flat, or no more. */
  readonly quarter: Quarter | null;
  /** Width and height change places. */
  readonly across: boolean;
  /** Clockwise becomes counterclockwise. */
  readonly mirrors: boolean;
  readonly at: (place: Pair) => [number, number];
  readonly box: (box: Box) => [number, number, number, number];
  /** One in fractions names the place that it begins at. */
  readonly offset: (by: Pair, from?: Pair) => [number, number];
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

/**
 * What was placed on an artwork that was turned in one way and now is in another: it stays on what it was placed on, as far
 * as that is still in the picture.
 *
 * @param supplied    size of the artwork as it was supplied, in pixels
 * @param piece, then size of the finished piece before and after, in mm
 */
export function turnedOtherwise(
  supplied: { readonly width: number; readonly height: number },
  before: Turn,
  after: Turn,
  piece: PieceSize,
  then: PieceSize,
): FurtherTurn {
  const [back, on] = [placeBefore(supplied, before), placeAfter(supplied, after)];
  const within = (v: number): number => Math.min(1, Math.max(0, Math.round(v * 1e9) / 1e9));
  const moved = (place: Pair): [number, number] => on(back(place));
  const at = (place: Pair): [number, number] => {
    const [u, v] = moved(place);
    return [within(u), within(v)];
  };
  return {
    ...{ quarter: null, across: false, mirrors: false, at },
    box([x, y, w, h]) {
      const corners = [at([x, y]), at([x + w, y]), at([x + w, y + h]), at([x, y + h])];
      const side = (k: 0 | 1): [number, number] => {
        const places = corners.map((c) => c[k]);
        const [low, high] = [Math.min(...places), Math.max(...places)];
        return high - low < LEAST_BOX ? [Math.min(low, 1 - LEAST_BOX), LEAST_BOX] : [low, high - low];
      };
      const [[left, width], [top, height]] = [side(0), side(1)];
      return [left, top, width, height];
    },
    offset([dx, dy], from) {
      if (!from) return [dx, dy];
      const [a, b] = [moved(from), moved([from[0] + dx, from[1] + dy])];
      return [b[0] - a[0], b[1] - a[1]];
    },
    atMm([x, y]) {
      const [u, v] = moved([x / piece.widthMm, y / piece.heightMm]);
      return [u * then.widthMm, v * then.heightMm];
    },
  };
}

/** The smallest share of a side that a box may have. */
const LEAST_BOX = 0.01;

interface PieceSize {
  readonly widthMm: number;
  readonly heightMm: number;
}
