import { rowsAtOnce, type Work } from "../../maths/work";
import { flood } from "../../region/flood";
import { type Rect } from "../../raster/types";
import { strangeness, type ColourModel } from "./colourModel";
import { AWAY, KEEP } from "./said";

// Thresholds: what they decide is measured by `npm run scenes`.

/** Squared spreads from every known colour of the ground beyond which a pixel is not explained by it. */
const STRANGE = 9;
/** A part of a colour that nobody stroked is at most so large, as a share of the subject. */
const PART = 0.12;
/** A hole is filled when it is no larger than this share of the subject, or when the ground does not explain it. */
const SMALL_HOLE = 0.004;
const HOLE = 0.06;
/** So much of a hole's pixels must be strange to the ground. */
const UNEXPLAINED = 0.5;
/** A piece that no stroke is on, and that is smaller than this share of the largest with one, is none of the subject. */
const PIECE = 0.3;

interface Region extends Rect {
  readonly pixels: number;
  readonly seed: number;
}

/**
 * What the cut left in pieces is put right: pieces of no stroke go, parts of strange colours that stand on the subject
 * and holes in it join it, as a beak, an eye or a strap does.
 *
 * @param subject  1 = subject; changed in place
 */
export function* putRight(
  subject: Uint8Array,
  said: Uint8Array,
  lab: Float32Array,
  back: ColourModel,
  width: number,
  height: number,
): Work<void> {
  yield* dropPieces(subject, said, width, height);
  yield 0.3;
  let size = 0;
  for (let i = 0; i < subject.length; i++) size += subject[i];
  if (size === 0) return;
  const strange = new Uint8Array(subject.length);
  const atOnce = rowsAtOnce(8 * width) * width;
  for (let i = 0; i < strange.length; i++) {
    if (i % atOnce === 0) yield 0.3 + (0.3 * i) / strange.length;
    if (subject[i] === 0 && said[i] !== AWAY && isStrange(lab, back, i)) strange[i] = 1;
  }
  yield* joinParts(subject, said, strange, PART * size, width, height);
  yield 0.8;
  yield* fillHoles(subject, said, lab, back, size, width, height);
}

const isStrange = (lab: Float32Array, back: ColourModel, i: number): boolean =>
  strangeness(back, lab[i * 3], lab[i * 3 + 1], lab[i * 3 + 2]) > STRANGE;

function* regionsOf(plane: Uint8Array, width: number, height: number, kind: number): Work<Region[]> {
  const found: Region[] = [];
  for (let i = 0; i < plane.length; i++) {
    if (plane[i] !== kind) continue;
    const filled = yield* flood(plane, width, height, [i], kind, kind + 2);
    found.push({ ...filled, seed: i });
  }
  return found;
}

/** Acts on every pixel of a region that was flooded to `kind`. */
function* eachOf(
  plane: Uint8Array,
  width: number,
  height: number,
  region: Region,
  kind: number,
  act: (i: number) => void,
): Work<void> {
  const MARK = 99;
  yield* flood(plane, width, height, [region.seed], kind, MARK);
  for (let y = region.y; y < region.y + region.height; y++)
    for (let i = y * width + region.x; i < y * width + region.x + region.width; i++) {
      if (plane[i] !== MARK) continue;
      plane[i] = kind;
      act(i);
    }
}

function* dropPieces(subject: Uint8Array, said: Uint8Array, width: number, height: number): Work<void> {
  const plane = subject.slice();
  const pieces = yield* regionsOf(plane, width, height, 1);
  const stroked: boolean[] = [];
  for (const piece of pieces) {
    let kept = false;
    yield* eachOf(plane, width, height, piece, 3, (i) => (kept ||= said[i] === KEEP));
    stroked.push(kept);
  }
  const largest = Math.max(0, ...pieces.filter((_, k) => stroked[k]).map((p) => p.pixels));
  for (const [k, piece] of pieces.entries())
    if (!stroked[k] && piece.pixels < PIECE * largest)
      yield* eachOf(plane, width, height, piece, 3, (i) => (subject[i] = 0));
}

const isOpen = ({ x, y, width: w, height: h }: Region, width: number, height: number): boolean =>
  x === 0 || y === 0 || x + w === width || y + h === height;

function* joinParts(
  subject: Uint8Array,
  said: Uint8Array,
  strange: Uint8Array,
  most: number,
  width: number,
  height: number,
): Work<void> {
  for (const part of yield* regionsOf(strange, width, height, 1)) {
    if (part.pixels < 4 || part.pixels > most || isOpen(part, width, height)) continue;
    let [beside, away] = [0, false];
    yield* eachOf(strange, width, height, part, 3, (i) => {
      if (subject[i - 1] || subject[i + 1] || subject[i - width] || subject[i + width]) beside++;
      away ||= said[i] === AWAY;
    });
    if (beside > 0 && !away) yield* eachOf(strange, width, height, part, 3, (i) => (subject[i] = 1));
  }
}

function* fillHoles(
  subject: Uint8Array,
  said: Uint8Array,
  lab: Float32Array,
  back: ColourModel,
  size: number,
  width: number,
  height: number,
): Work<void> {
  const plane = subject.slice();
  for (const hole of yield* regionsOf(plane, width, height, 0)) {
    if (hole.pixels > HOLE * size || isOpen(hole, width, height)) continue;
    let [strange, away] = [0, false];
    yield* eachOf(plane, width, height, hole, 2, (i) => {
      if (isStrange(lab, back, i)) strange++;
      away ||= said[i] === AWAY;
    });
    const filled = hole.pixels <= SMALL_HOLE * size || strange > UNEXPLAINED * hole.pixels;
    if (filled && !away) yield* eachOf(plane, width, height, hole, 2, (i) => (subject[i] = 1));
  }
}
