import { countMarks } from "../raster/bits";
import { type Dots } from "../route/art";
import { figure, type Check } from "./check";

/** Share of the art that is marked, in percent. Nothing at all, or all of it, is a stop. */
export function markedShare({ bits, cover }: Dots): number {
  let art = bits.width * bits.height;
  if (cover) {
    art = 0;
    for (let i = 0; i < cover.length; i++) if (cover[i] !== 0) art++;
  }
  return art === 0 ? 0 : (100 * countMarks(bits)) / art;
}

export function checkMarkedShare(dots: Dots): Check {
  const share = markedShare(dots);
  // A cut-out may well be one solid shape; a whole picture that is all marks is a mistake.
  const wrong = share === 0 || (share === 100 && dots.cover === null);
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
