import { sinPi } from "../maths/steady";
import { workSlice, type Work } from "../maths/work";
import { DOT_SHAPES, type DotShape } from "./dotShapes";
import { thresholdsOf, type Mask } from "./mask";
import { voidAndCluster } from "./voidAndCluster";

export interface Screen {
  readonly linesPerInch: number;
  /** Degrees, counter-clockwise from the x axis. */
  readonly angle: number;
  readonly dot: DotShape;
  readonly dotsPerInch: number;
  /** Sides of the smallest mark and the smallest gap, in dots. */
  readonly smallestMark: number;
  readonly smallestGap: number;
}

/** Many cells of a screen that together fit the grid of dots, where one alone does not. */
export interface SuperCell {
  /** Cells along its side. */
  readonly cells: number;
  /** Its side as whole dots along x, and up. */
  readonly along: number;
  readonly up: number;
  /** Dots in it: so many shares of black there are. */
  readonly dots: number;
}

/** Off by no more than this share of a line is not worth more dots. */
const EXACT = 0.002;
const LEAST_DOTS = 1024;
const MOST_DOTS = 1 << 17;
/** Dots looked at between two slices. */
const LOOKED_AT_ONCE = 1 << 15;

/** Dots along the side of one cell. */
export const cellSide = ({
  linesPerInch,
  dotsPerInch,
}: Pick<Screen, "linesPerInch" | "dotsPerInch">): number => dotsPerInch / linesPerInch;

/**
 * The smallest square of cells whose corners fall on dots nearly enough, so that ruling and angle come out as asked.
 * @see Holladay, as in `mask.ts`; the same idea of rational tangents over several cells
 */
export function superCell(screen: Pick<Screen, "linesPerInch" | "angle" | "dotsPerInch">): SuperCell {
  const side = cellSide(screen);
  const [c, s] = [side * sinPi(screen.angle / 180 + 0.5), side * sinPi(screen.angle / 180)];
  let best: SuperCell | null = null;
  let least = Infinity;
  for (let n = 1; n * n * side * side <= MOST_DOTS || best === null; n++) {
    const [along, up] = [Math.round(n * c), Math.round(n * s)];
    const dots = along * along + up * up;
    if (dots === 0 || (dots < LEAST_DOTS && n * n * side * side < MOST_DOTS)) continue;
    const off = Math.sqrt((along - n * c) ** 2 + (up - n * s) ** 2) / (n * side);
    if (off < least) [best, least] = [{ cells: n, along, up, dots }, off];
    if (off <= EXACT) break;
  }
  return best!;
}

/**
 * Thresholds of a clustered-dot screen. In every cell the dot grows by the shape; which cell gets its next pixel first
 * follows a void-and-cluster order over the cells, so that at every tone dots are alike to a pixel, those that are
 * ahead lie evenly, and there are as many tones as the supercell has dots. Up to half of black pixels are counted from
 * the middles of the marks, beyond it from the middles of the gaps.
 *
 * The first pixels of a mark, a square of the smallest mark's side, come together; so do the last of a gap. The palest
 * tones are then fewer marks of that size instead of smaller ones, at the same share of black.
 *
 * @param screen  smallest mark and gap no larger than `mostOfCell`
 */
export function* screenMask(screen: Screen): Work<Mask> {
  const size = superCell(screen);
  const { width, height, shift, at } = brickOf(size);
  const shape = DOT_SHAPES[screen.dot];
  const early = yield* workSlice(pixelsByCell(size, shape, 0, at), 0, 0.4);
  const late = yield* workSlice(
    pixelsByCell(size, (u, v) => -shape(u, v), 0.5, at),
    0.4,
    0.8,
  );
  const { cells, dots } = size;
  const spot = new Float64Array(dots);
  for (const pixels of early) for (const { index, value } of pixels) spot[index] = value;
  const half = Float64Array.from(spot).sort()[dots >> 1];
  const turns = voidAndCluster(cells);
  const marks = smallestOf(screen.smallestMark, size, 0, at);
  const gaps = smallestOf(screen.smallestGap, size, 0.5, at);
  const inSquare = new Uint8Array(dots);
  for (const square of [...marks, ...gaps]) for (const index of square) inSquare[index] = 1;
  const begin = growth(early, turns, marks, (i) => spot[i] < half && !inSquare[i]);
  const end = growth(late, turns, gaps, (i) => spot[i] >= half && !inSquare[i]);
  const order = [...begin, ...end.reverse()];
  return { width, height, shift, thresholds: thresholdsOf(order, dots) };
}

const masks = new Map<string, Mask>();
const MOST_MASKS = 24;

/** As `screenMask`, kept: masks are asked for again with every tone, and take a while to make. */
export function* keptScreenMask(screen: Screen): Work<Mask> {
  const { linesPerInch, angle, dot, dotsPerInch, smallestMark, smallestGap } = screen;
  const name = [linesPerInch, angle, dot, dotsPerInch, smallestMark, smallestGap].join(" ");
  let mask = masks.get(name);
  if (!mask) {
    if (masks.size >= MOST_MASKS) masks.delete(masks.keys().next().value!);
    masks.set(name, (mask = yield* screenMask(screen)));
  }
  return mask;
}

/**
 * The largest smallest mark or gap, in dots, that a screen's cell has room for: mark and gap lie half a cell's diagonal
 * apart, and at any angle stay clear of each other while their sides come to no more than the cell's, less a dot.
 */
export const mostOfCell = (screen: Pick<Screen, "linesPerInch" | "dotsPerInch">): number =>
  Math.max(1, Math.floor((cellSide(screen) - 1) / 2 + 1e-9));

interface Brick {
  readonly width: number;
  readonly height: number;
  readonly shift: number;
  /** Index in the brick of a dot of the plane. */
  readonly at: (x: number, y: number) => number;
}

/** The brick that repeats like the supercell's lattice, whose sides are (along, -up) and (-up, -along), y downwards. */
function brickOf({ along, up, dots }: SuperCell): Brick {
  const { divisor: height, s, t } = euclid(-up, -along);
  const width = dots / height;
  // s sides and t sides go `height` down, and this far along.
  const shift = modulo(along * s - up * t, width);
  const at = (x: number, y: number): number => {
    const course = Math.floor(y / height);
    return (y - course * height) * width + modulo(x - course * shift, width);
  };
  return { width, height, shift, at };
}

/** The greatest common divisor, and how the two make it: a s + b t. */
function euclid(a: number, b: number): { divisor: number; s: number; t: number } {
  let [r0, r1, s0, s1, t0, t1] = [a, b, 1, 0, 0, 1];
  while (r1 !== 0) {
    const q = Math.trunc(r0 / r1);
    [r0, r1, s0, s1, t0, t1] = [r1, r0 - q * r1, s1, s0 - q * s1, t1, t0 - q * t1];
  }
  return r0 < 0 ? { divisor: -r0, s: -s0, t: -t0 } : { divisor: r0, s: s0, t: t0 };
}

const modulo = (a: number, n: number): number => ((a % n) + n) % n;

interface Pixel {
  readonly index: number;
  readonly value: number;
}

/** Middle of each cell in dots, cells moved by `offset` of one; in the order of `voidAndCluster`'s pixels. */
function* middles({ cells, along, up }: SuperCell, offset: number): Generator<readonly [number, number]> {
  for (let j = 0; j < cells; j++)
    for (let i = 0; i < cells; i++) {
      const [u, v] = [(i + 0.5 + offset) / cells, (j + 0.5 + offset) / cells];
      yield [u * along - v * up, -u * up - v * along];
    }
}

/** Each cell's dots in the order in which the shape takes them. Whole numbers decide which dot is whose. */
function* pixelsByCell(
  size: SuperCell,
  shape: (u: number, v: number) => number,
  offset: number,
  at: Brick["at"],
): Work<Pixel[][]> {
  const { cells, along, up, dots } = size;
  const reach = Math.ceil((Math.sqrt(dots) / cells) * 0.75) + 1;
  const cellsOut: Pixel[][] = [];
  let cell = 0;
  let looked = 0;
  for (const [x, y] of middles(size, offset)) {
    looked += (2 * reach + 1) ** 2;
    if (looked > LOOKED_AT_ONCE) {
      looked = 0;
      yield cell / (cells * cells);
    }
    const [i, j] = [cell % cells, Math.floor(cell / cells)];
    const pixels: Pixel[] = [];
    for (let py = Math.floor(y) - reach; py <= y + reach; py++)
      for (let px = Math.floor(x) - reach; px <= x + reach; px++) {
        // Twice the dot's middle, along either side of the supercell, in cells times twice its dots.
        const a = cells * (along * (2 * px + 1) - up * (2 * py + 1)) - 2 * offset * dots;
        const b = cells * (-up * (2 * px + 1) - along * (2 * py + 1)) - 2 * offset * dots;
        if (Math.floor(a / (2 * dots)) !== i || Math.floor(b / (2 * dots)) !== j) continue;
        const [u, v] = [a / dots - 2 * i - 1, b / dots - 2 * j - 1];
        // The shape speaks of the mark's cell; a gap's cell has the mark's corners in its middle.
        const [su, sv] = offset ? [u < 0 ? u + 1 : u - 1, v < 0 ? v + 1 : v - 1] : [u, v];
        pixels.push({ index: at(px, py), value: shape(su, sv) });
      }
    pixels.sort((p, q) => p.value - q.value || p.index - q.index);
    cellsOut.push(pixels);
    cell++;
  }
  return cellsOut;
}

/** For each cell the square of dots in its middle; none where a single dot will do. */
function smallestOf(side: number, size: SuperCell, offset: number, at: Brick["at"]): number[][] {
  if (side <= 1) return [];
  return Array.from(middles(size, offset), ([x, y]) => {
    const [left, top] = [Math.round(x - side / 2), Math.round(y - side / 2)];
    return Array.from({ length: side * side }, (_, k) => at(left + (k % side), top + Math.floor(k / side)));
  });
}

/** Groups of dots in the order in which they are marked: each cell's square at once, then one dot a cell at a time. */
function growth(
  byCell: readonly Pixel[][],
  turns: Int32Array,
  squares: readonly (readonly number[])[],
  alone: (index: number) => boolean,
): (readonly number[])[] {
  const groups: { readonly when: number; readonly dots: readonly number[] }[] = [];
  for (const [cell, pixels] of byCell.entries()) {
    const turn = (turns[cell] + 0.5) / turns.length;
    const square = squares[cell];
    if (square) groups.push({ when: turn * square.length, dots: square });
    let k = square?.length ?? 0;
    for (const { index } of pixels) if (alone(index)) groups.push({ when: k++ + turn, dots: [index] });
  }
  return groups.sort((a, b) => a.when - b.when || a.dots[0] - b.dots[0]).map((g) => g.dots);
}
