import { type MarkEntry } from "../machine/markEntry";
import { rectangleKnots, roundKnots } from "../path/outline";
import { type KnotPath } from "../path/pathSet";
import { type Rect } from "../raster/types";

interface Sheet {
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Middles of a sheet's register marks, in mm from its top left: its corners, and of the long sides their middles. */
export function markPlaces(
  { insetMm: d, count }: MarkEntry,
  { widthMm: w, heightMm: h }: Sheet,
): [number, number][] {
  const corners: [number, number][] = [
    [d, d],
    [w - d, d],
    [d, h - d],
    [w - d, h - d],
  ];
  if (count === 3) return corners.slice(0, 3);
  if (count === 4) return corners;
  const middles: [number, number][] =
    w >= h
      ? [
          [w / 2, d],
          [w / 2, h - d],
        ]
      : [
          [d, h / 2],
          [w - d, h / 2],
        ];
  return [...corners, ...middles];
}

/** What has to stay free round marks. */
export const markZones = (
  places: readonly (readonly [number, number])[],
  { sizeMm, clearMm }: MarkEntry,
): Rect[] => {
  const side = sizeMm + 2 * clearMm;
  return places.map(([x, y]) => ({ x: x - side / 2, y: y - side / 2, width: side, height: side }));
};

/** One mark as a filled shape. */
export function drawnMark([x, y]: readonly [number, number], { shape, sizeMm: s }: MarkEntry): KnotPath {
  const [l, t] = [x - s / 2, y - s / 2];
  if (shape === "disc") return { knots: roundKnots(l, t, s, s), closed: true };
  if (shape === "square") return { knots: rectangleKnots(l, t, s, s), closed: true };
  const a = s / 10; // half of an arm
  const at = (dx: number, dy: number) => ({ at: [x + dx, y + dy] as const });
  const h = s / 2;
  const knots = [
    ...[at(-a, -h), at(a, -h), at(a, -a), at(h, -a), at(h, a), at(a, a)],
    ...[at(a, h), at(-a, h), at(-a, a), at(-h, a), at(-h, -a), at(-a, -a)],
  ];
  return { knots, closed: true };
}
