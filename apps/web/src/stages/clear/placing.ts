import { type Frame } from "@hardline/core/path/frame";
import { type Finish } from "@hardline/core/result/finish";
import { type Placed } from "../../table/geometry";

/** Between the screen, the dots of the finished picture, and fractions of the artwork. */
export function placing(placed: Placed, finish: Pick<Finish, "widthPx" | "heightPx">, frame: Frame) {
  const { widthPx, heightPx } = finish;
  return {
    toDots: (x: number, y: number): [number, number] => [
      ((x - placed.x) / placed.width) * widthPx,
      ((y - placed.y) / placed.height) * heightPx,
    ],
    toArtwork: (x: number, y: number): [number, number] => [
      round(frame.x + ((x - placed.x) / placed.width) * frame.width),
      round(frame.y + ((y - placed.y) / placed.height) * frame.height),
    ],
    toScreen: (u: number, v: number): [number, number] => [
      placed.x + ((u - frame.x) / frame.width) * placed.width,
      placed.y + ((v - frame.y) / frame.height) * placed.height,
    ],
    inside: (x: number, y: number): boolean =>
      x >= placed.x && y >= placed.y && x < placed.x + placed.width && y < placed.y + placed.height,
  };
}

/** A hundred-thousandth of the artwork is finer than any pixel of it, and short to write. */
const round = (v: number): number => Math.round(v * 1e6) / 1e6;
