import { workSlice, type Work } from "../maths/work";
import { expMinus } from "../maths/steady";
import { newGray, type Bits, type Gray } from "../raster/types";
import { MM_PER_INCH } from "../maths/units";

/**
 * How a simulated material answers the beam. Nothing of the product is told these figures: a shop finds them out by its
 * wedges.
 */
export interface MaterialAnswer {
  /** How far the heat of a dot reaches, as a standard deviation in mm. */
  readonly spreadMm: number;
  /** Heat, as a share of that of a solid area, at which a mark begins, and from which on it is full. */
  readonly begins: number;
  readonly full: number;
}

/** What the stand-ins' materials are made of. */
export const ANSWERS_OF: Readonly<Record<string, MaterialAnswer>> = {
  usual: { spreadMm: 0.055, begins: 0.1, full: 0.62 },
  slate: { spreadMm: 0.06, begins: 0.16, full: 0.7 },
  wood: { spreadMm: 0.075, begins: 0.06, full: 0.5 },
  metal: { spreadMm: 0.02, begins: 0.2, full: 0.8 },
};

/** How strongly a material is marked by burned dots: 0 bare to 255 full, a pixel a dot. */
export function* answered(
  bits: Bits,
  dotsPerInch: number,
  { spreadMm, begins, full }: MaterialAnswer,
): Work<Gray> {
  const { width, height } = bits;
  const sigma = (spreadMm * dotsPerInch) / MM_PER_INCH;
  const reach = Math.max(1, Math.ceil(3.5 * sigma));
  const kernel = Float64Array.from({ length: 2 * reach + 1 }, (_, k) =>
    expMinus(((k - reach) * (k - reach)) / (2 * sigma * sigma)),
  );
  const sum = kernel.reduce((a, b) => a + b, 0);
  const across = new Float32Array(width * height);
  yield* workSlice(
    rowsOf(height, (y) => {
      for (let x = 0; x < width; x++) {
        if (((bits.data[y * bits.stride + (x >> 3)] >> (7 - (x & 7))) & 1) === 0) continue;
        const from = Math.max(0, x - reach);
        for (let u = from; u <= Math.min(width - 1, x + reach); u++)
          across[y * width + u] += kernel[u - x + reach] / sum;
      }
    }),
    0,
    0.5,
  );
  const out = newGray(width, height);
  yield* workSlice(
    rowsOf(height, (y) => {
      for (let x = 0; x < width; x++) {
        let heat = 0;
        for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
          heat += (across[v * width + x] * kernel[v - y + reach]) / sum;
        const t = Math.min(1, Math.max(0, (heat - begins) / (full - begins)));
        out.data[y * width + x] = Math.round(255 * t * t * (3 - 2 * t));
      }
    }),
    0.5,
    1,
  );
  return out;
}

function* rowsOf(height: number, act: (y: number) => void): Work<void> {
  for (let y = 0; y < height; y++) {
    if (y % 16 === 0) yield y / height;
    act(y);
  }
}
