import { type Lab } from "../colour/oklab";

/** Linear light of the three channels, 0..1 where a screen can show it. */
export type Light = readonly [number, number, number];

const cube = (v: number): number => v * v * v;

/** Linear light of a colour in OKLab times 100; outside 0..1 where no screen can show it. @see `oklabOf` */
export function lightOfLab({ l, a, b }: Lab): Light {
  const lc = cube((l + 0.3963377774 * a + 0.2158037573 * b) / 100);
  const mc = cube((l - 0.1055613458 * a - 0.0638541728 * b) / 100);
  const sc = cube((l - 0.0894841775 * a - 1.291485548 * b) / 100);
  return [
    4.0767416621 * lc - 3.3077115913 * mc + 0.2309699292 * sc,
    -1.2684380046 * lc + 2.6097574011 * mc - 0.3413193965 * sc,
    -0.0041960863 * lc - 0.7034186147 * mc + 1.707614701 * sc,
  ];
}

/** Light may be beyond what is shown by so much: a quarter of a code. */
const NEAR = 1e-4;
const isNear = (v: number): boolean => v >= -NEAR && v <= 1 + NEAR;

/**
 * The light of a colour that a screen can show: lightness and hue are kept, the colour only as strong as is possible.
 * @see CSS Color Module Level 4, section 13: gamut mapping at constant lightness and hue, by halving
 */
export function shownLight({ l, a, b }: Lab): Light {
  if (l >= 100) return [1, 1, 1];
  if (l <= 0) return [0, 0, 0];
  let light = lightOfLab({ l, a, b });
  if (!light.every(isNear)) {
    let [least, most] = [0, 1];
    for (let k = 0; k < 12; k++) {
      const share = (least + most) / 2;
      light = lightOfLab({ l, a: share * a, b: share * b });
      if (light.every(isNear)) least = share;
      else most = share;
    }
    light = lightOfLab({ l, a: least * a, b: least * b });
  }
  return [within(light[0]), within(light[1]), within(light[2])];
}

const within = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);
