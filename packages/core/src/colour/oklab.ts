import { cubeRoot } from "../maths/steady";
import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "./srgb";

/** A colour in OKLab times 100: lightness 0..100, and the two axes green to red and blue to yellow. */
export interface Lab {
  readonly l: number;
  readonly a: number;
  readonly b: number;
}

/**
 * OKLab of an sRGB colour, times 100, so that a distance of 1 is about the smallest step that is seen.
 *
 * @param r, g, b  sRGB code values, 0..255, whole
 * @see Ottosson, "A perceptual color space for image processing", 2020
 */
export const oklabOf = (r: number, g: number, b: number): Lab =>
  labOfLight(LINEAR_OF_CODE[r], LINEAR_OF_CODE[g], LINEAR_OF_CODE[b]);

/** The same of linear light, 0..1 each. */
export function labOfLight(lr: number, lg: number, lb: number): Lab {
  const l = cubeRoot(0.4122214708 * lr + 0.5363325363 * lg + 0.0514459929 * lb);
  const m = cubeRoot(0.2119034982 * lr + 0.6806995451 * lg + 0.1073969566 * lb);
  const s = cubeRoot(0.0883024619 * lr + 0.2817188376 * lg + 0.6299787005 * lb);
  return {
    l: 100 * (0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s),
    a: 100 * (1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s),
    b: 100 * (0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s),
  };
}

/** The nearest sRGB code values of a colour in OKLab; what lies outside is brought to the nearest edge, channel by channel. */
export function codesOfLab({ l, a, b }: Lab): [number, number, number] {
  const cube = (v: number): number => (v / 100) * (v / 100) * (v / 100);
  const [lc, mc, sc] = [
    cube(l + 0.3963377774 * a + 0.2158037573 * b),
    cube(l - 0.1055613458 * a - 0.0638541728 * b),
    cube(l - 0.0894841775 * a - 1.291485548 * b),
  ];
  const code = (light: number): number =>
    CODE_OF_LINEAR[Math.round(Math.min(1, Math.max(0, light)) * CODE_STEPS)];
  return [
    code(4.0767416621 * lc - 3.3077115913 * mc + 0.2309699292 * sc),
    code(-1.2684380046 * lc + 2.6097574011 * mc - 0.3413193965 * sc),
    code(-0.0041960863 * lc - 0.7034186147 * mc + 1.707614701 * sc),
  ];
}

/** Straight-line distance of two colours, in hundredths of OKLab. */
export const labDistance = (p: Lab, q: Lab): number =>
  Math.sqrt((p.l - q.l) * (p.l - q.l) + (p.a - q.a) * (p.a - q.a) + (p.b - q.b) * (p.b - q.b));

/** The three code values of a colour as `#rrggbb`. */
export const codesOf = (hex: string): [number, number, number] => [
  parseInt(hex.slice(1, 3), 16),
  parseInt(hex.slice(3, 5), 16),
  parseInt(hex.slice(5, 7), 16),
];

/** `#rrggbb` of three code values. */
export const hexOf = (r: number, g: number, b: number): string =>
  `#${((1 << 24) | (r << 16) | (g << 8) | b).toString(16).slice(1)}`;

/** `#rrggbb` as one number, 0xrrggbb. */
export const numberOf = (hex: string): number => Number.parseInt(hex.slice(1), 16);

/** 0xrrggbb as `#rrggbb`. */
export const hexOfNumber = (colour: number): string => hexOf(colour >> 16, (colour >> 8) & 255, colour & 255);
