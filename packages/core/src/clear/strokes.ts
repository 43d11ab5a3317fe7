import { workSlice, rowsAtOnce, type Work } from "../maths/work";
import { toPixels, type InFrame } from "../path/frame";

/** What a hand drew: points as fractions of the artwork, each with the pen's pressure 0..1 when it told one. */
export interface Stroke {
  readonly points: readonly (readonly [number, number] | readonly [number, number, number])[];
  /** Across, on the finished piece, at full pressure. */
  readonly sizeMm: number;
  /** Share of the radius over which the edge fades, 0 = hard. */
  readonly softness: number;
}

/**
 * How much strokes cover each pixel, 0..255; the strongest counts where they cross. A hard edge still fades over
 * one pixel, so that it has no steps.
 */
export function* coverOfStrokes(
  clearing: InFrame & { readonly dotsPerMm: number },
  strokes: readonly Stroke[],
): Work<Uint8Array> {
  const { width, height } = clearing.source;
  const cover = new Uint8Array(width * height);
  for (const [n, { points, sizeMm, softness }] of strokes.entries()) {
    const full = Math.max(0.5, (sizeMm * clearing.dotsPerMm) / 2);
    const placed = points.map(([u, v, pressure = 1]) => ({
      at: toPixels(clearing, [u, v]),
      radius: full * (0.15 + 0.85 * pressure),
    }));
    for (const [k, to] of placed.entries()) {
      if (k === 0 && placed.length > 1) continue;
      const from = placed[Math.max(0, k - 1)];
      yield* workSlice(
        coverSegment(cover, width, height, from, to, softness),
        n / strokes.length,
        n / strokes.length,
      );
    }
  }
  return cover;
}

interface Spot {
  readonly at: readonly [number, number];
  readonly radius: number;
}

function* coverSegment(
  cover: Uint8Array,
  width: number,
  height: number,
  a: Spot,
  b: Spot,
  softness: number,
): Work<void> {
  const reach = Math.max(a.radius, b.radius) + 1;
  const left = Math.max(0, Math.floor(Math.min(a.at[0], b.at[0]) - reach));
  const right = Math.min(width - 1, Math.ceil(Math.max(a.at[0], b.at[0]) + reach));
  const top = Math.max(0, Math.floor(Math.min(a.at[1], b.at[1]) - reach));
  const bottom = Math.min(height - 1, Math.ceil(Math.max(a.at[1], b.at[1]) + reach));
  const [dx, dy] = [b.at[0] - a.at[0], b.at[1] - a.at[1]];
  const length2 = dx * dx + dy * dy;
  const atOnce = rowsAtOnce(8 * Math.max(1, right - left + 1));
  for (let y = top; y <= bottom; y++) {
    if (y > top && (y - top) % atOnce === 0) yield 0;
    for (let x = left; x <= right; x++) {
      const [px, py] = [x + 0.5 - a.at[0], y + 0.5 - a.at[1]];
      const t = length2 === 0 ? 0 : Math.min(1, Math.max(0, (px * dx + py * dy) / length2));
      const [ex, ey] = [px - t * dx, py - t * dy];
      const radius = a.radius + t * (b.radius - a.radius);
      const fade = Math.max(1, softness * radius);
      const share = (radius + 0.5 - Math.sqrt(ex * ex + ey * ey)) / fade;
      if (share <= 0) continue;
      const value = share >= 1 ? 255 : Math.round(share * 255);
      const i = y * width + x;
      if (value > cover[i]) cover[i] = value;
    }
  }
}
