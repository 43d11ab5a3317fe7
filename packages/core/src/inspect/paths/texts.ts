import { type SetText } from "../../edit/operation";
import { type Rect } from "../../raster/types";
import { figure, type Check } from "../check";

/** Words that have letters their font lacks, or no room; none where there are no words. */
export function checkTexts(
  texts: readonly SetText[] = [],
  { widthMm, heightMm }: { readonly widthMm: number; readonly heightMm: number },
): Check[] {
  if (texts.length === 0) return [];
  const lacking = texts.filter((t) => t.missing.length > 0);
  const beyond = texts.filter(({ box }) => box && !isWithin(box, widthMm, heightMm));
  const tight = texts.filter((t) => !t.fits || beyond.includes(t));
  const letters = [...new Set(lacking.flatMap((t) => t.missing))];
  const smallest = Math.min(...texts.map((t) => t.capitalMm));
  const placesOf = (of: readonly SetText[]) =>
    of.flatMap(({ box }) =>
      box ? [{ xMm: box.x, yMm: box.y, widthMm: box.width, heightMm: box.height }] : [],
    );
  return [
    {
      id: "lettersMissing",
      level: letters.length > 0 ? "stop" : "fine",
      value: letters.length,
      unit: "letters",
      text:
        letters.length > 0
          ? `The font has no ${letters.slice(0, 8).join(" ")}`
          : "The fonts have every letter",
      detail:
        letters.length > 0
          ? `In “${shortened(lacking[0].text)}”: its place is left as the font's empty box. Another font may have it.`
          : `${texts.length} ${texts.length === 1 ? "text" : "texts"} set.`,
      places: placesOf(lacking),
    },
    {
      id: "textRoom",
      level: tight.length > 0 ? "look" : "fine",
      value: tight.length,
      unit: "texts",
      text: tight.length > 0 ? "Words have too little room" : "Words have the room that they need",
      detail:
        tight.length > 0
          ? `“${shortened(tight[0].text)}” ${tight[0].fits ? "reaches beyond the piece" : "is longer than its box, circle or path"}.`
          : `The smallest capitals are ${figure(smallest, 2)} mm high.`,
      places: placesOf(tight),
    },
  ];
}

/** What reaches less far beyond the piece is on it, in mm. */
const ON_MM = 0.01;
const isWithin = ({ x, y, width, height }: Rect, widthMm: number, heightMm: number): boolean =>
  x >= -ON_MM && y >= -ON_MM && x + width <= widthMm + ON_MM && y + height <= heightMm + ON_MM;

/** So many letters of a text are told. */
const TOLD = 40;
const shortened = (text: string): string =>
  text.length > TOLD ? `${text.slice(0, TOLD - 1)}…` : text.replace(/\n/g, " / ");
