import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { laidOn } from "./model";
import { newRgba, type Gray, type Rgba } from "../raster/types";

/**
 * Colour art over its white on a garment, as it will be seen: each covers its share of what is below, in linear light.
 *
 * @param colour   with straight alpha
 * @param white    of the same size: how much of the white layer, 0..255
 * @param garment  0xrrggbb, and how far inks hide what is under them, 0..1
 */
export function overWhite(
  { width, height, data }: Rgba,
  white: Gray,
  { garment, inkOpacity }: { readonly garment: number; readonly inkOpacity: number },
): Rgba {
  const out = newRgba(width, height);
  const ground = [16, 8, 0].map((shift) => LINEAR_OF_CODE[(garment >> shift) & 255]);
  // Of whole ink on whole white, which most of the art is, a channel tells all.
  const whole = Uint8Array.from({ length: 256 }, (_, code) => {
    const light = 1 + (laidOn(1, LINEAR_OF_CODE[code], inkOpacity) - 1);
    return CODE_OF_LINEAR[Math.round(light * CODE_STEPS)];
  });
  for (let i = 0, o = 0; i < width * height; i++, o += 4) {
    if (data[o + 3] === 255 && white.data[i] === 255) {
      for (let c = 0; c < 3; c++) out.data[o + c] = whole[data[o + c]];
      out.data[o + 3] = 255;
      continue;
    }
    const alpha = data[o + 3] / 255;
    const under = white.data[i] / 255;
    for (let c = 0; c < 3; c++) {
      const cloth = ground[c] + (1 - ground[c]) * under;
      const light = cloth + (laidOn(cloth, LINEAR_OF_CODE[data[o + c]], inkOpacity) - cloth) * alpha;
      out.data[o + c] = CODE_OF_LINEAR[Math.round(light * CODE_STEPS)];
    }
    out.data[o + 3] = 255;
  }
  return out;
}
