import { rowsAtOnce, type Work } from "../maths/work";
import { countMarks } from "../raster/bits";
import { figure, type Check } from "./check";
import { type Dots } from "./dots";

/** Share of the art that is marked, in percent. */
export function* markedShare({ bits, cover }: Dots): Work<number> {
  let art = bits.width * bits.height;
  if (cover) {
    art = 0;
    const atOnce = 4 * rowsAtOnce(bits.width) * bits.width;
    for (let i = 0; i < cover.length; i++) {
      if (i % atOnce === 0) yield i / cover.length;
      if (cover[i] !== 0) art++;
    }
  }
  return art === 0 ? 0 : (100 * countMarks(bits)) / art;
}

/**
 * Nothing marked at all, or all of it, is a stop.
 * @param share   in percent
 * @param cutOut  whether the art is less than the whole picture: a cut-out may well be one solid shape
 */
export function checkMarkedShare(share: number, cutOut: boolean): Check {
  const wrong = share === 0 || (share === 100 && !cutOut);
  const level = wrong ? "stop" : "fine";
  return {
    id: "markedShare",
    level,
    value: Math.round(share * 100) / 100,
    unit: "%",
    text:
      share === 0
        ? "Nothing is marked"
        : share === 100
          ? "Everything is marked"
          : `${figure(share)} % is marked`,
    detail: wrong ? "Look at the tone and the threshold." : "Of the area of the art.",
    places: [],
  };
}
