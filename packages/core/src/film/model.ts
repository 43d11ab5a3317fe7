import { LINEAR_OF_CODE } from "../colour/srgb";

/** Red, green and blue in linear light, 0..1. */
export type Light = readonly [number, number, number];

/** An ink as light sees it. */
export interface Layer {
  /** Its colour where it lies full, on white or on anything as far as it is opaque. */
  readonly light: Light;
  /** 1 hides what is under it; 0 lets all of it through, less what the ink takes out of white. */
  readonly opacity: number;
}

/** Linear light of a colour 0xrrggbb. */
export const lightOf = (colour: number): Light => [
  LINEAR_OF_CODE[colour >> 16],
  LINEAR_OF_CODE[(colour >> 8) & 255],
  LINEAR_OF_CODE[colour & 255],
];

/** What an ink that covers all of a ground makes of one channel of its light. */
export const laidOn = (ground: number, light: number, opacity: number): number =>
  light * (opacity + (1 - opacity) * ground);

/**
 * The light that comes back from inks printed one over another: dots of each cover their share of whatever is below, by
 * chance, so every overlap has the share that the product of its coverages gives, and from afar the eye sees the mean in
 * linear light.
 *
 * @param amounts  share covered by each layer, 0..1, in print order
 * @param out      gets red, green and blue
 * @see Neugebauer, "Die theoretischen Grundlagen des Mehrfarbendruckes", Z. wiss. Photogr. 36, 1937
 * @see Demichel, Procédé 26, 1924
 */
export function printedLight(
  garment: Light,
  layers: readonly Layer[],
  amounts: ArrayLike<number>,
  out: Float64Array,
): void {
  for (let c = 0; c < 3; c++) {
    let light = garment[c];
    for (let k = 0; k < layers.length; k++)
      light += amounts[k] * (laidOn(light, layers[k].light[c], layers[k].opacity) - light);
    out[c] = light;
  }
}
