import { expMinus } from "../maths/steady";

/** Width of the bell that tells how near marks lie, in pixels: what the paper found best. */
const SIGMA = 1.5;
/** Further off than this the bell is nothing. */
const REACH = 9;
/** Share of the pixels that the first pattern marks. */
const FIRST = 0.1;

/**
 * The order in which the pixels of a square tile are marked so that, at every count, marks lie as evenly as they can
 * and in no pattern, over the tile's edges too: the tile may be laid side by side.
 *
 * The same tile each time: the first pattern is drawn by a small generator of whole numbers, and of equally tight
 * clusters the first is taken.
 *
 * @param side  of the tile, in pixels, 1 or more
 * @returns     for each pixel its place in the order, 0 .. side² - 1
 * @see Ulichney, "The void-and-cluster method for dither array generation", Proc. SPIE 1913, 1993
 */
export function voidAndCluster(side: number): Int32Array {
  const count = side * side;
  const rank = new Int32Array(count);
  const bell = bellOf(side);
  const marked = new Uint8Array(count);
  const density = new Float64Array(count);
  const put = (at: number, mark: 0 | 1): void => {
    marked[at] = mark;
    addBell(density, bell, side, at, mark ? 1 : -1);
  };
  let first = 0;
  let state = 1;
  for (const wanted = Math.max(1, Math.floor(count * FIRST)); first < wanted;) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    const at = Math.floor((state / 4294967296) * count);
    if (marked[at]) continue;
    put(at, 1);
    first++;
  }
  // The tightest mark moves into the largest void, until it comes back to where it was.
  for (;;) {
    const tight = extreme(density, marked, 1);
    put(tight, 0);
    const empty = extreme(density, marked, 0);
    put(empty, 1);
    if (empty === tight) break;
  }
  const begin = marked.slice();
  const beginDensity = density.slice();
  for (let k = first - 1; k >= 0; k--) {
    const tight = extreme(density, marked, 1);
    put(tight, 0);
    rank[tight] = k;
  }
  marked.set(begin);
  density.set(beginDensity);
  for (let k = first; k < count; k++) {
    const empty = extreme(density, marked, 0);
    put(empty, 1);
    rank[empty] = k;
  }
  return rank;
}

/** The mark with most marks around it, or the gap with fewest. */
function extreme(density: Float64Array, marked: Uint8Array, mark: 0 | 1): number {
  let found = -1;
  let most = -Infinity;
  for (let i = 0; i < density.length; i++) {
    if (marked[i] !== mark) continue;
    const value = mark ? density[i] : -density[i];
    if (value > most) {
      most = value;
      found = i;
    }
  }
  return found;
}

function bellOf(side: number): { readonly reach: number; readonly values: Float64Array } {
  const reach = Math.min(REACH, Math.floor((side - 1) / 2));
  const across = 2 * reach + 1;
  const values = Float64Array.from({ length: across * across }, (_, i) => {
    const [dx, dy] = [(i % across) - reach, Math.floor(i / across) - reach];
    return expMinus((dx * dx + dy * dy) / (2 * SIGMA * SIGMA));
  });
  return { reach, values };
}

function addBell(
  density: Float64Array,
  { reach, values }: ReturnType<typeof bellOf>,
  side: number,
  at: number,
  sign: number,
): void {
  const [x, y] = [at % side, Math.floor(at / side)];
  for (let dy = -reach, k = 0; dy <= reach; dy++) {
    const row = ((y + dy + side) % side) * side;
    for (let dx = -reach; dx <= reach; dx++, k++) density[row + ((x + dx + side) % side)] += sign * values[k];
  }
}
