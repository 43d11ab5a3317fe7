import {
  Clipper64,
  ClipperOffset,
  ClipType,
  EndType,
  FillRule,
  PathType,
  type JoinType,
  type Path64,
  type Paths64,
} from "clipper2-ts";
import { sorted } from "../maths/sorted";
import { workSlice, type Work } from "../maths/work";

/*
 * The library works on polygons in one call, which may take seconds and cannot be stopped. What it does within is a sweep
 * from scanline to scanline, and rings moved one after another: the same steps are taken here, with pauses between them.
 * The results are the library's own, bit for bit (`sweep.test.ts`), which is also how a new version of it would be found out.
 */

/** Scanlines between two pauses: a millisecond or two where thousands of edges lie beside each other. */
const SCANLINES = 24;
/** Corners of rings that are moved between two pauses. */
const CORNERS = 4000;
/** Rings that are written between two pauses. */
const RINGS = 256;

/** The parts of the library's sweep, which it keeps to itself. */
interface Sweep {
  fillrule: FillRule;
  cliptype: ClipType;
  succeeded: boolean;
  currentBotY: number;
  readonly horzSegList: unknown[];
  readonly minimaList: { readonly vertex: { readonly pt: { readonly y: number } } }[];
  isSortedMinimaList: boolean;
  readonly outrecList: { pts: unknown }[];
  reset(): void;
  popScanline(): { readonly success: boolean; readonly y: number };
  insertLocalMinimaIntoAEL(y: number): void;
  popHorz(): object | null;
  doHorizontal(edge: object): void;
  convertHorzSegsToJoins(): void;
  doIntersections(y: number): void;
  doTopOfScanbeam(y: number): void;
  processHorzJoins(): void;
  cleanCollinear(ring: object): void;
  clearSolutionOnly(): void;
  reverseSolution: boolean;
}

/** Writes a ring, unless it has come to nothing. */
type BuildPath = (pts: unknown, reverse: boolean, isOpen: boolean, path: Path64) => boolean;
const { buildPath } = Clipper64 as unknown as { readonly buildPath: BuildPath };

/** Two areas put together by a rule. @see Vatti, "A generic solution to polygon clipping", CACM 35(7), 1992 */
export function* clipInSlices(
  type: ClipType,
  subject: Paths64,
  clip: Paths64 | null,
  rule: FillRule,
): Work<Paths64> {
  const clipper = new Clipper64();
  yield* workSlice(added(clipper, subject, PathType.Subject), 0, 0.05);
  if (clip) yield* workSlice(added(clipper, clip, PathType.Clip), 0.05, 0.1);
  return yield* workSlice(executed(clipper as unknown as Sweep, type, rule), 0.1, 1);
}

/** Rings handed to the library, some at a time. */
function* added(clipper: Clipper64, paths: Paths64, type: PathType): Work<void> {
  let [from, corners] = [0, 0];
  for (const [k, path] of paths.entries()) {
    corners += path.length;
    if (corners < CORNERS && k + 1 < paths.length) continue;
    clipper.addPaths(paths.slice(from, k + 1), type);
    [from, corners] = [k + 1, 0];
    yield k / paths.length;
  }
}

function* executed(sweep: Sweep, type: ClipType, rule: FillRule): Work<Paths64> {
  sweep.fillrule = rule;
  sweep.cliptype = type;
  const out: Paths64 = [];
  try {
    yield* workSlice(scanned(sweep), 0, 0.8);
    yield* workSlice(written(sweep, out), 0.8, 1);
  } catch {
    // As the library does: what it could not work out is left out.
  }
  sweep.clearSolutionOnly();
  return out;
}

/** From the lowest scanline to the topmost. */
function* scanned(sweep: Sweep): Work<void> {
  // Sorted beforehand, it need not be sorted in one go; the library keeps the order of those as low too.
  yield* workSlice(
    sorted(sweep.minimaList, (a, b) => b.vertex.pt.y - a.vertex.pt.y),
    0,
    0.1,
  );
  sweep.isSortedMinimaList = true;
  sweep.reset();
  const first = sweep.popScanline();
  if (!first.success) return;
  const horizontals = () => {
    for (let edge = sweep.popHorz(); edge; edge = sweep.popHorz()) sweep.doHorizontal(edge);
  };
  let [y, lines] = [first.y, 0];
  while (sweep.succeeded) {
    // How many there will be nobody knows: edges that cross bring new ones.
    if (lines++ % SCANLINES === 0) yield 0.1 + (0.9 * lines) / (lines + 1e4);
    sweep.insertLocalMinimaIntoAEL(y);
    horizontals();
    if (sweep.horzSegList.length > 0) {
      sweep.convertHorzSegsToJoins();
      sweep.horzSegList.length = 0;
    }
    sweep.currentBotY = y;
    const next = sweep.popScanline();
    if (!next.success) break;
    y = next.y;
    sweep.doIntersections(y);
    sweep.doTopOfScanbeam(y);
    horizontals();
  }
  if (sweep.succeeded) sweep.processHorzJoins();
}

/** Rings that the sweep found; cleaning one may add others at the end of the list. */
function* written(sweep: Sweep, out: Paths64): Work<void> {
  for (let k = 0; k < sweep.outrecList.length; k++) {
    if (k % RINGS === 0) yield k / sweep.outrecList.length;
    const ring = sweep.outrecList[k];
    if (ring.pts === null) continue;
    sweep.cleanCollinear(ring);
    const path: Path64 = [];
    if (buildPath(ring.pts, sweep.reverseSolution, false, path)) out.push(path);
  }
}

/** The parts of the library's way to move rings, which it keeps to itself. */
interface Mover {
  delta: number;
  mitLimSqr: number;
  solution: Paths64;
  readonly groupList: Group[];
  doGroupOffset(group: Group): void;
}
interface Group {
  readonly inPaths: Paths64;
  readonly joinType: JoinType;
  readonly endType: EndType;
  readonly pathsReversed: boolean;
  readonly lowestPathIdx: number;
}

/** How rings are moved, as the library wants it. */
export interface Move {
  readonly by: number;
  readonly join: JoinType;
  readonly mitreLimit: number;
  readonly arc: number;
}

/** Closed rings moved square to themselves. @see Chen & McMains 2005, as `offset.ts` */
export function* offsetInSlices(paths: Paths64, { by, join, mitreLimit, arc }: Move): Work<Paths64> {
  const offset = new ClipperOffset(mitreLimit, arc);
  offset.addPaths(paths, join, EndType.Polygon);
  const mover = offset as unknown as Mover;
  const [group] = mover.groupList as (Group | undefined)[];
  if (!group) return [];
  // Less than half a unit is no move.
  if (Math.abs(by) < 0.5) return [...group.inPaths];
  mover.delta = by;
  mover.mitLimSqr = mitreLimit <= 1 ? 2 : 2 / (mitreLimit * mitreLimit);
  mover.solution = [];
  let corners = 0;
  for (const [k, path] of group.inPaths.entries()) {
    mover.doGroupOffset({ ...group, inPaths: [path] });
    corners += path.length;
    if (corners < CORNERS) continue;
    corners = 0;
    yield (0.3 * k) / group.inPaths.length;
  }
  const clipper = new Clipper64();
  clipper.preserveCollinear = offset.preserveCollinear;
  clipper.reverseSolution = group.pathsReversed;
  yield* workSlice(added(clipper, mover.solution, PathType.Subject), 0.3, 0.35);
  const rule = group.pathsReversed ? FillRule.Negative : FillRule.Positive;
  return yield* workSlice(executed(clipper as unknown as Sweep, ClipType.Union, rule), 0.35, 1);
}
