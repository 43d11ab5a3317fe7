import { rowsAtOnce, workSlice, type Work } from "../maths/work";
import { type Clearing } from "./clearing";
import { artWords, EdgeWalk } from "./edgeWalk";
import { Rim } from "./rim";
import { RimMixtures } from "./rimMixtures";
import { NOISE_IN_TAIL, RimSolver } from "./rimSolver";
import { solveSoftRim } from "./softRim";

/** Pixels of the rim between two slices. */
const AT_ONCE = 2048;

/**
 * Foreground estimation at the edge: takes what is left of the old background out of the pixels of the rim. A rim pixel is a
 * mixture of the background just outside it and the art just inside; its share of art becomes its cover, and the background is
 * taken out of its colour. The rim is followed inwards from the taken background for as long as pixels are mixed: a pixel or two
 * where the edge is sharp, many where it is soft. Pixels that are all art are not touched; taken pixels that belong to the edge
 * get back the share of art they had. Fur, hair and blur are then solved once more, in a way of their own.
 *
 * @see EdgeWalk
 * @see Porter & Duff, "Compositing Digital Images", SIGGRAPH 1984 (the mixture that is solved for)
 */
export function* estimateForeground(clearing: Clearing): Work<void> {
  const walk = new EdgeWalk(clearing, yield* workSlice(artWords(clearing), 0, 0.05));
  const rim = new Rim(clearing);
  const mixtures = new RimMixtures(rim, clearing);
  const solver = new RimSolver(clearing, rim, mixtures, walk);
  const outer = yield* findOuter(clearing, rim, walk);
  yield* solve(clearing, rim, solver, outer);
  let done = 0;
  for (const [i, given] of mixtures.found) {
    if (++done % AT_ONCE === 0) yield 0.9;
    const art = mixtures.wholeArt(i, given);
    const share = art === given.art ? given.share : (mixtures.shareOf(i, art, given.back) ?? given.share);
    const cover = clearing.data[i * 4 + 3];
    mixtures.set(i, share < NOISE_IN_TAIL ? 0 : share, cover, art, given.back);
  }
  yield* workSlice(solveSoftRim(clearing, rim, outer), 0.9, 1);
}

/** The taken pixels that touch art; the art around each is told of it, and the kind of each stretch of edge counted. */
function* findOuter({ taken, source }: Clearing, rim: Rim, walk: EdgeWalk): Work<number[]> {
  const { width, height } = source;
  const outer: number[] = [];
  const atOnce = rowsAtOnce(width);
  for (let y = 0, i = 0, told = 0; y < height; y++) {
    if (y % atOnce === 0 || outer.length > told) {
      told = outer.length + AT_ONCE / 4;
      yield (0.5 * y) / height;
    }
    for (let x = 0; x < width; x++, i++) {
      if (taken[i] === 0 || !rim.touchesArt(i, x, y)) continue;
      outer.push(i);
      rim.tellArtAround(i, i);
      const way = rim.inwardsAt(i);
      if (way) rim.cells.count(x, y, walk.kindAt(x, y, way[0], way[1]));
    }
  }
  return outer;
}

/** Inwards for as long as pixels are mixed; then outwards again, by what was found inside; then the taken pixels. */
function* solve({ held }: Clearing, rim: Rim, solver: RimSolver, outer: readonly number[]): Work<void> {
  const { waiting, square, nearest } = rim;
  let done = 0;
  for (let d = 1; d < waiting.length; d++)
    for (const i of waiting[d] ?? []) {
      if (++done % AT_ONCE === 0) yield 0.5 + (0.2 * d) / waiting.length;
      if (square[i] !== d || (held && held[i] >= 128)) continue;
      const q = nearest[i] - 1;
      if (solver.isMixed(i, q)) rim.tellArtAround(i, q);
    }
  for (let d = waiting.length - 1; d >= 1; d--)
    for (const i of waiting[d] ?? []) {
      if (++done % AT_ONCE === 0) yield 0.9 - (0.2 * d) / waiting.length;
      if (square[i] === d) solver.asInside(i);
    }
  for (const i of outer) {
    if (++done % AT_ONCE === 0) yield 0.9;
    solver.giveBack(i);
  }
}
