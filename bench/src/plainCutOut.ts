import { colourModel, costOf } from "@hardline/core/clear/cutOut/colourModel";
import { cheapestCut } from "@hardline/core/clear/cutOut/graphCut";
import { labPlane, linksOf } from "@hardline/core/clear/cutOut/segment";
import { type Rgba } from "@hardline/core/raster/types";
import { runToEnd } from "@hardline/core/maths/work";

/**
 * The plain way to cut out, to be measured against: five rounds of a graph cut with mixtures of five colours on either
 * side, and a guided filter of the outcome with the picture as its guide.
 *
 * @param said  1 keep, 2 away, 0 unknown, for each pixel
 * @see Rother, Kolmogorov & Blake, "GrabCut", SIGGRAPH 2004; He, Sun & Tang, "Guided Image Filtering", ECCV 2010
 */
export function plainCutOut(picture: Rgba, said: Uint8Array): Uint8Array {
  const { width, height } = picture;
  const count = width * height;
  const lab = labPlane(picture);
  const links = runToEnd(linksOf(lab, width, height));
  let subject: Uint8Array = Uint8Array.from(said, (s) => (s === 2 ? 0 : s === 1 ? 1 : 0));
  let known = (i: number): boolean => said[i] !== 0;
  for (let round = 0; round < 5; round++) {
    const of = (side: number) => {
      const list: number[] = [];
      for (let i = 0; i < count; i++) if (known(i) && subject[i] === side) list.push(i);
      return list;
    };
    const [front, back] = [of(1), of(0)];
    if (front.length === 0 || back.length === 0) break;
    const [keep, away] = [colourModel(lab, front), colourModel(lab, back)];
    const terminal = Int32Array.from({ length: count }, (_, i) =>
      said[i] === 1
        ? 1 << 28
        : said[i] === 2
          ? -(1 << 28)
          : Math.round(100 * (costOf(away, lab, i) - costOf(keep, lab, i))),
    );
    subject = runToEnd(cheapestCut(width, height, terminal, links.slice()));
    known = () => true;
  }
  return guided(picture, subject);
}

/** Guided by the picture's grey, radius 4: a line a window, and the mean of the lines over each pixel. */
function guided({ width, height, data }: Rgba, mask: Uint8Array): Uint8Array {
  const count = width * height;
  const grey = Float64Array.from(
    { length: count },
    (_, i) => (data[i * 4] * 0.2126 + data[i * 4 + 1] * 0.7152 + data[i * 4 + 2] * 0.0722) / 255,
  );
  const p = Float64Array.from(mask);
  const mean = (of: Float64Array) => boxMean(of, width, height, 4);
  const [mi, mp] = [mean(grey), mean(p)];
  const [mii, mip] = [mean(grey.map((v) => v * v)), mean(grey.map((v, i) => v * p[i]))];
  const a = mi.map((v, i) => (mip[i] - v * mp[i]) / (mii[i] - v * v + 1e-4));
  const b = mp.map((v, i) => v - a[i] * mi[i]);
  const [ma, mb] = [mean(a), mean(b)];
  return Uint8Array.from(grey, (v, i) => Math.round(255 * Math.min(1, Math.max(0, ma[i] * v + mb[i]))));
}

function boxMean(of: Float64Array, width: number, height: number, r: number): Float64Array {
  const pass = (
    from: Float64Array,
    length: number,
    lines: number,
    at: (line: number, k: number) => number,
  ) => {
    const to = new Float64Array(from.length);
    for (let line = 0; line < lines; line++)
      for (let k = 0, sum = 0, n = 0, low = 0, high = 0; k < length; k++) {
        for (; high < length && high <= k + r; high++, n++) sum += from[at(line, high)];
        for (; low < k - r; low++, n--) sum -= from[at(line, low)];
        to[at(line, k)] = sum / n;
      }
    return to;
  };
  const across = pass(of, width, height, (y, x) => y * width + x);
  return pass(across, height, width, (x, y) => y * width + x);
}
