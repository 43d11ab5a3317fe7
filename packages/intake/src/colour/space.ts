import { type Rgba } from "@hardline/core/raster/types";
import { primariesToSrgb, type Matrix, type Primaries } from "./matrix";

/** What stored numbers mean: each channel's way to light, and from that light to the light of sRGB. */
export interface ColourSpace {
  /** Stored 0..1 to light 0..1, for red, green and blue. */
  readonly light: readonly [Curve, Curve, Curve];
  readonly matrix: Matrix;
}
export type Curve = (stored: number) => number;

/** The sRGB curve, light 0..1 to stored 0..1. @see IEC 61966-2-1 */
const encoded = (light: number): number =>
  light <= 0.0031308 ? 12.92 * Math.max(0, light) : 1.055 * Math.min(1, light) ** (1 / 2.4) - 0.055;

const decoded: Curve = (stored) => (stored <= 0.04045 ? stored / 12.92 : ((stored + 0.055) / 1.055) ** 2.4);

/** @param gamma  as a PNG says it: stored = light ^ gamma; null for the curve of sRGB */
export function spaceOf(gamma: number | null, primaries: Primaries): ColourSpace {
  const light: Curve = gamma === null ? decoded : (v) => v ** (1 / gamma);
  return { light: [light, light, light], matrix: primariesToSrgb(primaries) };
}

/** Whether colours of the space are those of sRGB already, to within a level. */
export function isSrgb({ light, matrix }: ColourSpace): boolean {
  const even = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  if (!matrix.every((v, k) => Math.abs(v - even[k]) < 0.004)) return false;
  return light.every((curve) => {
    for (let v = 0; v <= 64; v++) if (Math.abs(encoded(curve(v / 64)) - v / 64) > 0.004) return false;
    return true;
  });
}

/**
 * Brings samples of a space to sRGB.
 * @param samples  width x height x 4, alpha last
 * @param most     the sample of white: 255 or 65535
 */
export function toSrgb(
  samples: Uint8Array | Uint16Array,
  { width, height }: { readonly width: number; readonly height: number },
  most: number,
  { light, matrix: m }: ColourSpace,
): Rgba {
  const [red, green, blue] = light.map((curve) =>
    Float32Array.from({ length: most + 1 }, (_, v) => curve(v / most)),
  );
  const store = Uint8Array.from({ length: 65536 }, (_, v) => Math.round(255 * encoded(v / 65535)));
  const level = (v: number): number => store[Math.round(65535 * Math.min(1, Math.max(0, v)))];
  const data = new Uint8Array(samples.length);
  for (let i = 0; i < samples.length; i += 4) {
    const [r, g, b] = [red[samples[i]], green[samples[i + 1]], blue[samples[i + 2]]];
    data[i] = level(m[0] * r + m[1] * g + m[2] * b);
    data[i + 1] = level(m[3] * r + m[4] * g + m[5] * b);
    data[i + 2] = level(m[6] * r + m[7] * g + m[8] * b);
    data[i + 3] = Math.round((samples[i + 3] * 255) / most);
  }
  return { width, height, data };
}
