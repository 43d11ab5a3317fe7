import { type Light } from "./model";

// Thresholds: what they come to is held by `stage/transfer/transfer.test.ts`, on four cloths and seven colours.

/** Steps towards the best pair, and how much the first of them is held back. */
const [TURNS, DAMPED] = [12, 0.01];
/** How much a difference in red, green and blue counts: about their parts of luminance, with blue not quite lost. */
const WEIGHTS = [0.3, 0.6, 0.1] as const;
/** Light under which an eye hardly tells more; keeps dark colours from counting for everything. */
const DARK = 0.02;
/** From this cover on there is white, more and more, as all of it lies under whole art: under black it is not seen. */
const WHITE_FROM = 0.7;
/** On cloth as light as this white changes nothing. */
const WHITE_CLOTH = 0.98;

/**
 * How much see-through ink, and how much white under it, a fade wants on a cloth. The art's colour is to be seen at so
 * much cover over the cloth; the print is ink that takes its colour out of what is below it. On dark cloth ink alone is
 * not seen: there the ink stays nearly full and the white fades. On white cloth the ink fades.
 *
 * @param cloth  its light, 0..1
 * @returns from the light of the art's colour and its cover, 0..1, to shares of ink and of white, 0..1
 * @see `printedLight` for the model
 * @see Marquardt, "An algorithm for least-squares estimation of nonlinear parameters", J. SIAM 11, 1963; bounded here
 */
export function layersFor(
  cloth: Light,
): (light: Light, cover: number) => readonly [ink: number, white: number] {
  const isWhite = cloth.every((c) => c >= WHITE_CLOTH);
  return (light, cover) => {
    if (isWhite) return [cover, cover];
    const wanted = light.map((own, c) => cloth[c] + cover * (own - cloth[c]));
    // Art that is darker than the cloth needs no white; light art on dark cloth shows by its white alone.
    const lighter = light.reduce((sum, own, c) => sum + Math.max(0, own - cloth[c]), 0);
    const apart = light.reduce((sum, own, c) => sum + Math.abs(own - cloth[c]), 0);
    const byWhite = apart > 0 ? lighter / apart : 0;
    const pair = nearest(light, cloth, wanted, cover, [cover + (1 - cover) * byWhite, cover * byWhite]);
    const least = (cover - WHITE_FROM) / (1 - WHITE_FROM);
    if (pair[1] >= least) return pair;
    const { ii, ri } = aboutPair(light, cloth, wanted, [pair[0], least]);
    return [ii > 0 ? within(pair[0] + ri / ii, cover) : pair[0], least];
  };
}

/** What a pair of ink and white is off by, and how that changes with either. */
function aboutPair(light: Light, cloth: Light, wanted: readonly number[], [ink, white]: readonly number[]) {
  let [ii, iw, ww, ri, rw, off] = [0, 0, 0, 0, 0, 0];
  for (let c = 0; c < 3; c++) {
    const lets = 1 + ink * (light[c] - 1);
    const ground = cloth[c] + (1 - cloth[c]) * white;
    const rest = wanted[c] - lets * ground;
    const [byInk, byWhite] = [ground * (light[c] - 1), lets * (1 - cloth[c])];
    const weight = weightOf(wanted[c], c);
    ii += weight * byInk * byInk;
    iw += weight * byInk * byWhite;
    ww += weight * byWhite * byWhite;
    ri += weight * byInk * rest;
    rw += weight * byWhite * rest;
    off += weight * rest * rest;
  }
  return { ii, iw, ww, ri, rw, off };
}

/** The pair near a first one that is off by the least; there is no less ink than the art covers. */
function nearest(
  light: Light,
  cloth: Light,
  wanted: readonly number[],
  cover: number,
  first: readonly [number, number],
): readonly [number, number] {
  let pair = first;
  let about = aboutPair(light, cloth, wanted, pair);
  let damping = DAMPED;
  for (let turn = 0; turn < TURNS; turn++) {
    const { ii, iw, ww, ri, rw, off } = about;
    const held = damping * (ii + ww);
    const [a, b] = [ii + held, ww + held];
    const under = a * b - iw * iw;
    if (!(under > 0)) break;
    const next = [
      within(pair[0] + (b * ri - iw * rw) / under, cover),
      within(pair[1] + (a * rw - iw * ri) / under, 0),
    ] as const;
    const then = aboutPair(light, cloth, wanted, next);
    if (then.off < off) [pair, about, damping] = [next, then, damping / 4];
    else damping *= 8;
  }
  return pair;
}

const within = (share: number, least: number): number => Math.min(1, Math.max(least, share));

/** An eye tells less of a difference the lighter it is: by about the square of the steepness of light's cube root. */
const weightOf = (wanted: number, c: number): number =>
  WEIGHTS[c] / ((wanted + DARK) * Math.sqrt(wanted + DARK));
