import { cutOut } from "@hardline/core/clear/cutOut/cutOut";
import { runToEnd } from "@hardline/core/maths/work";
import { type Rgba } from "@hardline/core/raster/types";
import { asItIs } from "@hardline/core/result/finish";
import { clearingOf } from "@hardline/core/stage/clear/clear";
import { type CutOutPicture } from "@hardline/demo";
import { bandAbout } from "./band";

export interface CutOutRow {
  readonly name: string;
  /** Mean error of the cover in the unknown band, in percent. */
  readonly band: number;
  /** The same over pixels alone that are truly part covered. */
  readonly soft: number;
  /** Pixels of the picture in the band, in percent. */
  readonly share: number;
  readonly ms: number;
  readonly result: Rgba;
}

/** Cuts a picture out with its six scribbles and measures how far the cover is from the truth. */
export function measureCutOut({ name, picture, alpha, wish }: CutOutPicture): CutOutRow {
  const { width, height } = picture;
  const clearing = runToEnd(
    clearingOf({ kind: "picture", ...asItIs(picture), colour: picture, cleared: null }, { ops: [] }),
  );
  const started = performance.now();
  runToEnd(cutOut(clearing, wish, true));
  const ms = performance.now() - started;
  const band = bandAbout(alpha, width, height);
  let [off, inBand, softOff, soft] = [0, 0, 0, 0];
  for (let i = 0; i < alpha.length; i++) {
    const error = Math.abs(clearing.data[i * 4 + 3] - alpha[i]) / 255;
    if (band[i]) {
      off += error;
      inBand++;
    }
    if (alpha[i] > 0 && alpha[i] < 255) {
      softOff += error;
      soft++;
    }
  }
  return {
    name,
    band: (100 * off) / inBand,
    soft: (100 * softOff) / soft,
    share: (100 * inBand) / alpha.length,
    ms,
    result: { width, height, data: clearing.data },
  };
}
