/*
 * A pixel at an edge is a mixture: colour = share * art + (1 - share) * background, channel by channel. What can be told
 * of one is told here, in whatever space the three colours are given.
 * @see Porter & Duff, "Compositing Digital Images", SIGGRAPH 1984
 */

/** Scalar product of two differences of colours. */
export const product = (ax: number, ay: number, az: number, bx: number, by: number, bz: number): number =>
  ax * bx + ay * by + az * bz;

/**
 * The share of art that explains a colour best.
 *
 * @param along  product of (colour - background) and (art - background)
 * @param whole  squared length of (art - background); where it is under 1 the two are one colour, and tell nothing
 */
export const shareOf = (along: number, whole: number): number => along / Math.max(1, whole);

/** One channel of the art in a mixture, the background's share taken out. @param share  above 0 */
export const freed = (mixed: number, back: number, share: number): number =>
  (mixed - (1 - share) * back) / share;

/**
 * How much of a colour is art, and how far off the line from background to art it lies, both as shares of that line;
 * and the line's squared length.
 *
 * @param from  where the colour's three numbers begin
 */
export function mixture(
  colour: ArrayLike<number>,
  art: ArrayLike<number>,
  back: ArrayLike<number>,
  from = 0,
): { share: number; off: number; whole: number } {
  const cx = colour[from] - back[0];
  const cy = colour[from + 1] - back[1];
  const cz = colour[from + 2] - back[2];
  const fx = art[0] - back[0];
  const fy = art[1] - back[1];
  const fz = art[2] - back[2];
  const whole = product(fx, fy, fz, fx, fy, fz);
  const own = product(cx, cy, cz, cx, cy, cz);
  const share = shareOf(product(cx, cy, cz, fx, fy, fz), whole);
  return { share, off: Math.sqrt(Math.max(0, own / Math.max(1, whole) - share * share)), whole };
}
