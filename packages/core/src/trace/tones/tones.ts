import { workSlice, type Work } from "../../maths/work";
import { type Knot } from "../../path/outline";
import { reversedPath, type KnotPath } from "../../path/pathSet";
import { fitClosed, fitSides, type Fitting } from "../../fit/fit";
import { arcsOf, boundariesOf, type Arc } from "./arcs";
import { labelsOf, withoutSpecks } from "./labels";
import { type Parted } from "./values";

export interface TonedShapes {
  /** For each flat value but the ground its closed outlines, in pixels. */
  readonly shapes: readonly (readonly KnotPath[])[];
  readonly specks: number;
  readonly pinholes: number;
}

/**
 * Shapes of every flat value of a picture. What two of them share is one and the same curve in both: they abut exactly.
 *
 * @param edge      width in pixels of the softest edge
 * @param smallest  patches under so many pixels go to what lies around them
 */
export function* tonedShapes(
  parted: Parted,
  fitting: Fitting,
  edge: number,
  smallest: number,
): Work<TonedShapes> {
  const labels = yield* workSlice(labelsOf(parted, edge), 0, 0.3);
  const dropped = yield* workSlice(withoutSpecks(labels, parted.width, parted.height, smallest), 0.3, 0.4);
  const arcs = yield* workSlice(arcsOf(parted, labels), 0.4, 0.6);
  const fitted: KnotPath[] = [];
  for (const [k, arc] of arcs.entries()) {
    const at = (s: number) => 0.6 + (0.4 * (k + s)) / arcs.length;
    fitted.push(yield* workSlice(fitArc(arc, fitting), at(0), at(1)));
  }
  const shapes = parted.centres.slice(1).map((_, k) =>
    boundariesOf(arcs, k + 1).map((ring) => {
      const parts = ring.map(({ arc, reversed }) => (reversed ? reversedPath(fitted[arc]) : fitted[arc]));
      return { closed: true, knots: chained(parts) };
    }),
  );
  return { shapes, ...dropped };
}

function* fitArc({ points, closed }: Arc, fitting: Fitting): Work<KnotPath> {
  if (closed) return { closed, knots: yield* fitClosed(points, fitting) };
  return { closed, knots: yield* fitSides(points, fitting) };
}

/** Open paths that each begin where the one before ends, as one closed path; a closed one as it is. */
function chained(parts: readonly KnotPath[]): Knot[] {
  if (parts.length === 1 && parts[0].closed) return [...parts[0].knots];
  const knots: Knot[] = [];
  for (const [k, part] of parts.entries()) {
    const before = parts[(k + parts.length - 1) % parts.length].knots;
    const back = before[before.length - 1].in;
    const [first, ...rest] = part.knots;
    knots.push({ at: first.at, ...(back ? { in: back } : {}), ...(first.out ? { out: first.out } : {}) });
    knots.push(...rest.slice(0, -1));
  }
  return knots;
}
