import { ringBoxOfPath } from "@hardline/core/edit/find";
import { movedPointBy, scaleAbout, turnAbout, after, shift, type Affine } from "@hardline/core/path/affine";
import { type KnotPath } from "@hardline/core/path/pathSet";
import { type Rect } from "@hardline/core/raster/types";
import { type At } from "./onTable";

/** Box of several paths, in mm; null of none. */
export function boxOfAll(paths: readonly KnotPath[]): Rect | null {
  if (paths.length === 0) return null;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const path of paths) {
    const box = ringBoxOfPath(path);
    left = Math.min(left, box.x);
    top = Math.min(top, box.y);
    right = Math.max(right, box.x + box.width);
    bottom = Math.max(bottom, box.y + box.height);
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** Where on a box a handle is: -1, 0 or 1 across and down of its middle. */
export interface Handle {
  readonly across: -1 | 0 | 1;
  readonly down: -1 | 0 | 1;
}

export const HANDLES: readonly Handle[] = ([-1, 0, 1] as const).flatMap((down) =>
  ([-1, 0, 1] as const).flatMap((across) => (across === 0 && down === 0 ? [] : [{ across, down }])),
);

export const middleOf = (box: Rect): At => [box.x + box.width / 2, box.y + box.height / 2];

/** A place on a box: -1 its left or top, 1 its right or foot. */
export const placeOn = (box: Rect, { across, down }: { across: number; down: number }): At => [
  box.x + ((1 + across) / 2) * box.width,
  box.y + ((1 + down) / 2) * box.height,
];

/** What is done to what is chosen, as an edit says it. */
export interface Change {
  readonly about: At;
  readonly across: number;
  readonly down: number;
  readonly turnDegrees: number;
  readonly byMm: At;
}

export const NO_CHANGE: Change = { about: [0, 0], across: 1, down: 1, turnDegrees: 0, byMm: [0, 0] };

export const affineOf = ({ about, across, down, turnDegrees, byMm }: Change): Affine =>
  after(shift(...byMm), after(turnAbout(turnDegrees, about), scaleAbout(across, down, about)));

/** Where a place lies after a change. */
export const placeAfter = (change: Change, place: At): At => movedPointBy(affineOf(change), place);

/** The least that a drag makes something, as a share of what it was. */
const LEAST = 0.01;

/**
 * What dragging a handle of a box does: the opposite side stays.
 * @param even  both sides by the same share
 */
export function scaledBy(box: Rect, handle: Handle, by: At, even: boolean): Change {
  const about = placeOn(box, { across: -handle.across, down: -handle.down });
  const share = (side: number, size: number, moved: number): number => {
    if (side === 0 || size === 0) return 1;
    const made = 1 + (side * moved) / size;
    return Math.abs(made) < LEAST ? LEAST : made;
  };
  let [across, down] = [share(handle.across, box.width, by[0]), share(handle.down, box.height, by[1])];
  if (even) {
    const most = Math.abs(across - 1) > Math.abs(down - 1) ? across : down;
    [across, down] = [most, most];
  }
  return { ...NO_CHANGE, about, across: tidy(across), down: tidy(down) };
}

/** What dragging round a place does: the turn from where it began. */
export function turnedBy(about: At, from: At, to: At): number {
  const angle = ([x, y]: At): number => (Math.atan2(y - about[1], x - about[0]) * 180) / Math.PI;
  const turn = angle(to) - angle(from);
  return Math.round((((turn + 540) % 360) - 180) * 100) / 100;
}

const tidy = (share: number): number => Math.round(share * 1e6) / 1e6;
