import { type Grain } from "../material/material";

/** A number 0..1 for each point of a grid, the same each time. */
function chance(x: number, y: number): number {
  let h = Math.imul(x, 374761393) ^ Math.imul(y, 668265263);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}

/**
 * Noise that changes smoothly from one whole point to the next, -1..1.
 * @see Perlin, "An image synthesizer", SIGGRAPH 1985; values at the points, smoothstep between them
 */
function noise(x: number, y: number): number {
  const [ix, iy] = [Math.floor(x), Math.floor(y)];
  const [u, v] = [x - ix, y - iy];
  const [su, sv] = [u * u * (3 - 2 * u), v * v * (3 - 2 * v)];
  const top = chance(ix, iy) * (1 - su) + chance(ix + 1, iy) * su;
  const bottom = chance(ix, iy + 1) * (1 - su) + chance(ix + 1, iy + 1) * su;
  return 2 * (top * (1 - sv) + bottom * sv) - 1;
}

/** How much lighter (above 0) or darker a place of a surface is, -1..1; in mm from the piece's corner. */
export function grainAt(grain: Grain, x: number, y: number): number {
  switch (grain) {
    case "wood": {
      // Rings that run along and wander, and pores between them.
      const ring = y * 0.45 + 1.6 * noise(x * 0.02, y * 0.08);
      const band = Math.abs(2 * (ring - Math.floor(ring)) - 1);
      return 0.75 * (band - 0.5) + 0.25 * noise(x * 0.7, y * 7) + 0.2 * noise(x * 0.05, y * 0.5);
    }
    case "stone":
      return 0.5 * noise(x * 0.3, y * 0.25) + 0.3 * noise(x * 1.3, y * 1.2) + 0.3 * noise(x * 5, y * 5);
    case "brushed":
      return 0.6 * noise(x * 0.1, y * 9) + 0.3 * noise(x * 0.3, y * 3);
    case "leather": {
      const fold = Math.abs(noise(x * 0.9, y * 0.9)) + 0.5 * Math.abs(noise(x * 2.1, y * 2.1));
      return 0.6 * (0.6 - fold) * -1 + 0.2 * noise(x * 6, y * 6);
    }
    default:
      return 0;
  }
}
