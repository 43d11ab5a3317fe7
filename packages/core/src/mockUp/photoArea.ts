import { toldBy } from "../paper/proportion";
import { canonical } from "../settings/canonical";
import { cylinderSurface } from "./cylinder";
import { clothSurface, cornersOfGrid, planeSurface } from "./plane";
import { type Point, type Surface } from "./surface";
import { type PrintArea } from "./thing";

/** Two places of a photograph and how far apart they are on the thing. Places are fractions of its width and height. */
export interface PhotoScale {
  readonly from: Point;
  readonly to: Point;
  readonly mm: number;
}

/** Where something can be put on a photographed thing. Places are fractions of the photograph's width and height. */
export type PhotoArea =
  | {
      readonly kind: "flat";
      readonly corners: readonly Point[];
      readonly widthMm?: number;
      readonly heightMm?: number;
      readonly scale?: PhotoScale;
    }
  | {
      readonly kind: "round";
      readonly upper: readonly Point[];
      readonly lower: readonly Point[];
      readonly diameterMm: number;
    }
  | {
      readonly kind: "cloth";
      readonly points: readonly Point[];
      readonly widthMm?: number;
      readonly heightMm?: number;
      readonly scale?: PhotoScale;
    };

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A photographed area, measured. */
export interface MeasuredArea {
  readonly surface: Surface;
  readonly area: PrintArea;
  /** Pixels of the photograph to a mm, at the area's middle. */
  readonly perMm: number;
}

const known = new Map<string, MeasuredArea | null>();
const MOST_KNOWN = 16;

/** An area of a photograph as a surface with its measures; null where its places make no sense. */
export function measuredArea(area: PhotoArea, photo: Size): MeasuredArea | null {
  const name = canonical([area, photo.width, photo.height]);
  if (!known.has(name)) {
    if (known.size >= MOST_KNOWN) known.delete(known.keys().next().value!);
    known.set(name, measured(area, photo));
  }
  return known.get(name)!;
}

function measured(area: PhotoArea, { width, height }: Size): MeasuredArea | null {
  const px = ([x, y]: Point): Point => [x * width, y * height];
  if (area.kind === "round") {
    const [upper, lower] = [area.upper.map(px), area.lower.map(px)] as [Three, Three];
    const found = cylinderSurface({ upper, lower, diameterMm: area.diameterMm }, { width, height });
    return found && about(found.surface, 2 * found.halfMm, found.heightMm);
  }
  const points = (area.kind === "flat" ? area.corners : area.points).map(px);
  const corners = area.kind === "flat" ? points : cornersOfGrid(points);
  const made = (widthMm: number, heightMm: number): Surface | null =>
    area.kind === "flat"
      ? planeSurface({ corners, widthMm, heightMm })
      : clothSurface({ points, widthMm, heightMm });
  const size = sizeOf(area, corners, { width, height }, made, px);
  const surface = size && made(...size);
  return surface && about(surface, ...size!);
}

type Three = [Point, Point, Point];

/**
 * Width and height in mm: as they are told, or as the distance of two places tells them. What is not told follows from how
 * the corners are seen.
 * @see `toldBy` for the proportion
 */
function sizeOf(
  { widthMm, heightMm, scale }: Exclude<PhotoArea, { kind: "round" }>,
  corners: readonly Point[],
  photo: Size,
  made: (widthMm: number, heightMm: number) => Surface | null,
  px: (at: Point) => Point,
): [number, number] | null {
  if (widthMm && heightMm) return [widthMm, heightMm];
  const { proportion } = toldBy(corners, photo);
  if (!(proportion > 0) || !Number.isFinite(proportion)) return null;
  if (widthMm) return [widthMm, widthMm / proportion];
  if (heightMm) return [heightMm * proportion, heightMm];
  if (!scale) return null;
  const unit = made(proportion, 1);
  const [a, b] = [new Float64Array(2), new Float64Array(2)];
  if (!unit || !unit.at(...px(scale.from), a) || !unit.at(...px(scale.to), b)) return null;
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const apart = Math.sqrt(dx * dx + dy * dy);
  return apart > 1e-9 ? [(proportion * scale.mm) / apart, scale.mm / apart] : null;
}

/** Sides beyond these, in mm, are a slip of the hand. */
const [LEAST_MM, MOST_MM] = [2, 20000];

function about(surface: Surface, widthMm: number, heightMm: number): MeasuredArea | null {
  const isSide = (v: number): boolean => v >= LEAST_MM && v <= MOST_MM;
  if (!isSide(widthMm) || !isSide(heightMm)) return null;
  const by = heightMm / 200;
  const [a, b] = [surface.seen(0, heightMm / 2 - by), surface.seen(0, heightMm / 2 + by)];
  if (!a || !b) return null;
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const perMm = Math.sqrt(dx * dx + dy * dy) / (2 * by);
  if (!(perMm > 0) || !Number.isFinite(perMm)) return null;
  const box = { x: -widthMm / 2, y: 0, width: widthMm, height: heightMm };
  const area: PrintArea = {
    ...{ name: "Front", limits: box, edges: box, below: "the upper edge" },
    ...{ seams: [], surfaces: [surface] },
  };
  return { surface, area, perMm };
}
