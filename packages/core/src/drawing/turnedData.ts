import svgpath from "svgpath";
import { type FurtherTurn } from "../turn/further";

/** Decimals of a millimetre that path data is written with: a thousandth of a micrometre. */
const DECIMALS = 6;

/** Path data in mm on the piece, as it lies after a further turn of what is seen. @see W3C, SVG 1.1, chapter 8 */
export function turnedPathData(d: string, { atMm, offset }: FurtherTurn): string {
  const [a, b] = offset([1, 0]);
  const [c, e] = offset([0, 1]);
  const [x, y] = atMm([0, 0]);
  return svgpath(d).abs().matrix([a, b, c, e, x, y]).round(DECIMALS).toString();
}
