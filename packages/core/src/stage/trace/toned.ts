import { workSlice, type Work } from "../../maths/work";
import { pathSetOf, type KnotPath, type PathSet } from "../../path/pathSet";
import { ringsOf } from "../../path/flatten";
import { scaledPath } from "../../path/scaled";
import { common, evenOdd, joined } from "../../polygon/clip";
import { fitRings } from "../../fit/fitRings";
import { offset } from "../../polygon/offset";
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
  const areas = sets.map((set) => evenOdd(ringsOf(set, FLAT_MM)));
  const out: PathSet[] = [];
  for (const [k, set] of sets.entries()) {
    yield k / sets.length;
    const darker = areas.slice(0, k).reduce((all, area) => joined(all, area), []);
    if (k === 0 || areas[k].length === 0) out.push(set);
    else {
      const under = common(offset(areas[k], trapMm), darker);
      // A hair wider, so that they join what they only touch, and nowhere beyond what there is.
      const grown = common(joined(areas[k], offset(under, FLAT_MM)), joined(areas[k], darker));
      out.push(pathSetOf(set, yield* fitRings(grown)));
    }
  }
  return out;
}
