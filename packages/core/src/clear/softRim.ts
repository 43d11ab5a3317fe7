import { freed, mixture } from "../colour/mixture";
import { percentile } from "../maths/percentile";
import { rowsAtOnce, workSlice, type Work } from "../maths/work";
import { type Rect } from "../raster/types";
import { squaredDistanceTo } from "../region/distance";
import { Cells } from "./cells";
import { type Clearing } from "./clearing";
import { apart } from "./edgeWalk";
import { type Rim } from "./rim";
import { Sums, Surface } from "./surface";

// Thresholds: what they decide is measured by `npm run soft`, and that nothing hard is harmed by `npm run rims`.

/** The ground is looked at in cells so many pixels wide, and only where no art is in one or beside it. */
const CELL = 16;
/** The art's own colour changes faster: it is told in smaller cells. */
const ART_CELL = 8;
/** Art is sure to be whole so many pixels inside the picked edge; mixtures are looked for so far outside of it. */
const [INSIDE, OUTSIDE] = [8, 12];
/** Beyond the picked edge a hard one is over: between these distances from it only hairs and blur leave anything. */
const [TAIL_FROM, TAIL_TO] = [1.5, 5];
/** This share of a stretch's pixels there must be mixtures, and it must have so many. */
const SOFT = 0.2;
const LEAST = 20;
/** The same for a first look along the edge, which is followed by the exact one. */
const LIKELY = 0.1;
/** The picture is looked at in squares so wide, where a stretch that may be soft is no further off than this. */
const [TILE, BESIDE] = [128, 32];
/** Pixels of the edge between two slices. */
const EDGE_AT_ONCE = 4096;
/** The share of the ground's own pixels that are no further from its surface than its grain, and its least, in code values. */
const [USUAL, GRAIN] = [0.98, 3];
/** What differs from the ground by so much more than its grain is something else. */
const BEYOND = 1.2;
/** A mixture lies off the line by no more than this share of the art that it holds, and a rest. */
const [OFF, REST] = [0.5, 0.03];
/**
 * A mixture holds at least so much of the art. On a ground with less grain than this, in code values, which was drawn or is
 * white all over, what holds less may be a ripple that a JPEG leaves beside a hard edge.
 */
const [HOLDS, NO_GRAIN, RIPPLE] = [0.03, 1, 0.11];
/** Squared distance in code values from ground to art from which on a mixture of them tells its share. */
const APART = 600;
/** Cover from here on is whole. */
const WHOLE = 0.96;

/**
 * Fur, hair, cloth and what is a little out of focus before a plain ground. A pick takes the thin half of such an edge, and a
 * walk across it finds neither a ground nor a top: there is another hair. So the ground is taken as a smooth surface from well
 * outside, the art's colour from well inside, and every pixel between as what it is of both.
 *
 * It is done only where mixtures lie beyond the picked edge, and where the walk sees no edge that rises slowly: a shadow and a
 * wash are its own.
 *
 * @param outer  the taken pixels that touch art
 * @see Smith & Blinn, "Blue Screen Matting", SIGGRAPH 1996 (the ground known, the cover asked)
 */
export function* solveSoftRim(clearing: Clearing, rim: Rim, outer: readonly number[]): Work<void> {
  const ground = yield* workSlice(groundOf(clearing), 0, 0.2);
  if (!ground) return;
  const tiles = yield* workSlice(likelySoft(clearing, rim, outer, ground), 0.2, 0.3);
  if (tiles.length > 0) yield* workSlice(solveIn(tiles, clearing, rim, ground), 0.3, 1);
}

interface Ground {
  readonly surface: Surface;
  /** How far its own pixels are from it, in code values. */
  readonly grain: number;
  /** The least share of art that makes a mixture. */
  readonly holds: number;
}

/** The ground as a smooth surface, told by a few pixels of each of the cells that have no art in or beside them. */
function* groundOf({ source, taken }: Clearing): Work<Ground | null> {
  const { width, height, data } = source;
  const sums = new Sums(width, height, CELL);
  const cells = new Cells(width, height, CELL);
  const art = new Uint8Array(cells.count);
  const atOnce = rowsAtOnce(width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % atOnce === 0) yield (0.4 * y) / height;
    for (let x = 0; x < width; x++, i++) if (taken[i] === 0) art[cells.at(x, y)] = 1;
  }
  const bare: (readonly [number, number])[] = [];
  for (let row = 0; row < sums.down; row++)
    for (let column = 0; column < sums.across; column++)
      if (cells.sumAbout(art, column * CELL, row * CELL) === 0) bare.push([column, row]);
  function* eachBare(
    stride: number,
    act: (i: number, column: number, row: number, x: number, y: number) => void,
  ): Work<void> {
    for (const [n, [column, row]] of bare.entries()) {
      if (n % 2048 === 0) yield n / bare.length;
      for (let y = row * CELL; y < Math.min(height, (row + 1) * CELL); y += stride)
        for (let x = column * CELL; x < Math.min(width, (column + 1) * CELL); x += stride)
          act(y * width + x, column, row, x, y);
    }
  }
  yield* workSlice(
    eachBare(4, (i, column, row) => sums.add(column, row, data, i * 4)),
    0.4,
    0.7,
  );
  if (bare.length === 0) return null;
  const surface = new Surface(sums, CELL);
  const counts = new Float64Array(256);
  const b = new Float64Array(3);
  yield* workSlice(
    eachBare(8, (i, _column, _row, x, y) => {
      surface.at(x, y, b);
      counts[Math.min(255, Math.round(4 * apart(data, b, i * 4)))]++;
    }),
    0.7,
    1,
  );
  const grain = percentile(counts, USUAL) / 4;
  return { surface, grain: Math.max(GRAIN, grain), holds: grain < NO_GRAIN ? RIPPLE : HOLDS };
}

/** The parts of the picture in and about which stretches of the edge may be soft. */
function* likelySoft(
  { source: { width, height, data }, taken }: Clearing,
  rim: Rim,
  outer: readonly number[],
  { surface, grain }: Ground,
): Work<Rect[]> {
  const votes = new Votes(width, height);
  const b = new Float64Array(3);
  for (const [n, i] of outer.entries()) {
    if (n % EDGE_AT_ONCE === 0) yield (0.8 * n) / outer.length;
    const way = rim.inwardsAt(i);
    const [x, y] = [i % width, Math.floor(i / width)];
    if (!way || rim.cells.kindAt(x, y) === "soft") continue;
    for (let step = 2; step <= TAIL_TO; step++) {
      const [u, v] = [Math.round(x - step * way[0]), Math.round(y - step * way[1])];
      if (u < 0 || v < 0 || u >= width || v >= height || taken[v * width + u] === 0) break;
      surface.at(u, v, b);
      votes.count(u, v, apart(data, b, (v * width + u) * 4) > BEYOND * grain);
    }
  }
  const [across, down] = [Math.ceil(width / TILE), Math.ceil(height / TILE)];
  const likely = new Uint8Array(across * down);
  for (const [n, i] of outer.entries()) {
    if (n % EDGE_AT_ONCE === 0) yield 0.8 + (0.2 * n) / outer.length;
    const [x, y] = [i % width, Math.floor(i / width)];
    if (!votes.isOver(x, y, LIKELY)) continue;
    const [left, top] = [Math.max(0, x - BESIDE), Math.max(0, y - BESIDE)];
    const [right, foot] = [Math.min(width - 1, x + BESIDE), Math.min(height - 1, y + BESIDE)];
    for (const v of [top, foot])
      for (const u of [left, right]) likely[Math.floor(v / TILE) * across + Math.floor(u / TILE)] = 1;
  }
  const tiles: Rect[] = [];
  likely.forEach((is, n) => {
    const [x, y] = [TILE * (n % across), TILE * Math.floor(n / across)];
    if (is) tiles.push({ x, y, width: Math.min(TILE, width - x), height: Math.min(TILE, height - y) });
  });
  return tiles;
}

/** Looks exactly at those parts, and gives every pixel of their soft stretches the cover it has. */
function* solveIn(
  tiles: readonly Rect[],
  clearing: Clearing,
  rim: Rim,
  { surface, grain, holds }: Ground,
): Work<void> {
  const { source, data, held } = clearing;
  const { width, height, data: from } = source;
  // Squared distances from art and from taken ground; where they are not told nothing is looked for.
  const [out, deep] = [new Uint8Array(width * height), new Uint8Array(width * height)];
  const sums = new Sums(width, height, ART_CELL);
  for (const [n, tile] of tiles.entries()) {
    yield (0.5 * n) / tiles.length;
    yield* distancesIn(tile, clearing, out, deep);
    forEachIn(tile, width, (i, x, y) => {
      if (out[i] === 0 && deep[i] >= INSIDE ** 2)
        sums.add(Math.floor(x / ART_CELL), Math.floor(y / ART_CELL), from, i * 4);
    });
  }
  if (sums.isEmpty) return;
  const art = new Surface(sums, ART_CELL);
  const [b, f] = [new Float64Array(3), new Float64Array(3)];
  const mixedAt = (i: number, x: number, y: number) => {
    surface.at(x, y, b);
    art.at(x, y, f);
    return mixture(from, f, b, i * 4);
  };
  const votes = new Votes(width, height);
  for (const [n, tile] of tiles.entries()) {
    yield 0.5 + (0.25 * n) / tiles.length;
    forEachIn(tile, width, (i, x, y) => {
      if (out[i] < TAIL_FROM ** 2 || out[i] > TAIL_TO ** 2) return;
      const { share, off } = mixedAt(i, x, y);
      const isMixture = share > holds && off < OFF * share + REST;
      votes.count(x, y, isMixture && apart(from, b, i * 4) > BEYOND * grain);
    });
  }
  for (const [n, tile] of tiles.entries()) {
    yield 0.75 + (0.25 * n) / tiles.length;
    forEachIn(tile, width, (i, x, y) => {
      const isArt = out[i] === 0;
      if (isArt ? deep[i] > INSIDE ** 2 : out[i] > OUTSIDE ** 2) return;
      if (from[i * 4 + 3] === 0 || (held && held[i] >= 128)) return;
      if (!votes.isOver(x, y, SOFT) || rim.cells.kindAt(x, y) === "soft") return;
      const { share, off, whole } = mixedAt(i, x, y);
      if (whole < APART || (!isArt && off > OFF * share + REST)) return;
      const cover = share < grain / Math.sqrt(whole) ? 0 : share > WHOLE ? 1 : share;
      data[i * 4 + 3] = Math.round(cover * from[i * 4 + 3]);
      if (data[i * 4 + 3] === 0) return;
      // The thinner the cover, the more its own colour is noise; then the art's is the better guess.
      const trust = cover ** 2;
      for (let k = 0; k < 3; k++) {
        const told = freed(from[i * 4 + k], b[k], cover) * trust + f[k] * (1 - trust);
        data[i * 4 + k] = Math.max(0, Math.min(255, Math.round(told)));
      }
    });
  }
}

/** Writes how far each pixel of a tile is from art and from taken ground, squared, 255 for all that is farther. */
function* distancesIn(
  { x, y, width, height }: Rect,
  { source, taken }: Clearing,
  out: Uint8Array,
  deep: Uint8Array,
): Work<void> {
  const [left, top] = [Math.max(0, x - OUTSIDE - 1), Math.max(0, y - OUTSIDE - 1)];
  const w = Math.min(source.width, x + width + OUTSIDE + 1) - left;
  const h = Math.min(source.height, y + height + OUTSIDE + 1) - top;
  const [art, gone] = [new Uint8Array(w * h), new Uint8Array(w * h)];
  forEachIn({ x: left, y: top, width: w, height: h }, source.width, (i, u, v) => {
    const n = (v - top) * w + u - left;
    gone[n] = taken[i];
    art[n] = +(taken[i] === 0 && source.data[i * 4 + 3] !== 0);
  });
  const toArt = yield* squaredDistanceTo(art, w, h);
  const toGone = yield* squaredDistanceTo(gone, w, h);
  forEachIn({ x, y, width, height }, source.width, (i, u, v) => {
    const n = (v - top) * w + u - left;
    out[i] = Math.min(255, toArt[n]);
    deep[i] = Math.min(255, toGone[n]);
  });
}

function forEachIn(
  { x, y, width, height }: Rect,
  across: number,
  act: (i: number, x: number, y: number) => void,
): void {
  for (let v = y; v < y + height; v++) for (let u = x; u < x + width; u++) act(v * across + u, u, v);
}

/** Yes and no, counted by cells; asked for a cell with those about it. */
class Votes {
  private readonly cells: Cells;
  private readonly yes: Uint32Array;
  private readonly all: Uint32Array;

  constructor(width: number, height: number) {
    this.cells = new Cells(width, height, CELL);
    this.yes = new Uint32Array(this.cells.count);
    this.all = new Uint32Array(this.cells.count);
  }

  count(x: number, y: number, yes: boolean): void {
    const cell = this.cells.at(x, y);
    this.all[cell]++;
    if (yes) this.yes[cell]++;
  }

  /** Whether more than a share of those about a place are yes, and enough were counted. */
  isOver(x: number, y: number, share: number): boolean {
    const all = this.cells.sumAbout(this.all, x, y);
    return all > LEAST && this.cells.sumAbout(this.yes, x, y) > share * all;
  }
}
