import { root } from "../maths/steady";

/**
 * Linear light, 0..1, of each sRGB code value 0..255.
 * @see IEC 61966-2-1
 */
export const LINEAR_OF_CODE: Float32Array = Float32Array.from({ length: 256 }, (_, code) => {
  const v = code / 255;
  if (v <= 0.04045) return v / 12.92;
  const base = (v + 0.055) / 1.055;
  const fifth = root(base, 5);
  return base * base * fifth * fifth; // base to the power 12/5
});

function codeOfLinearExactly(linear: number): number {
  if (linear <= 0.0031308) return 255 * 12.92 * linear;
  const twelfth = root(linear, 12);
  return 255 * (1.055 * twelfth * twelfth * twelfth * twelfth * twelfth - 0.055); // linear to the power 5/12
}

/** Steps of the table below; fine enough that its code is right to the nearest for every linear value. */
export const CODE_STEPS = 16384;

/**
 * sRGB code value nearest to linear light i / CODE_STEPS. Near black, where one step is a third of a code
 * value, the table is still within half a code of the exact curve.
 */
export const CODE_OF_LINEAR: Uint8Array = Uint8Array.from({ length: CODE_STEPS + 1 }, (_, i) =>
  Math.min(255, Math.round(codeOfLinearExactly(i / CODE_STEPS))),
);

/** The sRGB code of linear light; what cannot be shown is brought to the nearest end. */
export const codeOfLight = (light: number): number =>
  CODE_OF_LINEAR[light <= 0 ? 0 : light >= 1 ? CODE_STEPS : (light * CODE_STEPS + 0.5) | 0];
