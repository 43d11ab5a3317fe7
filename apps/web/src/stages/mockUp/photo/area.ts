import { measuredArea, type PhotoArea } from "@hardline/core/mockUp/photoArea";
import { type Point } from "@hardline/core/mockUp/surface";
import { type PhotoThing } from "@hardline/core/stage/mockUp/settings";

type Pair = [number, number];

/** A millionth of a photograph is finer than any hand. */
export const rounded = ([x, y]: Point): Pair => [Math.round(x * 1e6) / 1e6, Math.round(y * 1e6) / 1e6];

/** The places of an area that can be dragged, in fractions of the photograph. */
export function handlesOf(area: PhotoThing["area"]): readonly Point[] {
  if (area.kind === "flat") return area.corners;
  if (area.kind === "cloth") return area.points;
  return [...area.upper, ...area.lower];
}

/** The same area with one of its places elsewhere. */
export function withHandle(area: PhotoThing["area"], index: number, to: Point): PhotoThing["area"] {
  const at = rounded(to);
  const put = (list: readonly Pair[], k: number): Pair[] => list.map((p, j) => (j === k ? at : p));
  if (area.kind === "flat") return { ...area, corners: put(area.corners, index) };
  if (area.kind === "cloth") return { ...area, points: put(area.points, index) };
  return index < 3
    ? { ...area, upper: put(area.upper, index) }
    : { ...area, lower: put(area.lower, index - 3) };
}

/** Whether a camera can have seen an area so. */
export const isSeen = (thing: PhotoThing): boolean =>
  measuredArea(thing.area as PhotoArea, { width: thing.widthPx, height: thing.heightPx }) !== null;

/** An area of another kind about where the one before it was. */
export function ofKind(area: PhotoThing["area"], kind: PhotoArea["kind"]): PhotoThing["area"] {
  if (area.kind === kind) return area;
  const handles = handlesOf(area);
  const [xs, ys] = [handles.map((p) => p[0]), handles.map((p) => p[1])];
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [top, foot] = [Math.min(...ys), Math.max(...ys)];
  const at = (u: number, v: number): Pair => rounded([left + u * (right - left), top + v * (foot - top)]);
  if (kind === "round")
    return {
      kind,
      upper: [at(0, 0), at(0.5, 0.06), at(1, 0)],
      lower: [at(0, 0.9), at(0.5, 1), at(1, 0.9)],
      diameterMm: 80,
    };
  const size = area.kind === "round" ? { widthMm: 200 } : sizeOf(area);
  return kind === "flat"
    ? { kind, corners: [at(0, 0), at(1, 0), at(1, 1), at(0, 1)], ...size }
    : { kind, points: [0, 0.5, 1].flatMap((v) => [0, 0.5, 1].map((u) => at(u, v))), ...size };
}

const sizeOf = ({ widthMm, heightMm, scale }: Exclude<PhotoThing["area"], { kind: "round" }>) => ({
  ...(widthMm !== undefined ? { widthMm } : {}),
  ...(heightMm !== undefined ? { heightMm } : {}),
  ...(scale !== undefined ? { scale } : {}),
});

/** A photograph that nothing is known of yet. */
export const newPhotoThing = (
  photo: string,
  widthPx: number,
  heightPx: number,
  name: string,
): PhotoThing => ({
  ...{ photo, widthPx, heightPx, name: name.replace(/\.[^.]+$/, "").slice(0, 60) || "Own photograph" },
  area: {
    kind: "flat",
    corners: [
      [0.3, 0.3],
      [0.7, 0.3],
      [0.7, 0.7],
      [0.3, 0.7],
    ],
    widthMm: 300,
  },
  smoothMm: 3,
  front: [],
});
