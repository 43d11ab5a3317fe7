import { rowsAtOnce, type Work } from "../maths/work";
import { TINT } from "../raster/types";
import { componentsOf } from "../region/components";
import { labDistance, oklabOf, type Lab } from "../colour/oklab";
import { type Picture } from "../result/result";
import { figure, firstOf, MOST_PLACES, placeOf, type Check } from "./check";

/** A rim of at most this share of the edge is not visible at arm's length. */
const FINE_PERCENT = 2.5;
/** A rim within so many pixels may be mixed of both; a wider one is known only by the very colour of the background. */
const NARROW = 4;
const WIDE = 8;
const STEP = 2;
/** OKLab distances: colours that differ, and colours that are the same but for grain. */
const UNLIKE = 4;
const SAME = 5;
/** The share of the whole difference that lies within two pixels where a rim ends. */
const SUDDEN = 0.62;
/** A line's colour is looked for so far along it; what stands out less than this share of it is pale. */
const ALONG = 3;
const PALE_LINE = 0.8;
/** How far out the colour of what was taken away is looked up. */
const OUTWARDS = 5;

/**
 * The share of edge pixels that still carry the old background's colour: nearer to it than to the art a few
 * pixels further in. The old background is what was picked or lifted, and whatever colour lies under the bare
 * pixels beside the edge. Bits of rim that touch are one place.
 *
 * @param known  whether anything was taken away; under the bare pixels of other artwork any colour may lie
 */
export function* checkEdge(art: Picture, known: boolean): Work<Check> {
  const { colour, cleared } = art;
  const { width, height, data } = colour;
  const through = cleared?.through ?? [];
  const backs = (cleared?.background ?? []).map(([r, g, b]) => oklabOf(r, g, b));
  const rim = new Uint8Array(width * height);
  let [edge, carried] = [0, 0];
  const atOnce = rowsAtOnce(64 * width);
  const alpha = (i: number): number => data[i * 4 + 3];
  for (let y = 1; y + 1 < height; y++) {
    if (y % atOnce === 0) yield (0.8 * y) / height;
    for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
      if (alpha(i) < TINT) continue;
      const [l, r, t, b] = [alpha(i - 1), alpha(i + 1), alpha(i - width), alpha(i + width)];
      if (l >= TINT && r >= TINT && t >= TINT && b >= TINT) continue;
      // What was freed of the ground by hand has no edge, only an end.
      if (through.some((p) => p[i] || p[i - 1] || p[i + 1] || p[i - width] || p[i + width])) continue;
      edge++;
      if (known && carries(i, x, y, r - l, b - t)) {
        rim[i] = 1;
        carried++;
      }
    }
  }

  function carries(i: number, x: number, y: number, dx: number, dy: number): boolean {
    const length = Math.sqrt(dx * dx + dy * dy) || 1;
    const [ux, uy] = [dx / length, dy / length];
    const outer = bareAt(Math.round(x - ux * OUTWARDS), Math.round(y - uy * OUTWARDS));
    const old = outer ? [outer, ...backs] : backs;
    const own = oklabOf(data[i * 4], data[i * 4 + 1], data[i * 4 + 2]);
    let [last, jump, first] = [own, 0, 0];
    for (let steps = STEP; steps <= WIDE; steps += STEP) {
      const next = colourAt(x, y, ux, uy, steps);
      if (!next) return steps <= NARROW && isPaleLine(x, y, own, old);
      jump = Math.max(jump, labDistance(last, next));
      last = next;
      if (steps === STEP) first = jump;
      if (steps !== NARROW && steps !== WIDE) continue;
      const rise = labDistance(own, next);
      if (rise < UNLIKE) continue;
      // A rim ends within a pixel or two; what goes on changing further in is the art's own shading.
      const [ends, endsAtOnce] = [jump > SUDDEN * rise, steps === NARROW && first > SUDDEN * rise];
      const near = old.some((back) => {
        const [apart, off] = [labDistance(back, next), labDistance(own, back)];
        return apart > 2 * UNLIKE && ((endsAtOnce && off < 0.5 * apart) || (ends && off < SAME));
      });
      if (near) return true;
    }
    return false;
  }

  /** A line without an inside is as pale as it is beside where it stands out most, along it. */
  function isPaleLine(x: number, y: number, own: Lab, old: readonly Lab[]): boolean {
    return old.some((back) => {
      let most = 0;
      for (let v = Math.max(0, y - ALONG); v <= Math.min(height - 1, y + ALONG); v++)
        for (let u = Math.max(0, x - ALONG); u <= Math.min(width - 1, x + ALONG); u++) {
          const j = v * width + u;
          if (alpha(j) < TINT) continue;
          const stands = labDistance(back, oklabOf(data[j * 4], data[j * 4 + 1], data[j * 4 + 2]));
          if (stands > most) most = stands;
        }
      return most > 2 * UNLIKE && labDistance(back, own) < PALE_LINE * most;
    });
  }

  /** What was taken away at a place; null where nothing was. */
  function bareAt(u: number, v: number) {
    const j = v * width + u;
    return u < 0 || v < 0 || u >= width || v >= height || alpha(j) > 0
      ? null
      : oklabOf(data[j * 4], data[j * 4 + 1], data[j * 4 + 2]);
  }

  function colourAt(x: number, y: number, ux: number, uy: number, steps: number) {
    const [u, v] = [Math.round(x + ux * steps), Math.round(y + uy * steps)];
    if (u < 0 || v < 0 || u >= width || v >= height) return null;
    const j = v * width + u;
    return alpha(j) < TINT || (u === x && v === y)
      ? null
      : oklabOf(data[j * 4], data[j * 4 + 1], data[j * 4 + 2]);
  }

  const percent = edge === 0 ? 0 : (100 * carried) / edge;
  const places = yield* componentsOf(
    width,
    height,
    (y, row) => row.set(rim.subarray(y * width, (y + 1) * width)),
    2,
  );
  const worst = firstOf(places, MOST_PLACES, (a, b) => b.pixels - a.pixels || a.y - b.y || a.x - b.x);
  const look = percent > FINE_PERCENT;
  return {
    id: "edgeRim",
    level: look ? "look" : "fine",
    value: Math.round(percent * 100) / 100,
    unit: "%",
    text: !known
      ? "No old background known"
      : look
        ? "A rim of the old background"
        : "Edges carry no old background",
    detail: !known
      ? "Nothing was taken away."
      : `${figure(percent, 1)} % of ${edge} edge pixels still carry it.${look ? " Choke, or unmix the fringe." : ""}`,
    places: look ? worst.map((p) => placeOf(p, art.finish)) : [],
  };
}
