import { type Work } from "../maths/work";
import { coverOfRings } from "../path/cover";
import { type KnotPath } from "../path/pathSet";
import { evenOdd } from "../polygon/clip";
import { ringsOf } from "../path/flatten";
import { pathSetOf } from "../path/pathSet";
import { curveBox } from "../path/curveBox";
import { type FontKey } from "./shelf";
import { type Typeface } from "./typeface";

/** Letters that those of a picture are held against. */
const LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789&";
/** Both are drawn into a square of so many pixels, as high or as wide as it is. */
const SIDE = 40;
/** An outline is drawn from straight pieces so near to it, as a share of a letter's height. */
const NEAR = 0.004;
/** So many letters at most are looked at. */
const MOST_LETTERS = 40;
/** Letters further apart than this share of the highest have a space between them. */
const SPACE = 0.28;

/** A letter as cover of a square, with how wide it is by its height. */
interface Drawn {
  readonly cover: Uint8Array;
  readonly proportion: number;
  /** Of its box: in mm, or, in a font, in ems. */
  readonly height: number;
}

/** A font that may be the one, 0 to 1: how much of its letters and of those in the picture is in both. */
export interface Likeness {
  readonly font: FontKey;
  readonly alike: number;
  /** What the letters are in this font, from left to right; what no letter is like is left out. */
  readonly read: string;
  /** How high its capitals would be, in mm. */
  readonly capitalMm: number;
}

const known = new WeakMap<Typeface, readonly (Drawn & { readonly letter: string })[]>();

/**
 * Which of several fonts letters are set in, the likeliest first. Each shape, made as large as the other, is held against every
 * letter of every font by the area in both over the area in either, and by how wide it is by its height. Which letters they are
 * need not be known.
 *
 * @param shapes  letters with their holes, upright, on one line; in mm, y downwards
 */
export function* whichFont(
  shapes: readonly (readonly KnotPath[])[],
  fonts: readonly (readonly [FontKey, Typeface])[],
): Work<Likeness[]> {
  const looked = lettersIn(shapes).slice(0, MOST_LETTERS);
  const own: Drawn[] = [];
  for (const { paths } of looked) own.push(yield* drawn(paths));
  const highest = Math.max(...own.map((one) => one.height));
  const apart = looked.map(({ box }, k) => {
    const next = looked[k + 1]?.box;
    return next !== undefined && next.x - box.x - box.width > SPACE * highest ? " " : "";
  });
  const found: Likeness[] = [];
  for (const [k, [font, face]] of fonts.entries()) {
    yield k / fonts.length;
    const letters = known.get(face) ?? (yield* lettersOf(face));
    known.set(face, letters);
    // What is alike but for its size, as o and O are, is told by how large the others come out.
    const first = emOf(
      own,
      own.map((one) => nearest(one, letters)),
    );
    const best = own.map((one) => nearest(one, letters, first));
    const alike = best.reduce((sum, b) => sum + b.alike, 0) / Math.max(1, best.length);
    const capitalMm = emOf(own, best) * face.capital;
    const read = best.map(({ letter }, j) => letter + apart[j]).join("");
    found.push({ font, alike, read, capitalMm });
  }
  return found.sort((a, b) => b.alike - a.alike);
}

/** Shapes as letters from left to right: what lies over another, as the dot of an i, is of the same letter. */
function lettersIn(shapes: readonly (readonly KnotPath[])[]) {
  const letters = shapes
    .filter((paths) => paths.length > 0)
    .map((paths) => ({ paths, box: curveBox(paths)! }))
    .sort((a, b) => a.box.x - b.box.x);
  for (let k = 1; k < letters.length; k++) {
    const [before, own] = [letters[k - 1], letters[k]];
    const over = Math.min(before.box.x + before.box.width, own.box.x + own.box.width) - own.box.x;
    if (over < OVER * Math.min(before.box.width, own.box.width)) continue;
    const paths = [...before.paths, ...own.paths];
    letters.splice(k - 1, 2, { paths, box: curveBox(paths)! });
    k--;
  }
  return letters;
}

/** Shapes of one letter lie over one another by this share of the narrower. */
const OVER = 0.6;

function* lettersOf(face: Typeface): Work<(Drawn & { letter: string })[]> {
  const letters: (Drawn & { letter: string })[] = [];
  for (const letter of LETTERS) {
    if (!face.has(letter)) continue;
    yield 0;
    const [{ glyph }] = face.shaped(letter, false);
    // Upwards in a font, downwards on a piece.
    const paths = face.outlines(glyph).map((path) => upsideDown(path));
    if (paths.length > 0 && !face.isLines) letters.push({ letter, ...(yield* drawn(paths)) });
  }
  return letters;
}

const upsideDown = ({ knots, closed }: KnotPath): KnotPath => ({
  closed,
  knots: knots.map(({ at, in: back, out }) => ({
    at: [at[0], -at[1]] as const,
    ...(back && { in: [back[0], -back[1]] as const }),
    ...(out && { out: [out[0], -out[1]] as const }),
  })),
});

/** A letter's outlines as cover of a square that it fills one way, in its middle the other. */
function* drawn(paths: readonly KnotPath[]): Work<Drawn> {
  const { x, y, width, height } = curveBox(paths)!;
  const scale = SIDE / Math.max(width, height);
  const [left, top] = [x - (SIDE / scale - width) / 2, y - (SIDE / scale - height) / 2];
  const set = pathSetOf({ name: "", use: "fill", colour: 0 }, paths);
  const mm = ringsOf(set, NEAR * height);
  // The library works in whole tenths of a micrometre: as large as a square of so many mm, that is fine enough.
  const rings = evenOdd(mm.map((ring) => ring.map((v, k) => (v - (k % 2 ? top : left)) * scale)));
  return { cover: yield* coverOfRings(rings, SIDE, SIDE), proportion: width / height, height };
}

/** The size of an em in mm, as most letters have it. */
function emOf(own: readonly Drawn[], best: readonly { readonly height: number }[]): number {
  const ems = best.flatMap(({ height }, j) => (height > 0 ? [own[j].height / height] : []));
  return ems.sort((a, b) => a - b)[ems.length >> 1] ?? 0;
}

/** @param em  its size in mm, where it is known */
function nearest(one: Drawn, letters: readonly (Drawn & { readonly letter: string })[], em = 0) {
  let best = { alike: 0, letter: "", height: 0 };
  for (const { letter, cover, proportion, height } of letters) {
    const size = em > 0 ? Math.min(one.height, height * em) / Math.max(one.height, height * em) : 1;
    const shape = (size * Math.min(one.proportion, proportion)) / Math.max(one.proportion, proportion);
    if (shape <= best.alike) continue;
    const alike = shape * shared(one.cover, cover);
    if (alike > best.alike) best = { alike, letter, height };
  }
  return best;
}

/** The area in both over the area in either. @see Jaccard, "The distribution of the flora in the alpine zone", 1912 */
function shared(a: Uint8Array, b: Uint8Array): number {
  let [both, either] = [0, 0];
  for (let k = 0; k < a.length; k++) {
    const [p, q] = [a[k], b[k]];
    both += p < q ? p : q;
    either += p < q ? q : p;
  }
  return either === 0 ? 0 : both / either;
}
