/*
 * How a head moves: at a steady acceleration up to a speed, along, and down again; through a bend as fast as its
 * acceleration keeps it near the corner.
 */

/** What of a machine decides how it moves. */
export interface Motion {
  readonly accelMmPerS2: number;
  readonly cornerMm: number;
}

/**
 * The greatest speed at which a head goes through a corner: on the circle that touches both sides and stays within
 * `cornerMm` of the corner, the acceleration towards its middle is what the machine has.
 *
 * With s the sine of half of the corner's inner angle, that circle has the radius r = cornerMm s / (1 - s), and v² = a r.
 *
 * @param cosine  of the angle between the direction before and that after: 1 straight on, -1 back
 */
export function cornerSpeed(cosine: number, { accelMmPerS2, cornerMm }: Motion): number {
  if (cosine > 0.999999) return Infinity;
  if (cosine < -0.999999) return 0;
  const half = Math.sqrt((1 + cosine) / 2); // sine of half of the inner angle
  return Math.sqrt((accelMmPerS2 * cornerMm * half) / (1 - half));
}

/** Seconds that a move takes: up from a speed, along at no more than the greatest, down to a speed. */
export function secondsOf(length: number, from: number, most: number, to: number, accel: number): number {
  const top = topSpeed(length, from, most, to, accel);
  const up = (top - from) / accel;
  const down = (top - to) / accel;
  const along = length - (top * top - from * from + top * top - to * to) / (2 * accel);
  return up + down + (top > 0 ? Math.max(0, along) / top : 0);
}

/** The speed that a move reaches before it has to slow down. */
export const topSpeed = (length: number, from: number, most: number, to: number, accel: number): number =>
  Math.max(from, to, Math.min(most, Math.sqrt(accel * length + (from * from + to * to) / 2)));

/** Speed at which a head may enter a stretch, to be down to `to` at its end. */
export const entrySpeed = (to: number, length: number, accel: number): number =>
  Math.sqrt(to * to + 2 * accel * length);

/** How far a move has come after so many seconds. */
export function placeAfter(
  seconds: number,
  length: number,
  from: number,
  most: number,
  to: number,
  accel: number,
): number {
  const top = topSpeed(length, from, most, to, accel);
  const up = (top - from) / accel;
  if (seconds <= up) return from * seconds + (accel * seconds * seconds) / 2;
  const rise = (top * top - from * from) / (2 * accel);
  const fall = (top * top - to * to) / (2 * accel);
  const along = top > 0 ? Math.max(0, length - rise - fall) / top : 0;
  if (seconds <= up + along) return rise + top * (seconds - up);
  const rest = Math.min((top - to) / accel, seconds - up - along);
  return Math.min(length, length - fall + top * rest - (accel * rest * rest) / 2);
}

// Thresholds: what they decide is measured by `npm run runs`.

/** No machine is quite as quick as it is said to be; marks must still be made at full speed. */
const MORE = 1.1;

/** How long a head takes to come to a speed, as a length, with something to spare. */
export const runUpOf = (mmPerS: number, accelMmPerS2: number): number =>
  (MORE * mmPerS * mmPerS) / (2 * accelMmPerS2);
