import { MM_PER_INCH } from "../maths/units";
import { BLUE_NOISE } from "./blueNoise";
import { type Mask } from "./mask";

/** How a plate becomes dots: thresholds, and the side of the squares in which its tone is read, in dots of the film. */
export interface Dotting {
  readonly mask: Mask;
  readonly side: number;
}

const HALF = 128;

/** A plate without tones: printed from half on. */
export const SOLID: Dotting = {
  mask: { width: 1, height: 1, shift: 0, thresholds: Uint8Array.of(HALF) },
  side: 1,
};

/** So far one plate's scatter is moved against the one before it, so that dots of two inks meet by chance. */
const MOVED = [37, 53];

/** Scattered dots of at least a size. @param plate  number of the plate; each has a scatter of its own */
export function scattered(mm: number, plate: number, dotsPerInch: number): Dotting {
  const side = Math.max(1, Math.ceil((mm * dotsPerInch) / MM_PER_INCH - 1e-6));
  const { width, height, thresholds } = BLUE_NOISE;
  const [dx, dy] = [(MOVED[0] * plate) % width, (MOVED[1] * plate) % height];
  const large = new Uint8Array(width * side * height * side);
  for (let y = 0, i = 0; y < height * side; y++)
    for (let x = 0; x < width * side; x++, i++) {
      const [u, v] = [(Math.floor(x / side) + dx) % width, (Math.floor(y / side) + dy) % height];
      large[i] = thresholds[v * width + u];
    }
  return { mask: { width: width * side, height: height * side, shift: 0, thresholds: large }, side };
}
