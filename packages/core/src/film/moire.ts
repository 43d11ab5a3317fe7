import { sinPi } from "../maths/steady";
import { MM_PER_INCH } from "../maths/units";

/** A regular pattern: a screen's lines, or the threads of a mesh. */
export interface Ruled {
  readonly name: string;
  /** Lines or threads to the millimetre. */
  readonly perMm: number;
  /** Degrees. */
  readonly angle: number;
  /** How many times its own frequency it is looked at: a screen's dots have overtones, threads hardly any. */
  readonly orders: number;
}

/** Two patterns that beat with each other. */
export interface Beat {
  readonly one: string;
  readonly other: string;
  /** Length of the beat; Infinity where the two lie on each other. */
  readonly mm: number;
}

export const ruledScreen = (name: string, linesPerInch: number, angle: number): Ruled => ({
  name,
  perMm: linesPerInch / MM_PER_INCH,
  angle,
  orders: 1,
});

/** A screen as its mesh meets it: threads are much finer than lines, so it is the overtones of dots that they beat with. */
export const overtones = (screen: Ruled): Ruled => ({ ...screen, orders: MOST_ORDER });

/** Overtones above this are too weak to be seen. */
const MOST_ORDER = 4;

/** A beat no longer than so many of the coarser pattern's own lines is the rosette that every pair makes. */
const ROSETTE = 3;

/**
 * The beats of patterns with each other that are longer than a rosette. Two gratings make a third, whose frequency is the
 * difference of theirs as vectors; square patterns repeat after a quarter turn.
 *
 * @param longestMm  what is longer than the art is not seen as a pattern
 * @see Amidror, "The Theory of the Moiré Phenomenon", 2000, chapter 2
 */
export function beatsOf(pairs: readonly (readonly [Ruled, Ruled])[], longestMm: number): Beat[] {
  const found: Beat[] = [];
  for (const [one, other] of pairs) {
    let least = Infinity;
    for (const [fx, fy] of frequencies(one))
      for (const [gx, gy] of frequencies(other)) {
        const off = Math.sqrt((fx - gx) ** 2 + (fy - gy) ** 2);
        least = Math.min(least, off);
      }
    const mm = least < 1 / longestMm ? Infinity : 1 / least;
    if (mm > ROSETTE / Math.min(one.perMm, other.perMm)) found.push({ one: one.name, other: other.name, mm });
  }
  return found.sort((a, b) => b.mm - a.mm);
}

/** Whole combinations of the pattern's two directions, up to its order: half of them, the rest are their opposites. */
function* frequencies({ perMm, angle, orders }: Ruled): Generator<readonly [number, number]> {
  const [c, s] = [sinPi(angle / 180 + 0.5), sinPi(angle / 180)];
  for (let a = -orders; a <= orders; a++)
    for (let b = -orders; b <= orders; b++) {
      if (Math.abs(a) + Math.abs(b) === 0 || Math.abs(a) + Math.abs(b) > orders) continue;
      yield [perMm * (a * c - b * s), perMm * (a * s + b * c)];
    }
}
