import { workSlice, type Work } from "../../maths/work";
import { pathSetOf, type KnotPath, type PathSet } from "../../path/pathSet";
import { ringsInSlices } from "../../path/flatten";
import { scaledPath } from "../../path/scaled";
import { fitRings } from "../../fit/fitRings";
import { common, evenOdd, joined, offset } from "../../polygon/inSlices";
import { type Ring } from "../../polygon/rings";
import { tonedShapes } from "../../trace/tones/tones";
import { type Parted } from "../../trace/tones/values";
import { type Scale, type Traced } from "./black";
import { type TraceSettings } from "./settings";

/** Curves of tones that overlap are taken as straight pieces this near to them, in mm. */
const FLAT_MM = 0.002;

/** Every tone as its own set of shapes, darkest first; they abut, or the lighter reaches under the darker by a trap. */
export function* traceTones(
  parted: Parted,
  { corners, smallestMm2, trapMm }: TraceSettings,
  { perMm, tolerance, edge }: Scale,
): Work<Traced> {
  const smallest = smallestMm2 * perMm * perMm;
  const { shapes, ...dropped } = yield* workSlice(
    tonedShapes(parted, { tolerance, corners }, edge, smallest),
    0,
    trapMm > 0 ? 0.7 : 1,
  );
  const sets = shapes.map((paths, k) => {
    const scaled = paths.map((path) => scaledPath(path, 1 / perMm));
    return setOf(scaled, parted, k + 1);
  });
  return { sets: trapMm > 0 ? yield* workSlice(trapped(sets, trapMm), 0.7, 1) : sets, dropped };
}

function setOf(paths: readonly KnotPath[], { centres }: Parted, k: number): PathSet {
  const [r, g = r, b = r] = centres[k].map(Math.round);
  return pathSetOf({ name: `tone-${k}`, use: "fill", colour: (r << 16) | (g << 8) | b }, paths);
}

/** Each tone grown under those before it, which are darker and run over it. */
function* trapped(sets: readonly PathSet[], trapMm: number): Work<PathSet[]> {
  const areas: Ring[][] = [];
  for (const [k, set] of sets.entries())
    areas.push(yield* workSlice(evenOdd(yield* ringsInSlices(set, FLAT_MM)), (0.3 * k) / sets.length, 0.3));
  const out: PathSet[] = [];
  let darker: Ring[] = [];
  for (const [k, set] of sets.entries()) {
    const share = (done: number) => 0.3 + (0.7 * (k + done)) / sets.length;
    const area = areas[k];
    if (k === 0 || area.length === 0) out.push(set);
    else {
      const beyond = yield* workSlice(offset(area, trapMm), share(0), share(0.2));
      const under = yield* workSlice(common(beyond, darker), share(0.2), share(0.3));
      // A hair wider, so that they join what they only touch, and nowhere beyond what there is.
      const wider = yield* workSlice(offset(under, FLAT_MM), share(0.3), share(0.4));
      const reaches = yield* workSlice(joined(area, wider), share(0.4), share(0.5));
      const all = yield* workSlice(joined(area, darker), share(0.5), share(0.6));
      const grown = yield* workSlice(common(reaches, all), share(0.6), share(0.7));
      out.push(pathSetOf(set, yield* workSlice(fitRings(grown), share(0.7), share(0.9))));
    }
    if (k + 1 < sets.length) darker = yield* workSlice(joined(darker, area), share(0.9), share(1));
  }
  return out;
}
