import { workSlice, type Work } from "../maths/work";
import { halveRgba, readyRgba } from "./halve";
import { type Rgba } from "./types";

/** Of at most so many pixels a first look is made: more than that is halved until it is so small. */
const FIRST_LOOK_PIXELS = 8e5;

/** How many times a picture is kept halved beside itself: until a first look can be made of it. */
export function halvesKept(width: number, height: number): number {
  let times = 0;
  while ((width >> times) * (height >> times) > FIRST_LOOK_PIXELS) times++;
  return times;
}

/** The picture halved once, twice ... as often as it is kept: the very halves that a look at the whole is made from. */
export function* keptHalves(picture: Rgba): Work<Rgba[]> {
  const times = halvesKept(picture.width, picture.height);
  yield* workSlice(readyRgba(picture, 1 << times), 0, 1);
  const halves: Rgba[] = [];
  for (let k = 0, at = picture; k < times; k++) halves.push((at = halveRgba(at)));
  return halves;
}
