import { hexOf, oklabOf } from "../colour/oklab";
import { type Rgba } from "../raster/types";

/** What lies along the picture's edge. */
export interface Ground {
  /** `#rrggbb`, or null where the edge is clear. */
  readonly colour: string | null;
  /** Share of the edge that has that colour, 0..1. */
  readonly share: number;
  /** How far that part of the edge strays from it, in hundredths of OKLab. */
  readonly spread: number;
  /** Share of the edge that is exactly one colour. */
  readonly pure: number;
}

// Thresholds: what they decide is measured by `npm run kinds`.

/** Distance in code values within which pixels of the rim are one ground. */
const ALIKE = 9;

export function groundOf({ width, height, data }: Rgba): Ground {
  const deep = Math.max(1, Math.round(Math.min(width, height) * 0.02));
  const edge: number[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (x < deep || y < deep || x >= width - deep || y >= height - deep) edge.push((y * width + x) * 4);
      else x = width - deep - 1;
    }
  const solid = edge.filter((o) => data[o + 3] >= 128);
  if (solid.length < edge.length / 2)
    return { colour: null, share: 1 - solid.length / edge.length, spread: 0, pure: 1 };
  const counts = new Map<number, number>();
  const exact = new Map<number, number>();
  for (const o of solid) {
    const key = ((data[o] >> 4) << 8) | ((data[o + 1] >> 4) << 4) | (data[o + 2] >> 4);
    counts.set(key, (counts.get(key) ?? 0) + 1);
    const all = (data[o] << 16) | (data[o + 1] << 8) | data[o + 2];
    exact.set(all, (exact.get(all) ?? 0) + 1);
  }
  const [common] = [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0];
  let centre = oklabOf(((common >> 8) << 4) | 8, (((common >> 4) & 15) << 4) | 8, ((common & 15) << 4) | 8);
  let near: number[] = [];
  let mean = [0, 0, 0];
  for (let round = 0; round < 3; round++) {
    near = solid.filter((o) => apart(data, o, centre) < ALIKE);
    mean = [0, 1, 2].map((k) =>
      Math.round(near.reduce((sum, o) => sum + data[o + k], 0) / Math.max(1, near.length)),
    );
    centre = oklabOf(mean[0], mean[1], mean[2]);
  }
  const square = near.reduce((sum, o) => sum + apart(data, o, centre) ** 2, 0) / Math.max(1, near.length);
  return {
    colour: hexOf(mean[0], mean[1], mean[2]),
    share: near.length / edge.length,
    spread: Math.sqrt(square),
    pure: Math.max(...exact.values()) / edge.length,
  };
}

function apart(data: Uint8Array, o: number, centre: { l: number; a: number; b: number }): number {
  const { l, a, b } = oklabOf(data[o], data[o + 1], data[o + 2]);
  return Math.sqrt((l - centre.l) ** 2 + (a - centre.a) ** 2 + (b - centre.b) ** 2);
}
