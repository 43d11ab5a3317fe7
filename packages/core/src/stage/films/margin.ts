import { type Dotting } from "../../screen/dotting";
import { plateDots } from "../../film/plateDots";
import { setText } from "../../letters/setText";
import { dotsPerMm } from "../../maths/units";
import { type Work } from "../../maths/work";
import { roundKnots } from "../../path/outline";
import { type KnotPath } from "../../path/pathSet";
import { newGray, type Bits } from "../../raster/types";
import { type Finish } from "../../result/finish";

/** Room about the art for marks and words, on every side. */
export const MARGIN_MM = 14;

/** What stands in a film's margin, in mm from the film's own top left. */
export interface Margin {
  /** Whole dots of the film along each side. */
  readonly dots: number;
  readonly mm: number;
  /** Drawn as lines of `LINE_MM`. */
  readonly lines: readonly KnotPath[];
  /** Filled. */
  readonly words: readonly KnotPath[];
}

export const LINE_MM = 0.15;
const TEXT_MM = 2.4;
const [RING_MM, CROSS_MM] = [2.2, 4];

/**
 * Marks about the art: a register mark at each corner, a mark at the middle of each side, and a line of words under it.
 * The margin is whole dots, so that the art's own dots lie on the film's.
 */
export function marginFor(finish: Finish, words: string): Margin {
  const perMm = dotsPerMm(finish);
  const dots = Math.ceil(MARGIN_MM * perMm);
  const mm = dots / perMm;
  const [width, height] = [finish.widthMm + 2 * mm, finish.heightMm + 2 * mm];
  const [near, right, bottom] = [mm / 2, width - mm / 2, height - mm / 2];
  const corners: [number, number][] = [
    [near, near],
    [right, near],
    [near, bottom],
    [right, bottom],
  ];
  const lines = [
    ...corners.flatMap(([x, y]) => registerMark(x, y)),
    line(width / 2, near - CROSS_MM, width / 2, near + CROSS_MM),
    line(width / 2, bottom - CROSS_MM, width / 2, bottom - CROSS_MM / 2),
    line(near - CROSS_MM, height / 2, near + CROSS_MM, height / 2),
    line(right - CROSS_MM, height / 2, right + CROSS_MM, height / 2),
  ];
  const room = width - 2 * mm - 2;
  const long = setText(words, TEXT_MM).width;
  const high = TEXT_MM * Math.min(1, room / long);
  return { dots, mm, lines, words: setText(words, high, mm + 1, height - mm + 4.4).paths };
}

const line = (x1: number, y1: number, x2: number, y2: number): KnotPath => ({
  knots: [{ at: [x1, y1] }, { at: [x2, y2] }],
  closed: false,
});

const registerMark = (x: number, y: number): KnotPath[] => [
  { knots: roundKnots(x - RING_MM, y - RING_MM, 2 * RING_MM, 2 * RING_MM), closed: true },
  line(x - CROSS_MM, y, x + CROSS_MM, y),
  line(x, y - CROSS_MM, x, y + CROSS_MM),
];

/** Percent of each step of the wedge. */
export const WEDGE = [0, 2, 5, 10, 20, 30, 40, 50, 60, 70, 80, 90, 95, 98, 100];
const STEP_MM = 4;

/** A step wedge in the ink's own dots; null where the art is too narrow for one. */
export function* wedgeFor(finish: Finish, dotting: Dotting): Work<Bits | null> {
  const side = Math.round(STEP_MM * dotsPerMm(finish));
  if (WEDGE.length * side > finish.widthPx) return null;
  const tone = newGray(WEDGE.length * side, side);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < tone.width; x++)
      tone.data[y * tone.width + x] = Math.round(255 * (1 - WEDGE[Math.floor(x / side)] / 100));
  return yield* plateDots(tone, 1, dotting);
}
