import { LINEAR_OF_CODE } from "../colour/srgb";
import { cielabOf, ciede2000 } from "../colour/ciede2000";
import { type Work } from "../maths/work";
import { type Plates } from "../result/result";
import { lightOf, printedLight } from "./model";

// Thresholds: what they decide is measured by `npm run films`.

/** So many pixels tell how far a print is off. */
const LOOKED_AT = 60_000;
const AT_ONCE = 2000;

export interface PrintError {
  /** CIEDE2000. */
  readonly mean: number;
  /** 99 of 100 pixels are off by less. */
  readonly most: number;
}

/** How far the predicted print is off the art, over pixels that lie evenly over it; clear art is left out. */
export function* printError({ plates, print }: Plates): Work<PrintError> {
  const { art, tones, garment, inks } = print!;
  const layers = plates.map(({ ink }, k) => ({ light: lightOf(ink), opacity: inks[k].opacity }));
  const ground = lightOf(garment);
  const count = art.width * art.height;
  // A step that has nothing in common with the width walks over all columns.
  let step = Math.max(1, Math.floor(count / LOOKED_AT));
  while (step > 1 && common(step, art.width) > 1) step++;
  const off: number[] = [];
  const out = new Float64Array(3);
  const amounts = new Float64Array(layers.length);
  for (let i = 0, n = 0; i < count; i += step, n++) {
    if (n % AT_ONCE === 0) yield i / count;
    const alpha = art.data[4 * i + 3] / 255;
    if (alpha === 0) continue;
    for (let k = 0; k < layers.length; k++) amounts[k] = (255 - tones[k].data[i]) / 255;
    printedLight(ground, layers, amounts, out);
    const wanted = ground.map((g, c) => g + (LINEAR_OF_CODE[art.data[4 * i + c]] - g) * alpha);
    off.push(ciede2000(cielabOf(out[0], out[1], out[2]), cielabOf(wanted[0], wanted[1], wanted[2])));
  }
  off.sort((a, b) => a - b);
  const mean = off.reduce((a, b) => a + b, 0) / Math.max(1, off.length);
  return { mean, most: off[Math.min(off.length - 1, Math.floor(0.99 * off.length))] ?? 0 };
}

function common(a: number, b: number): number {
  while (b > 0) [a, b] = [b, a % b];
  return a;
}
