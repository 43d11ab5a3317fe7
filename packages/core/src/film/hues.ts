import { codesOf, hexOf, oklabOf } from "../colour/oklab";
import { CODE_OF_LINEAR, CODE_STEPS } from "../colour/srgb";
import { sinPi } from "../maths/steady";

/** Colours paler than this in OKLab have no hue to be turned. */
const GREY = 2;

/**
 * A colour with its hue turned, its lightness kept; its strength as far as a screen can show it.
 *
 * @param hex      #rrggbb
 * @param degrees  counter-clockwise in the plane of OKLab's two axes
 * @see `oklabOf`
 */
export function hueTurned(hex: string, degrees: number): string {
  const { l, a, b } = oklabOf(...codesOf(hex));
  if (a * a + b * b < GREY * GREY) return hex;
  const [c, s] = [sinPi(degrees / 180 + 0.5), sinPi(degrees / 180)];
  const [ta, tb] = [a * c - b * s, a * s + b * c];
  for (let strength = 1; strength > 0; strength -= 0.02) {
    const light = lightOfLab(l, ta * strength, tb * strength);
    if (light.every((v) => v >= -1e-4 && v <= 1 + 1e-4)) return hexOfLight(light);
  }
  return hexOfLight(lightOfLab(l, 0, 0));
}

/** Linear light of a colour in OKLab times 100. */
function lightOfLab(l: number, a: number, b: number): [number, number, number] {
  const [L, A, B] = [l / 100, a / 100, b / 100];
  const cube = (v: number): number => v * v * v;
  const lms = [
    cube(L + 0.3963377774 * A + 0.2158037573 * B),
    cube(L - 0.1055613458 * A - 0.0638541728 * B),
    cube(L - 0.0894841775 * A - 1.291485548 * B),
  ];
  return [
    4.0767416621 * lms[0] - 3.3077115913 * lms[1] + 0.2309699292 * lms[2],
    -1.2684380046 * lms[0] + 2.6097574011 * lms[1] - 0.3413193965 * lms[2],
    -0.0041960863 * lms[0] - 0.7034186147 * lms[1] + 1.707614701 * lms[2],
  ];
}

function hexOfLight(light: readonly number[]): string {
  const [r, g, b] = light.map((v) => CODE_OF_LINEAR[Math.round(Math.min(1, Math.max(0, v)) * CODE_STEPS)]);
  return hexOf(r, g, b);
}
