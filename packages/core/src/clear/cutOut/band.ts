import { product, shareOf } from "../../colour/mixture";
import { oklabOf } from "../../colour/oklab";
import { workSlice, type Work } from "../../maths/work";
import { type Rgba } from "../../raster/types";
import { squaredDistanceTo } from "../../region/distance";
import { strangeness } from "./colourModel";
import { AWAY, KEEP } from "./said";
import { scaleOf } from "./scale";
import { type Segments } from "./segment";

// Thresholds: what they decide is measured by `npm run scenes`.

/**
 * What is certain: background or subject; and the band between, whose cover is to be told. Odd numbers are the
 * band; 2 and 3 lie on the subject's side of the cut.
 */
export const [OUT, BAND, IN, BAND_IN] = [0, 1, 2, 3];

/** On either side of the cut, in pixels of the segmented picture: what is in the band in any case. */
const NEAR = 4;
/** How deep into the subject a soft edge may reach. */
const DEEP = 24;
/** How far out of it a hair may reach; what is strange further off is a thing of the background. */
const FAR = 32;
/** Squared spreads from every known colour of its side beyond which a pixel is not explained by it. */
const STRANGE = 7;

/**
 * The band about the cut: everything near it, and from there outwards every pixel that its side's colours do not
 * explain, for as long as such pixels touch. So a hair is followed to its end and a soft edge to where it has run out.
 *
 * @param said  what strokes say of each pixel of `picture`; they are certain
 */
export function* bandAbout(
  { subject, models }: Segments,
  small: { readonly width: number; readonly height: number },
  picture: Rgba,
  said: Uint8Array,
): Work<Uint8Array> {
  const { width, height, data } = picture;
  const other = subject.map((v) => 1 - v);
  const toSubject = yield* workSlice(squaredDistanceTo(subject, small.width, small.height), 0, 0.3);
  const toOther = yield* workSlice(squaredDistanceTo(other, small.width, small.height), 0.3, 0.6);
  const kind = new Uint8Array(width * height);
  const at = new Int32Array(width * height); // the pixel of the segmented picture under each
  const edge: number[] = [];
  const scale = scaleOf(small, picture);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.min(small.height - 1, Math.floor((y + 0.5) * scale)) * small.width;
    for (let x = 0; x < width; x++, i++) {
      const j = row + Math.min(small.width - 1, Math.floor((x + 0.5) * scale));
      at[i] = j;
      if (said[i] !== 0) kind[i] = said[i] === KEEP ? IN : OUT;
      else if ((subject[j] ? toOther[j] : toSubject[j]) <= NEAR * NEAR) {
        kind[i] = subject[j] ? BAND_IN : BAND;
        edge.push(i);
      } else kind[i] = subject[j] ? IN : OUT;
    }
  }
  yield 0.7;
  const strange = (i: number): boolean => {
    const j = at[i];
    if (subject[j] ? toOther[j] > DEEP * DEEP : toSubject[j] > FAR * FAR) return false;
    const { l, a, b } = oklabOf(data[i * 4], data[i * 4 + 1], data[i * 4 + 2]);
    if (strangeness(models[subject[j]], l, a, b) <= STRANGE) return false;
    return isBetween(models, l, a, b, subject[j] === 1);
  };
  const tried = new Uint8Array(width * height);
  for (let n = 0; n < edge.length; n++) {
    if (n % 131072 === 0) yield 0.8;
    forEachAround(edge[n], width, height, (j) => {
      if (kind[j] & 1 || tried[j] !== 0 || said[j] !== 0) return;
      tried[j] = 1;
      if (!strange(j)) return;
      kind[j] |= 1;
      edge.push(j);
    });
  }
  yield 0.9;
  // The flanks of what was followed belong to it too.
  for (let n = 0, count = edge.length; n < count; n++)
    forEachAround(edge[n], width, height, (j) => {
      if (said[j] !== AWAY && said[j] !== KEEP) kind[j] |= 1;
    });
  return kind;
}

/** How far off the line from background to subject a mixture of the two may be, in hundredths of OKLab. */
const OFF_LINE = 7;
/** Within the subject fewer colours are taken for mixtures: its own shades are many. */
const OFF_INSIDE = 3;

/** Whether a colour is mixed of the two, or outside the subject nearer to it than to the background. */
function isBetween(
  [back, front]: Segments["models"],
  l: number,
  a: number,
  b: number,
  inside: boolean,
): boolean {
  for (const { mean: f } of front)
    for (const { mean: g } of back) {
      const d = [f[0] - g[0], f[1] - g[1], f[2] - g[2]];
      const e = [l - g[0], a - g[1], b - g[2]];
      const whole = product(d[0], d[1], d[2], d[0], d[1], d[2]);
      const share = shareOf(product(e[0], e[1], e[2], d[0], d[1], d[2]), whole);
      const t = Math.min(1, Math.max(0, share));
      const [x, y, z] = [e[0] - t * d[0], e[1] - t * d[1], e[2] - t * d[2]];
      const off = x * x + y * y + z * z;
      if (inside) {
        if (share > 0.1 && share < 0.97 && off < OFF_INSIDE * OFF_INSIDE) return true;
        continue;
      }
      if (share > 0.1 && off < OFF_LINE * OFF_LINE) return true;
      if (share > 0.6 && off < 0.1 * whole) return true;
    }
  return false;
}

function forEachAround(i: number, width: number, height: number, act: (j: number) => void): void {
  const x = i % width;
  const y = (i - x) / width;
  for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
    for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
      const j = v * width + u;
      if (j !== i) act(j);
    }
}
