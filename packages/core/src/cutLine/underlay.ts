import { workSlice, type Work } from "../maths/work";
import { ringsOf } from "../path/flatten";
import { halveRgba } from "../raster/halve";
import { type Paths } from "../result/result";
import { FLAT_MM } from "./base";
import { printOf, type Print } from "./print";

/**
 * What lies under the art where it goes on as its edge out to the line, for a screen: as printed, of so many pixels at most.
 * Null where nothing is printed to the line.
 */
export function* underlayOf({ sets, finish, cut }: Paths, mostPixels: number): Work<Print | null> {
  const edge = sets.find((s) => s.use === "print");
  if (!edge || !cut || edge.closed.length === 0) return null;
  let { art } = cut;
  while (art.width * art.height > mostPixels) art = halveRgba(art);
  const rings = ringsOf(edge, FLAT_MM);
  const dotsPerInch = finish.dotsPerInch * (art.width / finish.widthPx);
  const less = { ...finish, widthPx: art.width, heightPx: art.height, dotsPerInch };
  const own = { ...art, data: art.data.slice() };
  return yield* workSlice(printOf(own, rings, { kind: "edge" }, less), 0.1, 1);
}
