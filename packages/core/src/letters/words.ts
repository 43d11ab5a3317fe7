import { type Point } from "../fit/line";
import { workSlice, type Work } from "../maths/work";
import { curveBox } from "../path/curveBox";
import { affinePath, type Affine } from "../path/affine";
import { ringsOf } from "../path/flatten";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import * as atOnce from "../polygon/clip";
import { evenOdd, joined, without } from "../polygon/inSlices";
import { keptCurves, traceable } from "../polygon/keptCurves";
import { bridgesOf, holesOf } from "../polygon/islands";
import { areaOf, type Rings } from "../polygon/rings";
import { type Rect } from "../raster/types";
import { arc, circle, straight, type Baseline } from "./baseline";
import { brokenAt, waysToBreak } from "./breaking";
import { lineIn, type Cluster } from "./line";
import { type Typeface } from "./typeface";

/** How words are set. Lengths in mm. */
export interface HowSet {
  /** Lines are parted by line feeds. */
  readonly text: string;
  /** Height of a capital. */
  readonly capitalMm: number;
  /** Room between letters besides their own, in percent of a capital's height. */
  readonly trackingPercent: number;
  /** From line to line, in capitals' heights. */
  readonly leading: number;
  readonly align: "left" | "middle" | "right";
  /** What they stand on; a straight line when left out. */
  readonly on?:
    | Baseline
    | { readonly arcMm: number }
    | { readonly circleMm: number; readonly side: "outside" | "inside"; readonly spread: boolean };
  /** Room that they are to fit into. */
  readonly box?: {
    readonly widthMm: number;
    readonly heightMm: number;
    readonly tooLong: "shrink" | "break" | "tell";
  };
  /** Width of bridges that hold the insides of letters which are cut out; 0 for none. */
  readonly bridgeMm: number;
}

/** Words as outlines about the place that they are set at, in mm, y downwards. */
export interface SetWords {
  readonly paths: readonly KnotPath[];
  /** They are lines to be run along, not shapes. */
  readonly isLines: boolean;
  /** What they came to: lower than wished where they were made to fit. */
  readonly capitalMm: number;
  readonly lines: readonly string[];
  /** They have the room that they need. */
  readonly fits: boolean;
  /** Letters that the font has not. */
  readonly missing: readonly string[];
  /** Box of all outlines; null where there are none. */
  readonly box: Rect | null;
}

/** Words in a font, as outlines that no other of them crosses: letters that lie over one another are one shape. */
export function* setWords(face: Typeface, how: HowSet): Work<SetWords> {
  const text = how.text.normalize("NFC");
  const missing = [...new Set([...text])].filter((c) => !/\s/.test(c) && !isControl(c) && !face.has(c));
  const given = text.split("\n");
  const { lines, capitalMm, fits } = fitted(face, how, given);
  const made = placedLetters(face, how, lines, capitalMm);
  const letters = made.letters;
  const paths = face.isLines
    ? letters.flatMap((l) => l.paths)
    : yield* workSlice(bridged(yield* workSlice(welded(letters), 0, 0.7), how.bridgeMm), 0.7, 1);
  return {
    ...{ paths, isLines: face.isLines, capitalMm, lines, missing },
    fits: fits && made.fits,
    box: curveBox(paths),
  };
}

const isControl = (letter: string): boolean => /[\p{Cc}\p{Cf}\p{Mn}]/u.test(letter);

/** The size, and the lines, in which words fit into their box. */
function fitted(face: Typeface, how: HowSet, given: readonly string[]) {
  const { box, capitalMm } = how;
  const asGiven = { lines: given, capitalMm, fits: true };
  if (!box || how.on) return asGiven;
  const scaleOf = (lines: readonly string[]): number => {
    const ink = curveBox(placedLetters(face, how, lines, capitalMm).letters.flatMap((l) => l.paths));
    return ink ? Math.min(box.widthMm / ink.width, box.heightMm / ink.height) : 1;
  };
  const own = scaleOf(given);
  if (own >= 1 - FITS) return asGiven;
  if (box.tooLong === "tell") return { ...asGiven, fits: false };
  let [best, scale] = [given, own];
  if (box.tooLong === "break" && given.length === 1)
    for (const breaks of waysToBreak(face, how, given[0])) {
      const lines = brokenAt(given[0], breaks);
      const now = Math.min(1, scaleOf(lines));
      if (now > scale + FITS) [best, scale] = [lines, now];
    }
  return { lines: best, capitalMm: capitalMm * Math.min(1, scale), fits: true };
}

/** What is larger than its box by less than this share fits. */
const FITS = 1e-6;

interface Letter {
  readonly paths: readonly KnotPath[];
  /** No outline lies over another of the same letter. */
  readonly clean: boolean;
}

/** Letters where they stand. */
function placedLetters(face: Typeface, how: HowSet, lines: readonly string[], capitalMm: number) {
  const scale = capitalMm / face.capital;
  const gap = (how.trackingPercent / 100) * capitalMm;
  const { on } = how;
  const isRound = !!on && "circleMm" in on;
  const baseline: Baseline = !on
    ? straight
    : "arcMm" in on
      ? arc(on.arcMm)
      : isRound
        ? circle(on.circleMm / 2, on.side)
        : (on as Baseline);
  const lead = how.leading * capitalMm;
  // On a straight line and an arc the middle of the block lies where words are set; elsewhere their feet do.
  const first = !on || "arcMm" in on ? (capitalMm - (lines.length - 1) * lead) / 2 : 0;
  let fits = true;
  const letters = lines.flatMap((line, k) => {
    const clusters = lineIn(face, line, gap !== 0);
    const natural = clusters.reduce((sum, c) => sum + c.advance * scale + gap, -gap);
    if (natural > baseline.length) fits = false;
    const more =
      isRound && on.spread ? Math.max(0, baseline.length - natural - gap) / Math.max(1, clusters.length) : 0;
    const whole = natural + more * Math.max(0, clusters.length - 1);
    let at = how.align === "left" ? 0 : how.align === "middle" ? -whole / 2 : -whole;
    return clusters.map((cluster): Letter => {
      const width = cluster.advance * scale;
      const letter = letterAt(face, cluster, scale, baseline, at + width / 2, first + k * lead);
      at += width + gap + more;
      return letter;
    });
  });
  return { letters, fits };
}

/** A letter upright on its baseline, its middle so far along it, its foot so far below it. */
function letterAt(
  face: Typeface,
  { glyphs, advance }: Cluster,
  scale: number,
  on: Baseline,
  middle: number,
  below: number,
): Letter {
  const { place, way } = on.at(middle);
  const down: Point = [-way[1], way[0]];
  let pen = -advance / 2;
  const paths: KnotPath[] = [];
  for (const { glyph, dx, dy, advance: own } of glyphs) {
    const [u, v] = [(pen + dx) * scale, below - dy * scale];
    const m: Affine = [
      way[0] * scale,
      way[1] * scale,
      -down[0] * scale,
      -down[1] * scale,
      place[0] + way[0] * u + down[0] * v,
      place[1] + way[1] * u + down[1] * v,
    ];
    for (const path of face.outlines(glyph)) paths.push(affinePath(path, m));
    pen += own;
  }
  return { paths, clean: glyphs.length === 1 && face.isClean(glyphs[0].glyph) };
}

/** Areas in mm2 under this are none. */
const NO_AREA = 1e-4;

/** Letters that lie over one another as one shape each, with the curves that they have. */
function* welded(letters: readonly Letter[]): Work<KnotPath[]> {
  const drawn = letters.filter((l) => l.paths.length > 0);
  const boxes = drawn.map((l) => curveBox(l.paths)!);
  // Most letters meet no other: their rings are not needed.
  const areas = new Map<number, Rings>();
  const areaIn = (k: number): Rings => {
    const known = areas.get(k) ?? coarseRings(drawn[k].paths);
    areas.set(k, known);
    return known;
  };
  const group = drawn.map((_, k) => k);
  const rootOf = (k: number): number => (group[k] === k ? k : (group[k] = rootOf(group[k])));
  for (let k = 0; k < drawn.length; k++) {
    if (k % 8 === 7) yield (0.5 * k) / drawn.length;
    // A letter reaches over a few of those after it at most; the last of a circle over the first.
    for (const j of near(k, drawn.length))
      if (
        rootOf(j) !== rootOf(k) &&
        meet(boxes[k], boxes[j]) &&
        areaOf(atOnce.common(areaIn(k), areaIn(j))) > NO_AREA
      )
        group[rootOf(j)] = rootOf(k);
  }
  const paths: KnotPath[] = [];
  for (let k = 0; k < drawn.length; k++) {
    if (rootOf(k) !== k) continue;
    const members = drawn.filter((_, j) => rootOf(j) === k);
    if (members.length === 1 && members[0].clean) paths.push(...members[0].paths);
    else {
      const from = traceable(members.flatMap((l) => l.paths));
      paths.push(...(yield* keptCurves(yield* joined(from.rings, []), from)));
    }
  }
  return paths;
}

/** Whether letters touch is looked at on rings so near to them, in mm. */
const COARSE_MM = 0.02;
const coarseRings = (paths: readonly KnotPath[]): Rings =>
  ringsOf(pathSetOf({ name: "", use: "fill", colour: 0 }, paths), COARSE_MM);

/** How many letters on one may lie over another. */
const REACHES = 4;
const near = (k: number, count: number): number[] =>
  Array.from({ length: REACHES }, (_, d) => (k + d + 1) % count).filter((j) => j !== k);

const meet = (a: Rect, b: Rect): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** Letters with bridges to what lies in them; those without insides stay as they are. */
function* bridged(paths: KnotPath[], widthMm: number): Work<KnotPath[]> {
  if (widthMm === 0) return paths;
  const from = traceable(paths);
  const area = yield* evenOdd(from.rings);
  if (holesOf(area).length === 0) return paths;
  return yield* keptCurves(yield* without(area, bridgesOf(area, widthMm)), from);
}
