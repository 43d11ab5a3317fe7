import { boxOf, type PathSet } from "../path/pathSet";
import { type Finish } from "../result/finish";
import { type Check } from "./check";

/** An outline that fills this share of the piece's width and height runs round its edge. */
const ROUND_THE_EDGE = 0.995;

/** Does an outline run round the whole picture? A machine would follow the edge of the picture itself. */
export function checkFrame(set: PathSet, { widthMm, heightMm }: Finish): Check {
  const { points, starts, closed } = set;
  let found = 0;
  for (let k = 0; k < closed.length; k++) {
    const one = { ...set, points: points.subarray(2 * starts[k], 2 * starts[k + 1]) };
    const box = boxOf(one);
    if (box && box.width >= ROUND_THE_EDGE * widthMm && box.height >= ROUND_THE_EDGE * heightMm) found++;
  }
  return {
    id: "tracedFrame",
    level: found > 0 ? "look" : "fine",
    value: found,
    unit: "outlines",
    text: found > 0 ? "An outline runs round the picture" : "No frame round the picture",
    detail:
      found > 0
        ? "Dark reaches the edge: clear the background, or lower the threshold."
        : "No outline follows the picture's own edge.",
    places: found > 0 ? [{ xMm: 0, yMm: 0, widthMm, heightMm }] : [],
  };
}
