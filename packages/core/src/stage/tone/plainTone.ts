import { coverOf, greyOf } from "../../colour/grey";
import { inStretches, workSlice, type Work } from "../../maths/work";
import { newGray, type Gray } from "../../raster/types";
import { type Picture, type Tone } from "../../result/result";

/** Grey and cover of the colour art, before anything is set. */
export function* plainTone({ colour, finish, frame }: Picture): Work<Tone> {
  const gray = yield* workSlice(greyOf(colour), 0, 0.6);
  const cover = yield* workSlice(coverOf(colour), 0.6, 1);
  return { kind: "tone", finish, frame, gray, cover };
}

/** Grey as it looks on white where the art fades out or ends. */
export function* onWhite({ gray, cover }: Pick<Tone, "gray" | "cover">): Work<Gray> {
  if (!cover) return gray;
  const out = newGray(gray.width, gray.height);
  yield* inStretches(out.data.length, (from, to) => {
    for (let i = from; i < to; i++) out.data[i] = 255 - Math.round(((255 - gray.data[i]) * cover[i]) / 255);
  });
  return out;
}
