import { type PlacedPrint } from "@hardline/core/mockUp/place";
import { type Point } from "@hardline/core/mockUp/surface";
import { type UsualPlace } from "@hardline/core/mockUp/thing";

/** What a dragged print came to: where it lies, and the lines that it was drawn to, in mm of its area. */
export interface Snapped {
  readonly at: Point;
  /** An upright line at this x, a level one at this y. */
  readonly x: number | null;
  readonly y: number | null;
}

/**
 * A print that is dragged is drawn to the middle line, to where usual places begin, and to the print area's edges.
 * @param at      middle of its upper edge, in mm of its area
 * @param nearMm  how near it must be
 */
export function snapPrint(
  at: Point,
  print: PlacedPrint,
  places: readonly UsualPlace[],
  nearMm: number,
): Snapped {
  const { limits } = print.area;
  const { width, height } = print.box;
  const own = places.filter((p) => p.area === print.area.name);
  const across = [
    ...[0, ...own.map((p) => p.at[0])].map((x) => ({ to: x, line: x })),
    { to: limits.x + width / 2, line: limits.x },
    { to: limits.x + limits.width - width / 2, line: limits.x + limits.width },
  ];
  const down = [
    ...own.map((p) => ({ to: p.at[1], line: p.at[1] })),
    { to: limits.y, line: limits.y },
    { to: limits.y + limits.height - height, line: limits.y + limits.height },
  ];
  const [x, y] = [nearest(at[0], across, nearMm), nearest(at[1], down, nearMm)];
  return { at: [x?.to ?? at[0], y?.to ?? at[1]], x: x?.line ?? null, y: y?.line ?? null };
}

interface Line {
  readonly to: number;
  readonly line: number;
}

function nearest(value: number, lines: readonly Line[], near: number): Line | null {
  let best: Line | null = null;
  for (const one of lines) {
    const off = Math.abs(one.to - value);
    if (off <= near && (!best || off < Math.abs(best.to - value))) best = one;
  }
  return best;
}
