import { type KnotPath } from "../path/pathSet";
import { outlinesDrawn } from "./drawnOutlines";
import { CAPITAL, OUTLINES } from "./outlines";

/** Text as outlines, and how long the line is. */
export interface SetLine {
  readonly paths: readonly KnotPath[];
  readonly width: number;
}

/** Stands for a letter that the font has not. */
const MISSING = "?".codePointAt(0)!;

/**
 * A line of text in the shipped font, as closed outlines; counters run the other way round.
 *
 * @param height  of a capital, in the unit of the result
 * @param x, y    where the line begins, at its foot; y downwards
 */
export function setText(text: string, height: number, x = 0, y = 0): SetLine {
  const scale = height / CAPITAL;
  const paths: KnotPath[] = [];
  let at = 0;
  for (const letter of text) {
    const [advance, drawn] = OUTLINES[letter.codePointAt(0)!] ?? OUTLINES[MISSING];
    const place = (u: number, v: number): readonly [number, number] => [x + (at + u) * scale, y - v * scale];
    paths.push(...outlinesDrawn(drawn, place));
    at += advance;
  }
  return { paths, width: at * scale };
}
