import { asItIs, clearingOf, cutOut, finish, type Rgba } from "@hardline/core";
import { type CutOutPicture } from "@hardline/demo";

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

/** The band about the true edge that is unknown after the scribbles: everything within so many pixels of it. */
const BAND = 12;

/** Cuts a picture out with its six scribbles and measures how far the cover is from the truth. */
export function measureCutOut({ name, picture, alpha, wish }: CutOutPicture): CutOutRow {
  const { width, height } = picture;
  const clearing = finish(
    clearingOf({ kind: "picture", ...asItIs(picture), colour: picture, cleared: null }, { ops: [] }),
  );
  const started = performance.now();
  finish(cutOut(clearing, wish, true));
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

function bandAbout(alpha: Uint8Array, width: number, height: number): Uint8Array {
  const across = new Uint8Array(alpha.length);
  const band = new Uint8Array(alpha.length);
  const spread = (
    from: Uint8Array,
    to: Uint8Array,
    length: number,
    count: number,
    at: (n: number, k: number) => number,
  ) => {
    for (let n = 0; n < count; n++)
      for (let k = 0, last = -Infinity, next = 0; k < length; k++) {
        if (from[at(n, k)]) last = k;
        if (next < k) next = k;
        while (next < length && !from[at(n, next)]) next++;
        if (k - last <= BAND || next - k <= BAND) to[at(n, k)] = 1;
      }
  };
  const edge = alpha.map((a) => (a > 0 && a < 255 ? 1 : 0));
  spread(edge, across, width, height, (n, k) => n * width + k);
  spread(across, band, height, width, (n, k) => k * width + n);
  return band;
}
