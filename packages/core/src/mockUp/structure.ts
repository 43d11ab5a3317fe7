import { grainAt } from "../appearance/grain";
import { type Stuff } from "./thing";

/** A tile of a cloth's or skin's structure: so many places along each side, so many to a mm. It goes on without a seam. */
const [SIDE, PER_MM] = [256, 2.5];
let clothTile: Float32Array | null = null;

/** Threads and fibres, as noise that is a little longer than wide, wrapped round at the tile's edges. */
function cloth(): Float32Array {
  if (clothTile) return clothTile;
  const raw = new Float32Array(SIDE * SIDE);
  for (let k = 0; k < raw.length; k++) {
    let h = Math.imul(k, 374761393) ^ 0x5bd1e995;
    h = Math.imul(h ^ (h >>> 13), 1274126177);
    raw[k] = ((h ^ (h >>> 16)) >>> 0) / 2147483648 - 1;
  }
  clothTile = new Float32Array(raw.length);
  for (let y = 0, k = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++, k++) {
      let sum = 0;
      for (const [dx, dy, weight] of BELL)
        sum += weight * raw[((y + dy + SIDE) % SIDE) * SIDE + ((x + dx + SIDE) % SIDE)];
      clothTile[k] = sum;
    }
  return clothTile;
}

const BELL = [
  [0, 0, 0.4],
  [0, 1, 0.3],
  [0, -1, 0.3],
  [1, 0, 0.2],
  [-1, 0, 0.2],
] as const;

/**
 * How much lighter or darker than its mean a stuff is along a row, for each pixel about 1.
 * @param x, dx, y  in mm: the first pixel's middle, the way to the next, and the row
 */
export function structureRow(stuff: Stuff, x: number, dx: number, y: number, into: Float32Array): void {
  const seen = Math.min(1, 0.5 / dx); // what is finer than a pixel evens out
  if (stuff === "cloth") clothRow(cloth(), x * PER_MM, dx * PER_MM, y * PER_MM, 0.05 * seen, into);
  else if (stuff === "wood") grainRow("wood", 0.17, x, dx, y, into);
  else if (stuff === "leather") grainRow("leather", 0.16 * seen, x, dx, y, into);
  else if (stuff === "brass") grainRow("brushed", 0.08, x, dx, y, into);
  else into.fill(1);
}

function clothRow(
  tile: Float32Array,
  x: number,
  dx: number,
  y: number,
  strength: number,
  into: Float32Array,
): void {
  const top = Math.floor(y);
  const b = y - top;
  const above = (((top % SIDE) + SIDE) % SIDE) * SIDE;
  const below = ((((top + 1) % SIDE) + SIDE) % SIDE) * SIDE;
  let u = ((x % SIDE) + SIDE) % SIDE;
  for (let k = 0; k < into.length; k++, u += dx) {
    while (u >= SIDE) u -= SIDE;
    const i = u | 0;
    const next = i + 1 === SIDE ? 0 : i + 1;
    const a = u - i;
    into[k] =
      1 +
      strength *
        ((tile[above + i] * (1 - a) + tile[above + next] * a) * (1 - b) +
          (tile[below + i] * (1 - a) + tile[below + next] * a) * b);
  }
}

/** What changes no quicker along a row than this, in mm, is looked at so far apart and read between. */
const COARSE = { wood: 0.25, brushed: 0.4, leather: 0.03 } as const;

function grainRow(
  grain: keyof typeof COARSE,
  strength: number,
  x: number,
  dx: number,
  y: number,
  into: Float32Array,
): void {
  const step = Math.max(1, Math.floor(COARSE[grain] / dx));
  let before = grainAt(grain, x, y);
  for (let k = 0; k < into.length; k += step) {
    const after = grainAt(grain, x + (k + step) * dx, y);
    const end = Math.min(into.length, k + step);
    for (let i = k; i < end; i++) into[i] = 1 + strength * (before + ((after - before) * (i - k)) / step);
    before = after;
  }
}
