import bidiFactory from "bidi-js";
import { type Shaped, type Typeface } from "./typeface";

/** Letters that stay together: a letter with its accents, or several drawn as one. Lengths in ems. */
export interface Cluster {
  readonly glyphs: readonly Shaped[];
  readonly advance: number;
}

const bidi = bidiFactory();

/**
 * A line of text in a font, in the order in which it is seen: runs that go right to left are put in their place.
 *
 * @param apart  letters are set apart: those that are drawn as one are not
 * @see Unicode Standard Annex 9, "Unicode bidirectional algorithm"
 */
export const lineIn = (face: Typeface, text: string, apart = false): Cluster[] =>
  runsOf(text).flatMap(({ part, rightToLeft }) => together(face.shaped(part, rightToLeft, apart)));

/** Glyphs of one letter of the text follow one another. */
function together(shaped: readonly Shaped[]): Cluster[] {
  const groups: Shaped[][] = [];
  for (const glyph of shaped) {
    const last = groups.at(-1);
    if (last && last[0].letter === glyph.letter) last.push(glyph);
    else groups.push([glyph]);
  }
  return groups.map((glyphs) => ({ glyphs, advance: glyphs.reduce((sum, g) => sum + g.advance, 0) }));
}

/** Runs of a line that go one way each, from left to right as they are seen. */
function runsOf(text: string): { readonly part: string; readonly rightToLeft: boolean }[] {
  if (text === "") return [];
  const levels = bidi.getEmbeddingLevels(text);
  const order = Array.from({ length: text.length }, (_, k) => k);
  for (const [from, to] of bidi.getReorderSegments(text, levels))
    order.splice(from, to - from + 1, ...order.slice(from, to + 1).reverse());
  const runs: { part: string; rightToLeft: boolean }[] = [];
  let from = 0;
  for (let k = 1; k <= order.length; k++) {
    const step = order[k] - order[k - 1];
    const level = levels.levels[order[k - 1]];
    if (k < order.length && levels.levels[order[k]] === level && step === (level % 2 ? -1 : 1)) continue;
    const rightToLeft = level % 2 === 1;
    const [low, high] = rightToLeft ? [order[k - 1], order[from]] : [order[from], order[k - 1]];
    runs.push({ part: text.slice(low, high + 1), rightToLeft });
    from = k;
  }
  return runs;
}
