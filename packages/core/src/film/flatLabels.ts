/*
 * What each pixel of flat art is taken for: the number of an ink, or one of these.
 */

/** The cloth: what takes no ink. */
export const CLOTH = 0xff;
/** Marks a pixel that is none of the colours, but on the way between two. */
export const MIXED = 0x80;
/** Marks a pixel of an ink that has no whole area near: of a thin stroke, which may be mixed with what is beside it. */
export const THIN = 0x40;

/** Which of the numbers up to the last are set in a mask. */
export function numbersIn(mask: number, last: number): number[] {
  const list: number[] = [];
  for (let k = 0; k <= last; k++) if ((mask >> k) & 1) list.push(k);
  return list;
}
