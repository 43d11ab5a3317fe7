import { MM_PER_INCH } from "../../maths/units";
import { type Work } from "../../maths/work";
import { WHOLE_FRAME } from "../../path/frame";
import { type Rgba } from "../../raster/types";
import { type Picture } from "../../result/result";
import { clear } from "../clear/clear";
import { clearSettings, type ClearOp } from "../clear/settings";

/**
 * What of a photograph is in front of what is printed, 0..255 for each pixel: what Clear's operations take away of it. Null
 * where there are none.
 */
export function* frontOf(photo: Rgba, ops: readonly ClearOp[], perMm: number): Work<Uint8Array | null> {
  if (ops.length === 0) return null;
  const { width, height } = photo;
  const finish = {
    ...{ widthPx: width, heightPx: height, dotsPerInch: perMm * MM_PER_INCH },
    ...{ widthMm: width / perMm, heightMm: height / perMm },
  };
  const picture: Picture = { kind: "picture", finish, frame: WHOLE_FRAME, colour: photo, cleared: null };
  const nothing = { get: () => undefined, set: () => undefined };
  const context = {
    facts: { sha256: "", width, height, vector: false },
    place: { finish, frame: WHOLE_FRAME },
    keep: nothing,
  };
  const { colour } = yield* clear.run!({ picture }, clearSettings.parse({ ops, fringe: "none" }), context);
  const front = new Uint8Array(width * height);
  for (let i = 0; i < front.length; i++) front[i] = 255 - colour.data[4 * i + 3];
  return front;
}
