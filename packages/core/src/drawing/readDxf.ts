import DxfParser, {
  type IArcEntity,
  type ICircleEntity,
  type IEllipseEntity,
  type IEntity,
  type ILineEntity,
  type ILwpolylineEntity,
  type IPolylineEntity,
  type ISplineEntity,
} from "dxf-parser";
import { MM_PER_INCH } from "../maths/units";
import { type Knot } from "../path/outline";
import { boxOf, pathSetOf, type KnotPath } from "../path/pathSet";
import { scaledPath } from "../path/scaled";
import { arcKnots } from "./arcs";
import { DrawingError, MOST_POINTS, type Drawing } from "./drawing";
import { joinedUp } from "./joinedUp";

/** Millimetres of each unit by its number; without one, drawings for machines are in millimetres. */
const UNITS: Record<number, number> = { 0: 1, 1: MM_PER_INCH, 2: 12 * MM_PER_INCH, 4: 1, 5: 10, 6: 1000 };
/** Places looked at on each stretch of a spline. */
const SPLINE_PARTS = 24;

/**
 * Shapes of a DXF drawing as paths in millimetres, a set a layer: lines, polylines with their bulges, circles, arcs,
 * ellipses and splines. Lines and arcs that end where another begins are one path, closed when it comes back.
 *
 * @throws DrawingError where it is none, has no shapes, or too many
 * @see Autodesk, "DXF Reference", section ENTITIES
 */
export function readDxfDrawing(text: string): Drawing {
  let drawing: ReturnType<DxfParser["parseSync"]>;
  try {
    drawing = new DxfParser().parseSync(recordsIn(text));
  } catch (error) {
    throw new DrawingError(`The file is no DXF drawing: ${(error as Error).message}`);
  }
  const given = drawing?.header?.$INSUNITS;
  const unit = UNITS[typeof given === "number" ? given : 0];
  if (unit === undefined)
    throw new DrawingError(`The drawing is in a unit that is not known, number ${given}.`);
  const layers = new Map<string, KnotPath[]>();
  let points = 0;
  for (const entity of drawing?.entities ?? []) {
    const path = pathOf(entity);
    if (!path || path.knots.length < 2) continue;
    points += path.knots.length;
    if (points > MOST_POINTS) throw new DrawingError(`The drawing has over ${MOST_POINTS} points.`);
    layers.set(entity.layer, [...(layers.get(entity.layer) ?? []), path]);
  }
  const look = { use: "through", colour: 0 } as const;
  const sets = [...layers].map(([name, paths]) =>
    pathSetOf(
      { name, ...look },
      joinedUp(paths).map((p) => scaledPath(p, unit)),
    ),
  );
  const boxes = sets.map(boxOf).filter((box) => box !== null);
  if (boxes.length === 0) throw new DrawingError("The drawing has no lines or curves.");
  // A drawing with its limits said lies within them; another begins at its own shapes. Either way y goes up.
  const [low, high] = [drawing?.header?.$EXTMIN, drawing?.header?.$EXTMAX] as { x: number; y: number }[];
  const said = low && high && high.x > low.x && high.y > low.y;
  const left = said ? low.x * unit : Math.min(...boxes.map((b) => b.x));
  const right = said ? high.x * unit : Math.max(...boxes.map((b) => b.x + b.width));
  const top = said ? -high.y * unit : Math.min(...boxes.map((b) => b.y));
  const bottom = said ? -low.y * unit : Math.max(...boxes.map((b) => b.y + b.height));
  return {
    widthMm: right - left,
    heightMm: bottom - top,
    sets: sets.map((set) => ({
      ...set,
      points: set.points.map((v, k) => v - (k % 2 === 0 ? left : top)),
    })),
  };
}

/** A DXF is pairs of lines, a whole number before each value. @throws Error where the first is none */
function recordsIn(text: string): string {
  const [code, value] = text
    .replace(/^\uFEFF/, "")
    .trimStart()
    .split(/\r?\n/, 2);
  if (!/^\s*\d+\s*$/.test(code) || value === undefined)
    throw new Error("it does not begin with a group code");
  return text.replace(/^\uFEFF/, "");
}

/** One entity as a path, y turned down. */
function pathOf(entity: IEntity): KnotPath | null {
  switch (entity.type) {
    case "LINE": {
      const { vertices } = entity as ILineEntity;
      return { knots: vertices.map(({ x, y }) => ({ at: [x, -y] as const })), closed: false };
    }
    case "POLYLINE":
    case "LWPOLYLINE": {
      const { vertices, shape } = entity as IPolylineEntity | ILwpolylineEntity;
      return bulged(vertices ?? [], shape);
    }
    case "CIRCLE": {
      const { center, radius } = entity as ICircleEntity;
      const knots = arcKnots([center.x, -center.y], [radius, 0], [0, radius], 0, 2);
      return closedKnots(knots);
    }
    case "ARC": {
      const { center, radius, startAngle, endAngle } = entity as IArcEntity;
      const [from, to] = [startAngle / Math.PI, endAngle / Math.PI];
      return {
        knots: arcKnots([center.x, -center.y], [radius, 0], [0, -radius], from, to <= from ? to + 2 : to),
        closed: false,
      };
    }
    case "ELLIPSE": {
      const { center, majorAxisEndPoint: a, axisRatio, startAngle, endAngle } = entity as IEllipseEntity;
      const [from, to] = [startAngle / Math.PI, endAngle / Math.PI];
      const end = to <= from ? to + 2 : to;
      const minor: [number, number] = [-a.y * axisRatio, -a.x * axisRatio];
      const knots = arcKnots([center.x, -center.y], [a.x, -a.y], minor, from, end);
      return end - from > 2 - 1e-6 ? closedKnots(knots) : { knots, closed: false };
    }
    case "SPLINE":
      return splinePath(entity as ISplineEntity);
    default:
      return null;
  }
}

/** A full turn comes back to its first knot. */
function closedKnots(knots: readonly Knot[]): KnotPath {
  const last = knots[knots.length - 1];
  return { knots: [{ ...knots[0], in: last.in! }, ...knots.slice(1, -1)], closed: true };
}

/** Points with bulges: the tangent of a quarter of the arc's turn, above 0 to the left. */
function bulged(
  vertices: readonly { readonly x: number; readonly y: number; readonly bulge?: number }[],
  closed: boolean,
): KnotPath {
  const knots: Knot[] = vertices.map(({ x, y }) => ({ at: [x, -y] as const }));
  const count = closed ? knots.length : knots.length - 1;
  const out: Knot[] = knots.length > 0 ? [knots[0]] : [];
  for (let k = 0; k < count; k++) {
    const [a, b] = [knots[k].at, knots[(k + 1) % knots.length].at];
    const bulge = vertices[k].bulge ?? 0;
    const pieces = bulge === 0 ? [{ at: b }] : arcThrough(a, b, bulge);
    if (bulge !== 0) out[out.length - 1] = { ...out[out.length - 1], out: pieces[0].out! };
    out.push(...(bulge === 0 ? pieces : pieces.slice(1)));
  }
  return closed && out.length > 2 ? closedOf(out) : { knots: out, closed: false };
}

function closedOf(knots: readonly Knot[]): KnotPath {
  const last = knots[knots.length - 1];
  return {
    knots: [{ ...knots[0], ...(last.in ? { in: last.in } : {}) }, ...knots.slice(1, -1)],
    closed: true,
  };
}

/** An arc from a to b, halved until a piece turns by a quarter at most; handles as `arcKnots` has them. */
function arcThrough(a: readonly [number, number], b: readonly [number, number], bulge: number): Knot[] {
  if (Math.abs(bulge) > 0.4142136) {
    // The middle of the arc lies off the chord's by bulge times half of it; y is turned down, so to the other side.
    const [mx, my] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    const middle = [mx - (bulge * (b[1] - a[1])) / 2, my + (bulge * (b[0] - a[0])) / 2] as const;
    const half = bulge / (1 + Math.sqrt(1 + bulge * bulge)); // tangent of half the angle
    const [first, second] = [arcThrough(a, middle, half), arcThrough(middle, b, half)];
    const joint = { ...second[0], in: first[first.length - 1].in! };
    return [...first.slice(0, -1), joint, ...second.slice(1)];
  }
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  // With t = tan(turn / 4): handles of 4/3 t radii; the chord is 2 r sin(turn / 2).
  const t = Math.abs(bulge);
  const reach = (1 + t * t) / 3; // of the chord: (4/3 t) / (2 sin(turn / 2)) = (4/3 t) (1 + t²) / (4 t)
  // sin and cos of half the turn, by its quarter's tangent.
  const [s, c] = [(2 * bulge) / (1 + t * t), (1 - t * t) / (1 + t * t)];
  const out = [reach * (c * dx - s * dy), reach * (s * dx + c * dy)] as const;
  const back = [-reach * (c * dx + s * dy), -reach * (-s * dx + c * dy)] as const;
  return [
    { at: a, out },
    { at: b, in: back },
  ];
}

/** A spline as straight pieces by de Boor's algorithm, or through its fit points where it has only those. */
function splinePath(spline: ISplineEntity): KnotPath | null {
  const { controlPoints: points = [], knotValues: knots, degreeOfSplineCurve: degree, closed } = spline;
  if (points.length === 0) {
    const through = (spline.fitPoints ?? []).map(({ x, y }): Knot => ({ at: [x, -y] }));
    return { knots: through, closed };
  }
  if (spline.rational) throw new DrawingError("The drawing has a rational spline, which is not read.");
  const places: Knot[] = [];
  for (let span = degree; span < points.length; span++) {
    const [from, to] = [knots[span], knots[span + 1]];
    if (!(to > from)) continue;
    for (let s = places.length === 0 ? 0 : 1; s <= SPLINE_PARTS; s++)
      places.push({ at: deBoor(points, knots, degree, span, from + ((to - from) * s) / SPLINE_PARTS) });
  }
  return closed && places.length > 2 ? closedOf(places) : { knots: places, closed: false };
}

function deBoor(
  points: readonly { readonly x: number; readonly y: number }[],
  knots: readonly number[],
  degree: number,
  span: number,
  u: number,
): readonly [number, number] {
  const d = Array.from({ length: degree + 1 }, (_, j) => {
    const { x, y } = points[span - degree + j];
    return [x, -y];
  });
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const i = span - degree + j;
      const share = (u - knots[i]) / (knots[i + degree - r + 1] - knots[i] || 1);
      d[j] = [d[j - 1][0] + share * (d[j][0] - d[j - 1][0]), d[j - 1][1] + share * (d[j][1] - d[j - 1][1])];
    }
  return [d[degree][0], d[degree][1]];
}
