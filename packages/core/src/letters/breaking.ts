import { lineIn } from "./line";
import { type Typeface } from "./typeface";

/** So many lines are tried at most. */
const MOST_LINES = 6;

/** Words of a line, and how long each is, in capitals' heights. */
const wordsOf = (text: string): string[] => text.split(/[ \t]+/).filter((w) => w !== "");

/**
 * For each number of lines from two on, where to break between words so that the longest line is as short as can be: the
 * numbers of the words that begin lines. Found by trying every break for every number of lines, shortest first.
 */
export function waysToBreak(
  face: Typeface,
  { trackingPercent }: { readonly trackingPercent: number },
  text: string,
): number[][] {
  const words = wordsOf(text);
  const gap = (trackingPercent / 100) * face.capital;
  const long = (line: string): number =>
    lineIn(face, line, gap !== 0).reduce((sum, c) => sum + c.advance + gap, -gap);
  // Of every run of words, how long it is: words and the spaces between them.
  const [own, space] = [words.map(long), long(" ") + 2 * gap];
  const ends = own.reduce((sums, width) => [...sums, sums[sums.length - 1] + width], [0]);
  const length = words.map((_, from) =>
    words.map((__, to) => ends[to + 1] - ends[from] + (to - from) * space),
  );
  const ways: number[][] = [];
  // least[k]: the shortest longest line of the words before k, in the lines so far.
  let least = words.map((_, k) => length[0]?.[k] ?? 0);
  let begins: number[][] = words.map(() => [0]);
  for (let lines = 2; lines <= Math.min(MOST_LINES, words.length); lines++) {
    const next: number[] = [];
    const nextBegins: number[][] = [];
    for (let k = 0; k < words.length; k++) {
      let [best, at] = [Infinity, -1];
      for (let from = lines - 1; from <= k; from++) {
        const longest = Math.max(least[from - 1], length[from][k]);
        if (longest < best) [best, at] = [longest, from];
      }
      next.push(best);
      nextBegins.push(at < 0 ? [] : [...begins[at - 1], at]);
    }
    [least, begins] = [next, nextBegins];
    ways.push(begins[words.length - 1]);
  }
  return ways;
}

/** Lines of a text whose words begin lines where it is said. */
export function brokenAt(text: string, begins: readonly number[]): string[] {
  const words = wordsOf(text);
  return begins.map((from, k) => words.slice(from, begins[k + 1]).join(" "));
}
