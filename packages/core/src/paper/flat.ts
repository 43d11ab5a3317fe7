import { homographyOf } from "../maths/homography";
import { curledPage } from "./curled";
import { Lens, type Point } from "./lens";
import { toldBy } from "./proportion";
import { type Paper } from "./settings";

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A paper as it is seen from straight above. */
export interface FlatPaper extends Size {
  /** Writes where a place of it, in its own pixels from its upper left, lies on the photograph, in pixels. */
  readonly onPhotograph: (x: number, y: number, to: Float64Array) => void;
}

/** It may have so many times the photograph's pixels at most. */
const MOST_PIXELS = 1.5;

/**
 * What is within a paper's edges, no pixel of the photograph being lost along the longest of each pair of them.
 * @param photograph  its size in pixels
 */
export function flatPaper(photograph: Size, paper: Paper): FlatPaper {
  const { width, height } = photograph;
  const lens = new Lens(photograph, paper.lens);
  const straight = ([u, v]: Point): Point => lens.straight([u * width, v * height]);
  const corners = paper.corners.map(straight) as unknown as [Point, Point, Point, Point];
  const [a, b, c, d] = corners;
  if (paper.curled) {
    const edge = (from: Point, through: readonly Point[], to: Point) => [from, ...through.map(straight), to];
    const page = curledPage(
      edge(a, paper.curled.top, b),
      edge(d, paper.curled.foot, c),
      photograph,
      toldBy(corners, photograph).focal,
    );
    const size = sizeOf(photograph, page.acrossPx, page.downPx, paper.proportion ?? page.proportion);
    const onPhotograph: FlatPaper["onPhotograph"] = (x, y, to) => {
      page.write(x / size.width, y / size.height, to);
      lens.bend(to);
    };
    return { ...size, onPhotograph };
  }
  const across = Math.max(distance(a, b), distance(d, c));
  const down = Math.max(distance(a, d), distance(b, c));
  const proportion = paper.proportion ?? toldBy(corners, photograph).proportion;
  const size = sizeOf(photograph, across, down, proportion);
  const { width: w, height: h } = size;
  const flat: Point[] = [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ];
  const map = Float64Array.from(homographyOf(flat, corners) ?? [1, 0, 0, 0, 1, 0, 0, 0, 1]);
  const onPhotograph: FlatPaper["onPhotograph"] = (x, y, to) => {
    const by = map[6] * x + map[7] * y + map[8];
    to[0] = (map[0] * x + map[1] * y + map[2]) / by;
    to[1] = (map[3] * x + map[4] * y + map[5]) / by;
    lens.bend(to);
  };
  return { ...size, onPhotograph };
}

export const distance = (a: Point, b: Point): number => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2);

/** As many pixels as the longer of both edges has, each way, in the paper's proportion. */
function sizeOf(photograph: Size, across: number, down: number, proportion: number): Size {
  const wide = Math.max(across, down * proportion, 1);
  const most = Math.sqrt(MOST_PIXELS * photograph.width * photograph.height * proportion);
  const width = Math.max(1, Math.round(Math.min(wide, most)));
  return { width, height: Math.max(1, Math.round(width / proportion)) };
}
