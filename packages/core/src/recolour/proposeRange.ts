import { labOfLight } from "../colour/oklab";
import { LINEAR_OF_CODE } from "../colour/srgb";
import { type Rgba } from "../raster/types";
import { colourChange, type ColourChange } from "./change";
import { offRange } from "./range";

/** Pixels that are looked at. */
const SAMPLE = 60_000;
/** Distances are counted in steps of this, up to so far. */
const [STEP, FAR] = [0.5, 30];
/** A range is at least so wide, and begins to end no later than here. */
const [LEAST, MOST] = [3, 16];
/** Of all pixels, this share in one step of distance is next to none. */
const NONE = 0.0008;

/**
 * How far the range of a colour goes in a picture: to where the colours that belong to it end and no others begin yet.
 * Between the two its softness lies.
 */
export function proposeRange(picture: Rgba, from: string): Pick<ColourChange, "tolerance" | "softness"> {
  const off = offRange(from);
  const counts = new Float64Array(Math.ceil(FAR / STEP));
  const { data } = picture;
  const every = Math.max(1, Math.floor(data.length / 4 / SAMPLE));
  let all = 0;
  for (let o = 0; o < data.length; o += 4 * every) {
    if (data[o + 3] < 128) continue;
    all++;
    const lab = labOfLight(LINEAR_OF_CODE[data[o]], LINEAR_OF_CODE[data[o + 1]], LINEAR_OF_CODE[data[o + 2]]);
    const at = Math.floor(off(lab) / STEP);
    if (at < counts.length) counts[at]++;
  }
  const { tolerance, softness } = colourChange.shape;
  const usual = { tolerance: tolerance.parse(undefined), softness: softness.parse(undefined) };
  if (all === 0) return usual;
  const few = Math.max(2, NONE * all);
  // The first stretch with next to nothing in it, and how long it is.
  for (let k = Math.round(LEAST / STEP); k * STEP <= MOST; k++) {
    if (counts[k] > few) continue;
    let end = k;
    while (end < counts.length && counts[end] <= few) end++;
    if (end - k < 2 && end < counts.length) continue;
    const gap = Math.min((end - k) * STEP, 12);
    return { tolerance: k * STEP + 0.25 * gap, softness: 0.5 * gap };
  }
  // Nowhere is there nothing: where there is least.
  let best = Math.round(LEAST / STEP);
  for (let k = best; k * STEP <= MOST; k++) if (counts[k] < counts[best]) best = k;
  return { tolerance: best * STEP, softness: STEP };
}
