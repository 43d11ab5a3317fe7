import { cubeRoot, degreesOf, expMinus, sinPi } from "../maths/steady";
import { type Lab } from "./oklab";

/** The white of sRGB, D65. */
const WHITE = [0.95047, 1, 1.08883];

/**
 * CIELAB of a colour in linear light, D65.
 *
 * @param r, g, b  linear sRGB, 0..1
 * @see CIE 15:2004; IEC 61966-2-1 for the primaries
 */
export function cielabOf(r: number, g: number, b: number): Lab {
  const x = (0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / WHITE[0];
  const y = 0.2126729 * r + 0.7151522 * g + 0.072175 * b;
  const z = (0.0193339 * r + 0.119192 * g + 0.9503041 * b) / WHITE[2];
  const [fx, fy, fz] = [lightness(x), lightness(y), lightness(z)];
  return { l: 116 * fy - 16, a: 500 * (fx - fy), b: 200 * (fy - fz) };
}

const lightness = (t: number): number => (t > 216 / 24389 ? cubeRoot(t) : ((24389 / 27) * t + 16) / 116);

const cosine = (degrees: number): number => sinPi(degrees / 180 + 0.5);
const sine = (degrees: number): number => sinPi(degrees / 180);
const seventh = (c: number): number => {
  const c2 = c * c;
  return c2 * c2 * c2 * c;
};
const OFF = 25 ** 7;
/** Opposite hues are half a turn apart, however their last bits were rounded. */
const HALF_TURN = 180 + 1e-9;

/**
 * The CIEDE2000 difference of two CIELAB colours; 1 is about what is just seen side by side.
 *
 * @see CIE 142-2001; Sharma, Wu & Dalal, "The CIEDE2000 Color-Difference Formula: Implementation Notes, Supplementary
 *      Test Data, and Mathematical Observations", Color Res. Appl. 30, 2005
 */
export function ciede2000(p: Lab, q: Lab): number {
  const chroma = (Math.sqrt(p.a * p.a + p.b * p.b) + Math.sqrt(q.a * q.a + q.b * q.b)) / 2;
  const g = 0.5 * (1 - Math.sqrt(seventh(chroma) / (seventh(chroma) + OFF)));
  const [pa, qa] = [(1 + g) * p.a, (1 + g) * q.a];
  const [pc, qc] = [Math.sqrt(pa * pa + p.b * p.b), Math.sqrt(qa * qa + q.b * q.b)];
  const [ph, qh] = [degreesOf(p.b, pa), degreesOf(q.b, qa)];
  const grey = pc * qc === 0;

  let turn = grey ? 0 : qh - ph;
  if (turn > HALF_TURN) turn -= 360;
  else if (turn < -HALF_TURN) turn += 360;
  const dl = q.l - p.l;
  const dc = qc - pc;
  const dh = 2 * Math.sqrt(pc * qc) * sine(turn / 2);

  let h = ph + qh;
  if (!grey) h = (Math.abs(ph - qh) <= HALF_TURN ? h : h < 360 ? h + 360 : h - 360) / 2;
  const l = (p.l + q.l) / 2;
  const c = (pc + qc) / 2;
  const t =
    1 - 0.17 * cosine(h - 30) + 0.24 * cosine(2 * h) + 0.32 * cosine(3 * h + 6) - 0.2 * cosine(4 * h - 63);
  const far = (h - 275) / 25;
  const rotation = 2 * Math.sqrt(seventh(c) / (seventh(c) + OFF)) * sine(60 * expMinus(far * far));
  const sl = 1 + (0.015 * (l - 50) * (l - 50)) / Math.sqrt(20 + (l - 50) * (l - 50));
  const sc = 1 + 0.045 * c;
  const sh = 1 + 0.015 * c * t;
  const [el, ec, eh] = [dl / sl, dc / sc, dh / sh];
  return Math.sqrt(Math.max(0, el * el + ec * ec + eh * eh - rotation * ec * eh));
}
