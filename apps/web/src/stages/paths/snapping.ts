import { type Rect } from "@hardline/core/raster/types";

/** Lines that one pulls out of the rulers, in mm from the piece's top left. */
export interface Guides {
  readonly x: readonly number[];
  readonly y: readonly number[];
  readonly locked: boolean;
}

export const NO_GUIDES: Guides = { x: [], y: [], locked: false };

/** A line that something snapped to, and how far off what it belongs to lies, in mm. */
export interface SnapLine {
  /** Upright lines have one x, level ones one y. */
  readonly axis: "x" | "y";
  readonly at: number;
  /** Where along the other axis it runs. */
  readonly from: number;
  readonly to: number;
  /** Ways that are told along it, each from one place to another of the other axis. */
  readonly told: readonly (readonly [from: number, to: number])[];
}

export interface Snapped {
  readonly by: readonly [number, number];
  readonly lines: readonly SnapLine[];
}

type Axis = "x" | "y";
const SIZE = { x: "width", y: "height" } as const;
const OTHER = { x: "y", y: "x" } as const;

/** The two edges and the middle of a box along an axis. */
const lines = (box: Rect, axis: Axis): readonly number[] => {
  const [from, size] = [box[axis], box[SIZE[axis]]];
  return [from, from + size / 2, from + size];
};

/**
 * Where a box that is moved comes to lie: its edges and middle on those of others, of the piece, and on guides, or so that
 * its gaps to both neighbours are equal, as far as it is nearly there. Each axis by itself.
 *
 * @param box     as it is dragged, in mm
 * @param others  boxes that stay
 * @param near    how near is nearly, in mm
 */
export function snapped(
  box: Rect,
  others: readonly Rect[],
  piece: { readonly widthMm: number; readonly heightMm: number },
  guides: Guides,
  near: number,
): Snapped {
  const whole: Rect = { x: 0, y: 0, width: piece.widthMm, height: piece.heightMm };
  const across = snappedOn("x", box, others, whole, guides, near);
  const down = snappedOn("y", box, others, whole, guides, near);
  return {
    by: [across?.by ?? 0, down?.by ?? 0],
    lines: [across, down].flatMap((s) => (s ? [s.line] : [])),
  };
}

function snappedOn(
  axis: Axis,
  box: Rect,
  others: readonly Rect[],
  whole: Rect,
  guides: Guides,
  near: number,
) {
  let best: { by: number; line: SnapLine } | null = null;
  const other = OTHER[axis];
  const size = SIZE[other];
  const take = (by: number, line: SnapLine): void => {
    if (Math.abs(by) <= near && (!best || Math.abs(by) < Math.abs(best.by) - 1e-9)) best = { by, line };
  };
  const own = lines(box, axis);
  const [low, high] = [box[other], box[other] + box[size]];
  for (const at of guides[axis])
    for (const line of own)
      take(at - line, { axis, at, from: whole[other], to: whole[other] + whole[size], told: [] });
  for (const one of [...others, whole]) {
    const [from, to] = [one[other], one[other] + one[size]];
    const gap: [number, number] | null = to < low ? [to, low] : from > high ? [high, from] : null;
    for (const at of lines(one, axis))
      for (const line of own)
        take(at - line, {
          ...{ axis, at },
          from: Math.min(low, from),
          to: Math.max(high, to),
          told: gap ? [gap] : [],
        });
  }
  const even = evenGap(axis, box, others);
  if (even) take(even.by, even.line);
  return best as { by: number; line: SnapLine } | null;
}

/** Between two neighbours in the same row, or column: the place in their middle. */
function evenGap(axis: Axis, box: Rect, others: readonly Rect[]): { by: number; line: SnapLine } | null {
  const [size, other] = [SIZE[axis], OTHER[axis]];
  const beside = others.filter(
    (o) => o[other] < box[other] + box[SIZE[other]] && o[other] + o[SIZE[other]] > box[other],
  );
  const middle = box[axis] + box[size] / 2;
  const before = beside
    .filter((o) => o[axis] + o[size] <= middle)
    .sort((a, b) => b[axis] + b[size] - a[axis] - a[size])[0];
  const behind = beside.filter((o) => o[axis] >= middle).sort((a, b) => a[axis] - b[axis])[0];
  if (!before || !behind) return null;
  const [end, begin] = [before[axis] + before[size], behind[axis]];
  const gap = (begin - end - box[size]) / 2;
  if (gap < 0) return null;
  const at = box[other] + box[SIZE[other]] / 2;
  return {
    by: end + gap - box[axis],
    // It runs along the axis itself: both gaps are told on it.
    line: {
      axis: other,
      ...{ at, from: end, to: begin },
      told: [
        [end, end + gap],
        [begin - gap, begin],
      ],
    },
  };
}

/** The nearest of a few round angles, where it is nearly that; in degrees. */
export function snappedAngle(degrees: number, whole: boolean): number {
  const step = whole ? 15 : 45;
  const nearest = Math.round(degrees / step) * step;
  return whole || Math.abs(degrees - nearest) < 2 ? nearest : degrees;
}
