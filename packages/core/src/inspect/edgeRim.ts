import { rowsAtOnce, type Work } from "../maths/work";
import { componentsOf } from "../region/components";
import { labDistance, oklabOf } from "../colour/oklab";
import { type Art } from "../route/art";
import { figure, MOST_PLACES, placeOf, type Check } from "./check";

/** Cover from which a pixel counts as seen, and under which it counts as cleared. */
const SEEN = 26;
/** A rim of at most this share of the edge is not visible at arm's length. */
const FINE_PERCENT = 2;
/** How far in the colour of the art is looked up. */
const INWARDS = 4;

/**
 * The share of edge pixels that still carry the old background's colour: nearer to it than to the art a few
 * pixels further in. Bits of rim that touch are one place.
 */
export function* checkEdge(art: Art): Work<Check> {
  const { colour, cleared } = art;
  const { width, height, data } = colour;
  const backs = (cleared?.background ?? []).map(([r, g, b]) => oklabOf(r, g, b));
  const rim = new Uint8Array(width * height);
  let [edge, carried] = [0, 0];
  const atOnce = rowsAtOnce(width);
  const alpha = (i: number): number => data[i * 4 + 3];
  for (let y = 1; y + 1 < height; y++) {
    if (y % atOnce === 0) yield (0.8 * y) / height;
    for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
      if (alpha(i) < SEEN) continue;
      const [l, r, t, b] = [alpha(i - 1), alpha(i + 1), alpha(i - width), alpha(i + width)];
      if (l >= SEEN && r >= SEEN && t >= SEEN && b >= SEEN) continue;
      edge++;
      if (backs.length > 0 && carries(i, x, y, r - l, b - t)) {
        rim[i] = 1;
        carried++;
      }
    }
  }

  function carries(i: number, x: number, y: number, dx: number, dy: number): boolean {
    const length = Math.sqrt(dx * dx + dy * dy) || 1;
    const inner = colourAt(x, y, dx / length, dy / length, INWARDS);
    if (!inner) return false;
    const own = oklabOf(data[i * 4], data[i * 4 + 1], data[i * 4 + 2]);
    const step = labDistance(own, inner);
    if (step < 4) return false;
    const near = backs.some((back) => {
      const apart = labDistance(back, inner);
      return apart > 8 && labDistance(own, back) < 0.5 * apart;
    });
    if (!near) return false;
    // A rim ends within a pixel or two; what goes on changing further in is the art's own shading.
    const next = colourAt(x, y, dx / length, dy / length, INWARDS / 2);
    return next !== null && labDistance(own, next) > 0.62 * step;
  }

  function colourAt(x: number, y: number, ux: number, uy: number, steps: number) {
    const [u, v] = [Math.round(x + ux * steps), Math.round(y + uy * steps)];
    if (u < 0 || v < 0 || u >= width || v >= height) return null;
    const j = v * width + u;
    return alpha(j) < SEEN || (u === x && v === y)
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
  places.sort((a, b) => b.pixels - a.pixels || a.y - b.y || a.x - b.x);
  const look = percent > FINE_PERCENT;
  return {
    id: "edgeRim",
    level: look ? "look" : "fine",
    value: Math.round(percent * 100) / 100,
    unit: "%",
    text:
      backs.length === 0
        ? "No old background known"
        : look
          ? "A rim of the old background"
          : "Edges carry no old background",
    detail:
      backs.length === 0
        ? "Nothing was picked or lifted."
        : `${figure(percent, 1)} % of ${edge} edge pixels still carry it.${look ? " Choke, or unmix the fringe." : ""}`,
    places: art.finish && look ? places.slice(0, MOST_PLACES).map((p) => placeOf(p, art.finish!)) : [],
  };
}
