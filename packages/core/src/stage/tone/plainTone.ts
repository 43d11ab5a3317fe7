import { coverOf, greyOf } from "../../colour/grey";
import { portion, type Work } from "../../maths/work";
import { type Picture, type Tone } from "../../result/result";

/** Grey and cover of the colour art, before anything is set. */
export function* plainTone({ colour, finish, frame }: Picture): Work<Tone> {
  const gray = yield* portion(greyOf(colour), 0, 0.6);
  const cover = yield* portion(coverOf(colour), 0.6, 1);
  return { kind: "tone", finish, frame, gray, cover };
}
