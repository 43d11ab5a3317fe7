import svgpath from "svgpath";
import { turnedSize, type Turn } from "../turn/turn";
import { placeAfter } from "../turn/turnedPlace";

/** A drawing's paths over the whole of an artwork, in mm from its upper left. */
export interface OverArtwork {
  readonly d: string;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Pixels that stand for a drawing's longer side while it is told how large it is once it is turned. */
const FINE = 100_000;
const DECIMALS = 6;

/**
 * A drawing's paths over the artwork as it is turned. Shapes are never made flat, so every turn of theirs is a matrix.
 * @param d  as the artwork was supplied
 */
export function turnedOver({ d, widthMm, heightMm }: OverArtwork, turn: Turn): OverArtwork {
  const fine = FINE / Math.max(widthMm, heightMm);
  const supplied = { width: Math.round(widthMm * fine), height: Math.round(heightMm * fine) };
  const after = placeAfter(supplied, turn);
  const size = turnedSize(supplied, turn);
  const whole = { widthMm: size.width / fine, heightMm: size.height / fine };
  const at = (u: number, v: number): [number, number] => {
    const [x, y] = after([u, v]);
    return [x * whole.widthMm, y * whole.heightMm];
  };
  const [[x0, y0], [x1, y1], [x2, y2]] = [at(0, 0), at(1, 0), at(0, 1)];
  const matrix = [
    (x1 - x0) / widthMm,
    (y1 - y0) / widthMm,
    (x2 - x0) / heightMm,
    (y2 - y0) / heightMm,
    x0,
    y0,
  ];
  return { ...whole, d: svgpath(d).abs().matrix(matrix).round(DECIMALS).toString() };
}
