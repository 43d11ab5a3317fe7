import { workSlice, type Work } from "../maths/work";
import { type KnotPath } from "../path/pathSet";
import { fitRings } from "../fit/fitRings";
import { closed, offset, opened, simplified } from "../polygon/inSlices";
import { type Join } from "../polygon/offset";
import { bridged, keptParts, smoothed } from "../polygon/parts";
import { type Ring } from "../polygon/rings";
import { type Point } from "../fit/line";
import { type Base } from "./base";
import { withoutGaps, type CutGap, type GapWish } from "./gaps";
import { cutOrder, runWay, type Way } from "./order";
import { withTab, type TabWish } from "./tab";

/** How a cut line is made of an outline. Lengths in mm, areas in mm2. */
export interface CutWish {
  readonly gaps: GapWish;
  readonly parts: {
    readonly keep: "all" | "largest";
    readonly smallestMm2: number;
    readonly bridgeMm: number;
  };
  readonly smoothMm: number;
  readonly offsetMm: number;
  readonly join: Join;
  readonly tab: TabWish | null;
  readonly way: Way;
}

export interface Cut {
  readonly rings: readonly Ring[];
  /** Curves of the rings, in the order in which they are run. */
  readonly paths: readonly KnotPath[];
  readonly gaps: readonly CutGap[];
  /** Middle of the hole of the tab. */
  readonly tabAt: Point | null;
}

/** A ring as it is, without curves. */
export const straight = (ring: Ring): KnotPath => ({
  closed: true,
  knots: Array.from({ length: ring.length / 2 }, (_, k) => ({ at: [ring[2 * k], ring[2 * k + 1]] as const })),
});

/** Of outlines with so many corners, detail under so many mm is left out before they are moved; of more, more. */
const PLAINER = [
  [6000, 0.006],
  [12000, 0.02],
  [24000, 0.05],
] as const;

function* plainer(rings: readonly Ring[]): Work<readonly Ring[]> {
  let now = rings;
  for (const [many, detailMm] of PLAINER) {
    const corners = now.reduce((sum, ring) => sum + ring.length / 2, 0);
    if (corners > many) now = yield* simplified(rings, detailMm);
  }
  return now;
}

/** For a first look: detail smaller than this is left out, and lines are of straight pieces. */
export interface Sketch {
  readonly detailMm: number;
}

/** The area that a border goes round, with the gaps that were found in it. */
export interface Inner {
  readonly rings: readonly Ring[];
  readonly gaps: readonly CutGap[];
}

/** Room for that area, which stays while the border alone is changed. */
export interface KeptInner {
  readonly get: (name: string) => Inner | undefined;
  readonly set: (name: string, inner: Inner) => void;
}

/**
 * A cut line round an outline: gaps filled, parts chosen and joined, spikes and dents smoothed, moved out or in, a tab
 * joined on. Where nothing moves it, the curves of the outline stay as they are.
 */
export function* cutAround(
  base: Base,
  wish: CutWish,
  sketch: Sketch | null = null,
  kept?: KeptInner,
): Work<Cut> {
  const { curves } = base;
  const { smoothMm, offsetMm, gaps: about, parts } = wish;
  const moves = offsetMm !== 0 || smoothMm > 0 || parts.bridgeMm > 0;
  const name = JSON.stringify([moves, smoothMm, about, parts, sketch]);
  let inner = kept?.get(name);
  if (!inner) {
    inner = yield* workSlice(innerOf(base.rings, wish, moves, sketch), 0, 0.3);
    kept?.set(name, inner);
  }
  const inside = inner.gaps;
  const arcMm = sketch?.detailMm;
  let { rings } = inner;
  rings = yield* workSlice(offset(rings, offsetMm, wish.join, arcMm), 0.3, 0.5);
  // Moved out, dents have become tighter by the move; moved in, corners have.
  if (smoothMm > 0 && offsetMm > 0) rings = yield* workSlice(closed(rings, smoothMm, arcMm), 0.5, 0.6);
  if (smoothMm > 0 && offsetMm < 0) rings = yield* workSlice(opened(rings, smoothMm, arcMm), 0.5, 0.6);
  // Where a border meets itself it closes in what lay outside.
  const after = withoutGaps(rings, wish.gaps, inside);
  rings = after.rings;
  const gaps = [...inside, ...after.gaps].sort((a, b) => b.areaMm2 - a.areaMm2);
  const tab = wish.tab && (yield* workSlice(withTab(rings, wish.tab), 0.6, 0.65));
  if (tab) rings = tab.rings;
  const ordered = yield* workSlice(cutOrder(rings), 0.65, 0.7);
  const paths: KnotPath[] = [];
  for (const [done, ring] of ordered.entries()) {
    const at = (k: number) => 0.7 + (0.3 * k) / ordered.length;
    const known = curves.get(ring);
    if (known) paths.push(known);
    else if (sketch) paths.push(straight(ring));
    else paths.push(...(yield* workSlice(fitRings([ring]), at(done), at(done + 1))));
  }
  return { rings: ordered, paths: runWay(paths, wish.way), gaps, tabAt: tab?.middle ?? null };
}

/** Gaps filled, parts chosen and joined, spikes and dents smoothed. */
function* innerOf(
  given: readonly Ring[],
  { gaps: about, parts: { keep, smallestMm2, bridgeMm }, smoothMm }: CutWish,
  moves: boolean,
  sketch: Sketch | null,
): Work<Inner> {
  const arcMm = sketch?.detailMm;
  const less = sketch ? simplified(given, sketch.detailMm) : plainer(given);
  const plain = moves ? yield* workSlice(less, 0, 0.15) : given;
  const { gaps, rings: filled } = withoutGaps(plain, about);
  const bridges = yield* workSlice(bridged(filled, bridgeMm, arcMm), 0.15, 0.3);
  const rings = keptParts(bridges, keep, smallestMm2);
  if (smoothMm === 0) return { rings, gaps };
  return { rings: yield* workSlice(smoothed(rings, smoothMm, arcMm), 0.3, 1), gaps };
}
