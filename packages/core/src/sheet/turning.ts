import { sinPi } from "../maths/steady";

/** Cosine and sine of an angle in degrees; exact at every quarter turn. */
export function cosSinOf(degrees: number): readonly [number, number] {
  const quarter = (((degrees % 360) + 360) % 360) / 90;
  if (Number.isInteger(quarter))
    return (
      [
        [1, 0],
        [0, 1],
        [-1, 0],
        [0, -1],
      ] as const
    )[quarter];
  return [sinPi(degrees / 180 + 0.5), sinPi(degrees / 180)];
}
