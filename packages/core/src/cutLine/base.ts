import { dotsPerMm } from "../maths/units";
import { inStretches, workSlice, type Work } from "../maths/work";
import { ringsInSlices } from "../path/flatten";
import { scaledKnot } from "../path/scaled";
import { knotPathsOf, packed, reversedPath, type KnotPath } from "../path/pathSet";
import { evenOdd, joined } from "../polygon/inSlices";
import { RingsAround } from "../polygon/around";
import { reversedRing, ringArea, type Ring } from "../polygon/rings";
import { newGray, type Rgba } from "../raster/types";
import { type Placement } from "../result/finish";
import { type Paths } from "../result/result";
import { fitClosed } from "../fit/fit";
import { outlineAt, outlinesOf } from "../trace/outlines";
import { largeEnough } from "../trace/shapes";

/** Straight pieces that stand for curves stay this near to them, in mm. */
export const FLAT_MM = 0.002;
/**
 * An alpha of two values runs by steps of a pixel; nearer than this its outline would follow the steps. Half of what an
 * antialiased edge is known to is lost by it, and evens out over a length.
 */
const STEPS = 0.6;
/** An edge that is soft over a pixel or two says where it lies to a fraction of one (`cutLine.test.ts`). */
const SOFT = 0.3;
/** Where so many of an outline's points lie halfway between two pixels, its alpha is of two values. */
const [HALFWAY, MOSTLY] = [0.02, 0.6];
/** Half transparent dust under this many pixels is no art. */
const DUST = 2;
const ANY = { name: "base", use: "through", colour: 0 } as const;

/** What a cut line starts from, and the curves that its rings stand for, where they are known. */
export interface Base {
  readonly rings: readonly Ring[];
  readonly curves: ReadonlyMap<Ring, KnotPath>;
}

/** Outline of what a picture holds, where its alpha passes a threshold, 1..255. */
export function* artBase(colour: Rgba, alpha: number, { finish }: Placement): Work<Base> {
  const perMm = dotsPerMm(finish);
  const clear = newGray(colour.width, colour.height);
  yield* inStretches(clear.data.length, (from, to) => {
    for (let i = from; i < to; i++) clear.data[i] = 255 - colour.data[4 * i + 3];
  });
  // Art has an alpha of the threshold or more; outlines are of what is below a grey.
  const outlines = yield* workSlice(outlinesOf(clear, 256 - alpha), 0.1, 0.4);
  const { kept } = yield* workSlice(largeEnough(outlines, DUST, DUST), 0.4, 0.45);
  const paths: KnotPath[] = [];
  for (const [done, k] of kept.entries()) {
    yield 0.45 + (0.45 * done) / kept.length;
    const points = outlineAt(outlines, k);
    const tolerance = isStepped(points) ? STEPS : SOFT;
    const knots = yield* workSlice(fitClosed(points, { tolerance, corners: 0.5 }), 0.45, 0.9);
    paths.push({ closed: true, knots: knots.map((knot) => scaledKnot(knot, 1 / perMm)) });
  }
  return yield* workSlice(baseOf(paths), 0.9, 1);
}

/** Whether an outline's points lie where alpha is either none or all: halfway between the middles of two pixels. */
function isStepped(points: ArrayLike<number>): boolean {
  let halfway = 0;
  for (let k = 0; k < points.length; k += 2) {
    // One of the two numbers is a pixel's middle, the other tells where between two middles the edge is.
    const [x, y] = [points[k] % 1, points[k + 1] % 1];
    const between = Math.abs(x - 0.5) < 1e-9 ? y : x;
    if (between < HALFWAY || between > 1 - HALFWAY) halfway++;
  }
  return halfway > (MOSTLY * points.length) / 2;
}

/** Outlines of traced shapes: every set that is filled. Several sets become one area. */
export function* tracedBase({ sets }: Paths): Work<Base> {
  const filled = sets.filter((s) => s.use === "fill");
  if (filled.length === 1) return yield* baseOf(knotPathsOf(filled[0]));
  let rings: Ring[] = [];
  for (const [k, set] of filled.entries()) {
    const area = yield* workSlice(
      evenOdd(yield* ringsInSlices(set, FLAT_MM)),
      k / filled.length,
      (k + 0.5) / filled.length,
    );
    rings = yield* workSlice(joined(rings, area), (k + 0.5) / filled.length, (k + 1) / filled.length);
  }
  return { rings, curves: new Map() };
}

/** The piece's own shape. */
export const pieceBase = (outline: readonly KnotPath[]): Work<Base> => baseOf(outline);

/** Closed paths as rings that run as areas do: clockwise round an area, the other way round a hole in it. */
function* baseOf(paths: readonly KnotPath[]): Work<Base> {
  const given = paths.filter((path) => path.closed && path.knots.length > 1);
  const rings = yield* workSlice(ringsInSlices(yield* packed(ANY, given), FLAT_MM), 0, 0.5);
  const around = new RingsAround(rings);
  const curves = new Map<Ring, KnotPath>();
  for (const [k, ring] of rings.entries()) {
    if (k % RINGS_AT_ONCE === 0) yield 0.5 + (0.5 * k) / rings.length;
    const isHole = around.round(ring[0], ring[1]).filter((o) => o !== k).length % 2 === 1;
    if (ringArea(ring) > 0 === isHole) curves.set(reversedRing(ring), reversedPath(given[k]));
    else curves.set(ring, given[k]);
  }
  return { rings: [...curves.keys()], curves };
}

/** Rings between two slices. */
const RINGS_AT_ONCE = 256;
