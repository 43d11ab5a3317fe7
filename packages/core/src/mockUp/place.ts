import { cosPi, sinPi } from "../maths/steady";
import { type Rect } from "../raster/types";
import { type Point } from "./surface";
import { type Drawn, type PrintArea, type UsualPlace } from "./thing";

/** A print as a route has it. */
export interface PrintWish {
  /** A usual place by name, or the middle of its upper edge, in mm from an area's origin. */
  readonly at: string | Point;
  /** The area by name, where `at` does not tell it; the thing's first when left out. */
  readonly area?: string;
  /** Degrees, clockwise. */
  readonly turn: number;
  /** Times the piece's own size. */
  readonly scale: number;
}

/** Where things can be put, and where they usually are. */
export type Places = Pick<Drawn, "areas" | "places">;

/** A print where it lies. */
export interface PlacedPrint {
  readonly area: PrintArea;
  /** The usual place it was given by, if it was. */
  readonly name: string | null;
  /** Its middle, in mm from the area's origin. */
  readonly middle: Point;
  readonly turn: number;
  readonly scale: number;
  /** Its own sides, in mm. */
  readonly widthMm: number;
  readonly heightMm: number;
  /** The upright box about it, in mm from the area's origin. */
  readonly box: Rect;
}

/** The upright box of something turned: its width and height. */
export function turnedBox(width: number, height: number, degrees: number): [number, number] {
  const [c, s] = [Math.abs(cosPi(degrees / 180)), Math.abs(sinPi(degrees / 180))];
  return [width * c + height * s, width * s + height * c];
}

/** The usual place of a name; the thing's first where it has none of that name. */
export const usualPlace = ({ places }: Places, name: string): UsualPlace | null =>
  places.find((p) => p.name === name) ?? places[0] ?? null;

/** A print brought to its place. @param art  its own size, in mm */
export function placed(
  print: PrintWish,
  on: Places,
  art: { readonly width: number; readonly height: number },
): PlacedPrint {
  const { turn, scale } = print;
  const usual = typeof print.at === "string" ? usualPlace(on, print.at) : null;
  const name = usual?.area ?? print.area;
  const area = on.areas.find((a) => a.name === name) ?? on.areas[0];
  const [x, y]: Point = usual ? usual.at : typeof print.at === "string" ? [0, 0] : print.at;
  const [widthMm, heightMm] = [art.width * scale, art.height * scale];
  const [width, height] = turnedBox(widthMm, heightMm, turn);
  const box = { x: x - width / 2, y, width, height };
  return {
    area,
    name: usual?.name ?? null,
    middle: [x, y + height / 2],
    turn,
    scale,
    widthMm,
    heightMm,
    box,
  };
}

/** Distances nearer to one another than this, in mm, are the same to a person at a press. */
const SAME_MM = 0.25;

/** How far a print lies from what it is measured by: in mm, below the area's origin, and from its middle line to the right. */
export const distancesOf = ({ box, middle }: PlacedPrint) => ({ below: box.y, right: middle[0] });

/** Where a print sits, as it is said at the press. */
export function placeWords(print: PlacedPrint): string {
  const { below, right } = distancesOf(print);
  const mm = (v: number): string => String(Math.round(10 * v) / 10);
  const down =
    Math.abs(below) < SAME_MM
      ? `at ${print.area.below}`
      : below > 0
        ? `${mm(below)} mm below ${print.area.below}`
        : `${mm(-below)} mm above ${print.area.below}`;
  const across =
    Math.abs(right) < SAME_MM
      ? "centred"
      : `its middle ${mm(Math.abs(right))} mm ${right > 0 ? "right" : "left"} of the middle line`;
  const turned = print.turn !== 0 ? `, turned ${mm(print.turn)}°` : "";
  const size = print.scale !== 1 ? `, at ${mm(100 * print.scale)} % of its size` : "";
  return `${print.area.name}: ${down}, ${across}${turned}${size}`;
}
