import { type Knot } from "../path/outline";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import { ringsOf } from "../path/flatten";
import { scaledPath } from "../path/scaled";
import { evenOdd, joined } from "../polygon/clip";
import { areaOf } from "../polygon/rings";
import { isSame, outlinesDrawn } from "./drawnOutlines";
import { shaper } from "./shaper";

/** A glyph of a line. Lengths in ems. */
export interface Shaped {
  /** Its number in the font. */
  readonly glyph: number;
  /** The letter of the text that it begins at, by its index. */
  readonly letter: number;
  /** How far on the next one is. */
  readonly advance: number;
  /** How far from where it would stand it is drawn. */
  readonly dx: number;
  readonly dy: number;
}

/** Of this many outlines, all there and back, a font is one of single lines. */
const LOOKED_AT = ["H", "n", "o", "e", "1", "\u05d0", "\u0627"] as const;
/** An em is looked at so large, in mm, for what lies over what. */
const LOOKED_AT_MM = 20;
const COARSE_MM = 0.02;
/** Areas differ by less than this share where nothing lies over anything. */
const HARDLY = 1e-4;
/** A capital is so high where a font has none, in ems. */
const USUAL_CAPITAL = 0.7;

/**
 * A font that was read: what its letters look like and how they follow one another. Lengths are in ems, y upwards from the
 * foot of the letters.
 */
export class Typeface {
  /** How high a capital is, in ems: of an H, or, without one, of the highest of a few letters. */
  readonly capital: number;
  /** Drawn there and back along the same line: its letters are lines, not shapes. */
  readonly isLines: boolean;
  private readonly font;
  private readonly em: number;
  private readonly codes: ReadonlySet<number>;
  private readonly known = new Map<number, readonly KnotPath[]>();
  private readonly whole = new Map<number, boolean>();

  /** @param bytes  of a TTF or OTF that `fontFault` finds whole */
  constructor(bytes: Uint8Array) {
    const hb = shaper();
    const face = hb.createFace(hb.createBlob(bytes), 0);
    this.font = hb.createFont(face);
    this.em = face.upem;
    this.codes = new Set(face.collectUnicodes());
    const looked = LOOKED_AT.filter((c) => this.has(c)).map((c) => this.raw(this.shaped(c, false)[0].glyph));
    const drawn = looked.filter((paths) => paths.length > 0);
    this.isLines = drawn.length > 0 && drawn.every((paths) => paths.every(isThereAndBack));
    this.capital = highest(this.has("H") ? drawn.slice(0, 1) : drawn) || USUAL_CAPITAL;
  }

  /** How many letters it has. */
  get letters(): number {
    return this.codes.size;
  }

  /** The first of its letters, in the order of their codes. */
  someLetters(most: number): string {
    const codes = [...this.codes].filter((code) => code > 0x20).sort((a, b) => a - b);
    return String.fromCodePoint(...codes.slice(0, most));
  }

  /** Whether it has a letter. */
  has = (letter: string): boolean => this.codes.has(letter.codePointAt(0)!);

  /**
   * Letters of a run that all go one way, in the order in which they are seen from left to right.
   * @param apart  they are set apart: those that are drawn as one are not
   */
  shaped(text: string, rightToLeft: boolean, apart = false): Shaped[] {
    const hb = shaper();
    const buffer = hb.createBuffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    buffer.setDirection(rightToLeft ? "rtl" : "ltr");
    hb.shape(this.font, buffer, apart ? "-liga,-clig" : "");
    const made = buffer.json();
    buffer.destroy();
    const ems = (units: number): number => units / this.em;
    return made.map(({ g, cl, ax, dx, dy }) => ({
      ...{ glyph: g, letter: cl, advance: ems(ax), dx: ems(dx), dy: ems(dy) },
    }));
  }

  /** A glyph's outlines, counters the other way round; of single lines, the lines. */
  outlines(glyph: number): readonly KnotPath[] {
    let paths = this.known.get(glyph);
    if (!paths) {
      paths = this.raw(glyph);
      if (this.isLines) paths = paths.map(oneWay);
      this.known.set(glyph, paths);
    }
    return paths;
  }

  /** Whether no outline of a glyph lies over another, or crosses itself: it is as it is seen filled. */
  isClean(glyph: number): boolean {
    let is = this.whole.get(glyph);
    if (is === undefined) {
      const large = this.outlines(glyph).map((path) => scaledPath(path, LOOKED_AT_MM));
      const rings = ringsOf(pathSetOf({ name: "", use: "fill", colour: 0 }, large), COARSE_MM);
      const [once, odd] = [areaOf(joined(rings, [])), areaOf(evenOdd(rings))];
      this.whole.set(glyph, (is = Math.abs(once - odd) <= HARDLY * Math.abs(once)));
    }
    return is;
  }

  private raw(glyph: number): KnotPath[] {
    const scale = 1 / this.em;
    return outlinesDrawn(this.font.glyphToPath(glyph), (u, v) => [u * scale, v * scale]);
  }
}

const highest = (drawn: readonly (readonly KnotPath[])[]): number =>
  Math.max(0, ...drawn.flat().flatMap((path) => path.knots.map((k) => k.at[1])));

/** Whether an outline goes along a line and back along the same. */
function isThereAndBack({ knots }: KnotPath): boolean {
  const count = knots.length;
  return count % 2 === 0 && knots.every((knot, k) => k === 0 || isSame(knot.at, knots[count - k].at));
}

/** The line that an outline runs along and back. */
function oneWay({ knots }: KnotPath): KnotPath {
  const there = knots.slice(0, knots.length / 2 + 1);
  const [first, last] = [there[0], there[there.length - 1]];
  if (isSame(first.at, last.at) && there.length > 3)
    return { knots: [{ ...first, in: last.in }, ...there.slice(1, -1)].map(withoutNone), closed: true };
  const open = [{ at: first.at, out: first.out }, ...there.slice(1, -1), { at: last.at, in: last.in }];
  return { knots: open.map(withoutNone), closed: false };
}

const withoutNone = ({ at, in: back, out }: Knot): Knot => ({
  at,
  ...(back ? { in: back } : {}),
  ...(out ? { out } : {}),
});
