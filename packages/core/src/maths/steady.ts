/*
 * Elementary functions made of IEEE 754 operations that are rounded the same in every engine (+ - * / and
 * sqrt). Math.sin and its like may differ in the last bit between engines, and a last bit can move a dot.
 */

/** sin(pi x), good to 2e-15 of the true value for |x| up to 1000. */
export function sinPi(x: number): number {
  let t = x - 2 * Math.round(x / 2);
  if (t > 0.5) t = 1 - t;
  else if (t < -0.5) t = -1 - t;
  const a = Math.PI * t;
  const s = a * a;
  let sum = 0;
  for (let k = 12; k >= 1; k--) sum = (1 + sum) * (-s / (2 * k * (2 * k + 1)));
  return a * (1 + sum);
}

/** cos(pi x), as exact. */
export const cosPi = (x: number): number => sinPi(x + 0.5);

/** exp(-x) for x >= 0, good to 1e-14 relative: Taylor series of a reduced argument, then squared back up. */
export function expMinus(x: number): number {
  if (x > 700) return 0;
  let halvings = 0;
  let r = x;
  while (r > 0.25) {
    r /= 2;
    halvings++;
  }
  let sum = 1;
  for (let k = 14; k >= 1; k--) sum = 1 - (r / k) * sum;
  for (; halvings > 0; halvings--) sum *= sum;
  return sum;
}

/** The n-th root of x in 0..1 (n whole, 2 or more), by Newton's method from above. */
export function root(x: number, n: number): number {
  if (x <= 0) return 0;
  let r = 1;
  for (let i = 0; i < 200; i++) {
    let power = 1;
    for (let k = 1; k < n; k++) power *= r;
    const next = r - (r - x / power) / n;
    if (!(next < r)) return r;
    r = next;
  }
  return r;
}

/** The cube root of x in 0..1, good to 4e-16 relative: Halley's method from a straight-line guess on an octave. */
export function cubeRoot(x: number): number {
  if (x <= 0) return 0;
  let scale = 1;
  while (x < 0.125) {
    x *= 8;
    scale *= 0.5;
  }
  let r = 0.4 + 0.62 * x;
  for (let i = 0; i < 3; i++) {
    const cube = r * r * r;
    r = (r * (cube + 2 * x)) / (2 * cube + x);
  }
  return r * scale;
}

const LN2 = 0.6931471805599453;

/** The natural logarithm of x above 0, good to 1e-15: the series of artanh on an octave about 1. */
export function logOf(x: number): number {
  let octaves = 0;
  while (x > 1.5) {
    x /= 2;
    octaves++;
  }
  while (x < 0.75) {
    x *= 2;
    octaves--;
  }
  const z = (x - 1) / (x + 1);
  const square = z * z;
  let sum = 0;
  for (let k = 21; k >= 1; k -= 2) sum = sum * square + 1 / k;
  return 2 * z * sum + octaves * LN2;
}

/** The angle of a direction in degrees, 0 to below 360, counter-clockwise from the x axis; 0 for none. Good to 1e-13. */
export function degreesOf(y: number, x: number): number {
  if (x === 0 && y === 0) return 0;
  const [ax, ay] = [Math.abs(x), Math.abs(y)];
  // Two halvings bring the tangent under a fifth, where the series is short.
  let t = Math.min(ax, ay) / Math.max(ax, ay);
  for (let k = 0; k < 2; k++) t /= 1 + Math.sqrt(1 + t * t);
  let sum = 0;
  for (let k = 25; k >= 1; k -= 2) sum = 1 / k - t * t * sum;
  const part = (4 * t * sum * 180) / Math.PI;
  const quarter = ay <= ax ? part : 90 - part;
  const half = x >= 0 ? quarter : 180 - quarter;
  return y >= 0 || half === 0 ? half : 360 - half;
}
