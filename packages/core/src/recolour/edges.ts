import { labOfLight } from "../colour/oklab";
import { codeOfLight, LINEAR_OF_CODE } from "../colour/srgb";
import { type Rgba } from "../raster/types";
import { type Changing } from "./changing";

/** How far about a mixed pixel its two colours are looked for, in pixels. */
const REACH = 3;
/** From this share on a pixel belongs wholly to a range. */
const WHOLE = 250;
/** A smaller share of the range than this is noise, or light and shade of what lies beside it. */
const LEAST = 0.06;
/** How well a mixture must explain a pixel, as a share of its light. */
const OFF = 0.06;
/** What lies beyond may vary by this, as a share of its light, and still be one colour in changing light. */
const SPREAD = 0.35;
/** What is as near as this to a colour, with light and shade taken out, is that colour. */
const SAME = 2.2;

/**
 * Where a range ends, pixels are part its colour and part another's, and would keep a rim of what it was. They are taken
 * apart: a pixel beside what changes is so much of the mean colour of that, and so much of the mean of what lies beyond; each
 * part changes by itself. What is only the other colour, in whatever light, stays to the bit.
 * @see Smith & Blinn, "Blue screen matting", SIGGRAPH 1996, for colours as sums of two known ones
 *
 * @param from   to before which row
 */
export function changeEdges(
  art: Rgba,
  out: Rgba,
  { taken, beside }: Taken,
  changing: Changing,
  from: number,
  to: number,
): void {
  const { width, data } = art;
  for (let y = from; y < to; y++)
    for (let x = 0, i = y * width; x < width; x++, i++)
      if (beside[i] === 1 && data[4 * i + 3] > 0) unmix(art, out, taken, beside, changing, x, y);
}

/** What ranges took of each pixel, 0..255, and 1 where a pixel that they do not take wholly touches one that they do. */
export interface Taken {
  readonly taken: Uint8Array;
  readonly beside: Uint8Array;
}

/** Finds what lies beside what was taken, row by row of what was. */
export function findBeside(
  { taken, beside }: Taken,
  width: number,
  height: number,
  from: number,
  to: number,
): void {
  for (let y = from; y < to; y++)
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (taken[i] < WHOLE) continue;
      const left = x > 0;
      const right = x + 1 < width;
      if (left && taken[i - 1] < WHOLE) beside[i - 1] = 1;
      if (right && taken[i + 1] < WHOLE) beside[i + 1] = 1;
      for (let v = y > 0 ? -1 : 1; v <= 1 && y + v < height; v += 2) {
        const n = i + v * width;
        if (taken[n] < WHOLE) beside[n] = 1;
        if (left && taken[n - 1] < WHOLE) beside[n - 1] = 1;
        if (right && taken[n + 1] < WHOLE) beside[n + 1] = 1;
      }
    }
}

/** Sums of linear light: of what changes wholly about a pixel, and of what does not at all. */
const sums = new Float64Array(9);

function unmix(
  art: Rgba,
  out: Rgba,
  taken: Uint8Array,
  beside: Uint8Array,
  changing: Changing,
  x: number,
  y: number,
): void {
  const { width, height, data } = art;
  sums.fill(0);
  for (let v = Math.max(0, y - REACH); v <= Math.min(height - 1, y + REACH); v++)
    for (let u = Math.max(0, x - REACH); u <= Math.min(width - 1, x + REACH); u++) {
      const i = v * width + u;
      const o = 4 * i;
      if (data[o + 3] < 128) continue;
      const isIn = taken[i] >= WHOLE;
      // What touches the range itself may be mixed already.
      if (!isIn && (taken[i] > 0 || beside[i] === 1)) continue;
      const at = isIn ? 0 : 4;
      const r = LINEAR_OF_CODE[data[o]];
      const g = LINEAR_OF_CODE[data[o + 1]];
      const b = LINEAR_OF_CODE[data[o + 2]];
      sums[at] += r;
      sums[at + 1] += g;
      sums[at + 2] += b;
      sums[at + 3]++;
      if (!isIn) sums[8] += r * r + g * g + b * b;
    }
  if (sums[3] === 0 || sums[7] === 0) return;
  const [pr, pg, pb] = [sums[0] / sums[3], sums[1] / sums[3], sums[2] / sums[3]];
  const [qr, qg, qb] = [sums[4] / sums[7], sums[5] / sums[7], sums[6] / sums[7]];
  // Where two others meet beside the range, a mixture of those is none of it.
  const whole = qr * qr + qg * qg + qb * qb;
  if (sums[8] / sums[7] - whole > SPREAD * SPREAD * whole) return;
  const o = 4 * (y * width + x);
  const [r, g, b] = [LINEAR_OF_CODE[data[o]], LINEAR_OF_CODE[data[o + 1]], LINEAR_OF_CODE[data[o + 2]]];
  if (isSame(r, g, b, qr, qg, qb)) return;
  // So much of the one and so much of the other, by least squares over the three channels.
  const [pp, qq, pq] = [
    pr * pr + pg * pg + pb * pb,
    qr * qr + qg * qg + qb * qb,
    pr * qr + pg * qg + pb * qb,
  ];
  const det = pp * qq - pq * pq;
  if (det < 1e-4 * pp * qq) return; // the same colour in other light: the range itself knows better
  const [cp, cq] = [r * pr + g * pg + b * pb, r * qr + g * qg + b * qb];
  const [a, c] = [Math.max(0, (cp * qq - cq * pq) / det), Math.max(0, (cq * pp - cp * pq) / det)];
  if (a < LEAST * (a + c)) return;
  const [er, eg, eb] = [r - a * pr - c * qr, g - a * pg - c * qg, b - a * pb - c * qb];
  const light = r * r + g * g + b * b;
  if (er * er + eg * eg + eb * eb > OFF * OFF * light) return;
  const [np, nq] = [changing.light(pr, pg, pb), changing.light(qr, qg, qb)];
  out.data[o] = codeOfLight(r + a * (np[0] - pr) + c * (nq[0] - qr));
  out.data[o + 1] = codeOfLight(g + a * (np[1] - pg) + c * (nq[1] - qg));
  out.data[o + 2] = codeOfLight(b + a * (np[2] - pb) + c * (nq[2] - qb));
}

/** Whether two colours are one in different light. */
function isSame(r: number, g: number, b: number, qr: number, qg: number, qb: number): boolean {
  const [p, q] = [labOfLight(r, g, b), labOfLight(qr, qg, qb)];
  if (p.l < 1e-6) return true;
  const scale = q.l / p.l;
  const [da, db] = [p.a * scale - q.a, p.b * scale - q.b];
  return da * da + db * db < SAME * SAME;
}
