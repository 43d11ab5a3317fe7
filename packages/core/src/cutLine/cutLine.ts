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

/**
 * A cut line round an outline: gaps filled, parts chosen and joined, spikes and dents smoothed, moved out or in, a tab
 * joined on. Where nothing moves it, the curves of the outline stay as they are.
 */
export function* cutAround(
  { rings: given, curves }: Base,
  wish: CutWish,
  sketch: Sketch | null = null,
): Work<Cut> {
  const moves = wish.offsetMm !== 0 || wish.smoothMm > 0 || wish.parts.bridgeMm > 0;
  const less = sketch ? simplified(given, sketch.detailMm) : plainer(given);
  const plain = moves ? yield* workSlice(less, 0, 0.05) : given;
  const { gaps: inside, rings: filled } = withoutGaps(plain, wish.gaps);
  const { keep, smallestMm2, bridgeMm } = wish.parts;
  let rings = yield* workSlice(bridged(filled, bridgeMm), 0.05, 0.1);
  rings = keptParts(rings, keep, smallestMm2);
  yield 0.1;
  const { smoothMm, offsetMm } = wish;
  if (smoothMm > 0) rings = yield* workSlice(smoothed(rings, smoothMm), 0.1, 0.3);
  rings = yield* workSlice(offset(rings, offsetMm, wish.join), 0.3, 0.5);
  // Moved out, dents have become tighter by the move; moved in, corners have.
  if (smoothMm > 0 && offsetMm > 0) rings = yield* workSlice(closed(rings, smoothMm), 0.5, 0.6);
  if (smoothMm > 0 && offsetMm < 0) rings = yield* workSlice(opened(rings, smoothMm), 0.5, 0.6);
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
