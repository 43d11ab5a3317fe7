import { inStretches, workSlice, type Work } from "../maths/work";
import { type Cover, type Gray } from "../raster/types";

/** Greys, 0..255: at `bare` and above nothing is printed, at `full` and below all is. */
export interface BlackLevels {
  readonly bare: number;
  readonly full: number;
}

// Thresholds: what they decide is measured by `npm run films`.

/** Where the ground's greys have fallen to this share of its most frequent one, the ground ends. */
const GROUND_ENDS = 0.01;
/** So many greys are left between the ground's darkest and what prints. */
const CLEAR = 2;
/** Share of the art that may be darker than full: single specks are not the darkest point. */
const SPECKS = 0.0005;
/** Between the two there is at least so much. */
const LEAST_SPAN = 16;

/**
 * Levels at which a picture's ground prints nothing at all and its darkest point is full: the ground is the most frequent
 * grey of the lighter half and what lies about it.
 */
export function* findBlackLevels({ data }: Gray, cover: Cover): Work<BlackLevels> {
  const counts = new Float64Array(256);
  yield* inStretches(data.length, (from, to) => {
    if (cover) for (let i = from; i < to; i++) counts[data[i]] += cover[i] > 128 ? 1 : 0;
    else for (let i = from; i < to; i++) counts[data[i]]++;
  });
  const all = counts.reduce((a, b) => a + b, 0);
  let full = 0;
  for (let sum = counts[0]; sum < SPECKS * all && full < 254; sum += counts[full]) full++;
  let ground = 255;
  for (let g = 128; g < 256; g++) if (counts[g] >= counts[ground]) ground = g;
  let bare = ground;
  while (bare > full + LEAST_SPAN && counts[bare] > GROUND_ENDS * counts[ground]) bare--;
  return { bare: Math.max(full + LEAST_SPAN, Math.min(255, bare - CLEAR)), full };
}

/** The plane of the one ink: grey between the levels stretched over all of it, faded where the art is not whole. */
export function* separateBlack({ data }: Gray, cover: Cover, { bare, full }: BlackLevels): Work<Uint8Array> {
  const table = Uint8Array.from({ length: 256 }, (_, g) =>
    Math.round(255 * Math.min(1, Math.max(0, (g - full) / Math.max(1, bare - full)))),
  );
  const out = new Uint8Array(data.length);
  yield* workSlice(
    inStretches(data.length, (from, to) => {
      if (cover)
        for (let i = from; i < to; i++) out[i] = 255 - Math.round(((255 - table[data[i]]) * cover[i]) / 255);
      else for (let i = from; i < to; i++) out[i] = table[data[i]];
    }),
    0,
    1,
  );
  return out;
}
