import { runToEnd as finishWork, type Work } from "../../maths/work";
import { countMarks } from "../../raster/bits";
import { newGray } from "../../raster/types";
import { WHOLE_FRAME } from "../../path/frame";
import { type Finish } from "../../result/finish";
import { curveThrough } from "../../tone/curve";
import { isDotted } from "../../dots/dotSettings";
import { methodOf } from "../../dots/methods";
import { type Shared } from "../../dots/method";
import { wantedOf } from "./wanted";

/** Tones that are tried, from white to black. */
export const RESPONSE_STEPS = 32;
/** Side of the even patch that each is tried on, in dots. */
const PATCH = 96;

const known = new Map<string, number[]>();
const MOST_KNOWN = 64;

/**
 * What comes out of the way to dots for tones over the whole range: shares of black in percent, for inputs of 0, 1/32,
 * 2/32 ... of full black. Made of even patches by the very settings, and, where the process has a curve, as it comes
 * out on the material.
 */
export function* responseOf(settings: Shared, finish: Finish): Work<number[]> {
  const name = JSON.stringify([settings, finish.dotsPerInch]);
  const found = known.get(name);
  if (found) return found;
  const seen = isDotted(settings) ? curveThrough(settings.gain) : (made: number) => made;
  const place = {
    finish: { ...finish, widthPx: PATCH, heightPx: PATCH },
    frame: WHOLE_FRAME,
  };
  const response: number[] = [];
  for (let k = 0; k <= RESPONSE_STEPS; k++) {
    yield k / RESPONSE_STEPS;
    const gray = newGray(PATCH, PATCH);
    gray.data.fill(Math.round(255 * (1 - k / RESPONSE_STEPS)));
    const wanted = finishWork(wantedOf({ kind: "tone", ...place, gray, cover: null }, settings, place));
    const { bits } = finishWork(methodOf(settings).marks(wanted, settings)); // ten thousand dots
    response.push(Math.round(1000 * seen(countMarks(bits) / (PATCH * PATCH))) / 10);
  }
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(name, response);
  return response;
}
