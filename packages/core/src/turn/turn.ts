import { cosPi, sinPi } from "../maths/steady";
import { flatPaper } from "../paper/flat";
import { type Paper } from "../paper/settings";

/** How a picture is brought upright: a paper on it made flat, straightened, turned by quarters, mirrored left to right. */
export interface Turn {
  /** The paper on it that becomes the picture. */
  readonly paper?: Paper;
  /** Clockwise, in degrees; what is gained at the corners is clear. */
  readonly straighten: number;
  /** Clockwise, in degrees. */
  readonly turn: 0 | 90 | 180 | 270;
  readonly mirror: boolean;
}

export const NO_TURN: Turn = { straighten: 0, turn: 0, mirror: false };

export const isTurned = ({ paper, straighten, turn, mirror }: Turn): boolean =>
  paper !== undefined || straighten !== 0 || turn !== 0 || mirror;

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Size of a picture once it is turned: straightened, it has room for all of its corners. */
export function turnedSize(supplied: Size, { paper, straighten, turn }: Turn): Size {
  const { width, height } = paper ? flatPaper(supplied, paper) : supplied;
  const [w, h] = straightenedSize(width, height, straighten);
  return turn === 90 || turn === 270 ? { width: h, height: w } : { width: w, height: h };
}

/** Width and height of a picture that is turned by so many degrees, with room for all of its corners. */
export function straightenedSize(width: number, height: number, degrees: number): [number, number] {
  if (degrees === 0) return [width, height];
  const [c, s] = [Math.abs(cosPi(degrees / 180)), Math.abs(sinPi(degrees / 180))];
  // A hair less, so that a side that comes out whole is not one pixel more.
  return [Math.ceil(width * c + height * s - 1e-6), Math.ceil(width * s + height * c - 1e-6)];
}

export type Quarter = "left" | "right" | "mirrored" | "upside down";

/** The turn after a further one of what is seen. */
export function turnedOn(now: Turn, further: Quarter): Turn {
  const by = (degrees: number): Turn["turn"] => ((now.turn + degrees + 360) % 360) as Turn["turn"];
  switch (further) {
    case "right":
      return { ...now, turn: by(now.mirror ? -90 : 90) };
    case "left":
      return { ...now, turn: by(now.mirror ? 90 : -90) };
    case "mirrored":
      return { ...now, mirror: !now.mirror };
    case "upside down":
      return { ...now, turn: by(180), mirror: !now.mirror };
  }
}

/** Where a point of the picture (fractions of its sides) lies after a further turn of what is seen. */
export function pointTurnedOn([u, v]: readonly [number, number], further: Quarter): [number, number] {
  switch (further) {
    case "right":
      return [1 - v, u];
    case "left":
      return [v, 1 - u];
    case "mirrored":
      return [1 - u, v];
    case "upside down":
      return [u, 1 - v];
  }
}

/** A box (left, top, width, height as fractions) after a further turn of what is seen. */
export function boxTurnedOn(
  [x, y, w, h]: readonly [number, number, number, number],
  further: Quarter,
): [number, number, number, number] {
  const [a, b] = [pointTurnedOn([x, y], further), pointTurnedOn([x + w, y + h], further)];
  const round = (value: number): number => Math.round(value * 1e9) / 1e9;
  const [left, top] = [Math.min(a[0], b[0]), Math.min(a[1], b[1])];
  return [round(left), round(top), round(Math.abs(a[0] - b[0])), round(Math.abs(a[1] - b[1]))];
}
