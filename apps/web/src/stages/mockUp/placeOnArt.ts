import { type Point } from "@hardline/core/mockUp/surface";
import { type Finish } from "@hardline/core/result/finish";
import { type BenchScene } from "../face";
import { onThing, printUnder, unitsOf } from "./onThing";

/** The place of the art that is seen at a dot of the canvas, in shares of its sides; null where no print is. */
export function placeOnArt(scene: BenchScene, canvas: Finish, dot: Point): Point | null {
  const on = onThing(scene);
  const found = on && printUnder(on.prints, unitsOf(on.layout, canvas, dot));
  if (!found) return null;
  const { widthMm, heightMm } = on.prints[found.index];
  return [found.own[0] / widthMm + 0.5, found.own[1] / heightMm + 0.5];
}
