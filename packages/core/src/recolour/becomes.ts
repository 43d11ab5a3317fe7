import { codesOf, labOfLight, oklabOf, type Lab } from "../colour/oklab";
import { LINEAR_OF_CODE } from "../colour/srgb";
import { cosPi, sinPi } from "../maths/steady";
import { lightOfLab, shownLight, type Light } from "./gamut";
import { type ColourChange } from "./change";
import { GREY } from "./range";

/** What a colour of a range becomes: linear light of it, and where it lies in OKLab, to linear light. */
export type Becomes = (light: Light, lab: Lab) => Light;

/** Darker than this in linear light a colour is black: what is lighter than it is white laid over it. */
const BLACK = 0.02;

const lightOf = (hex: string): Light => {
  const [r, g, b] = codesOf(hex);
  return [LINEAR_OF_CODE[r], LINEAR_OF_CODE[g], LINEAR_OF_CODE[b]];
};

/** How a change makes new colours of old ones; colours that no screen can show are brought back at their own hue. */
export function becomes({ from, to }: Pick<ColourChange, "from" | "to">): Becomes {
  const made = "colour" in to ? toColour(from, to.colour) : moved(to);
  return (light, lab) => {
    const next = made(light, lab);
    return isShown(next) ? next : shownLight(labOfLight(...next));
  };
}

const isShown = ([r, g, b]: Light): boolean => r >= 0 && g >= 0 && b >= 0 && r <= 1 && g <= 1 && b <= 1;

/**
 * A colour of a cloth is its own colour times its light, and white shine over that: the first becomes the new colour times
 * the same light, the shine stays, and so does what neither of them explains.
 * @see Shafer, "Using color to separate reflection components", Color Research & Application 10, 1985
 */
function toColour(from: string, to: string): Becomes {
  const [own, next] = [lightOf(from), lightOf(to)];
  const { a, b } = oklabOf(...codesOf(from));
  const most = Math.max(...own);
  if (most < BLACK)
    return (light) => {
      const white = light.map((v, c) => (v - own[c]) / (1 - own[c]));
      const over = (white[0] + white[1] + white[2]) / 3;
      return mapLight(light, (_, c) => next[c] + over * (1 - next[c]) + (white[c] - over) * (1 - own[c]));
    };
  const square = own[0] * own[0] + own[1] * own[1] + own[2] * own[2];
  if (a * a + b * b < GREY * GREY)
    return (light) => {
      const shade = (light[0] * own[0] + light[1] * own[1] + light[2] * own[2]) / square;
      return mapLight(light, (v, c) => shade * next[c] + (v - shade * own[c]));
    };
  // Shade and shine by least squares over the three channels.
  const sum = own[0] + own[1] + own[2];
  const det = 3 * square - sum * sum;
  return (light) => {
    const along = light[0] * own[0] + light[1] * own[1] + light[2] * own[2];
    const all = light[0] + light[1] + light[2];
    const shade = Math.max(0, (3 * along - sum * all) / det);
    const shine = (all - shade * sum) / 3;
    return mapLight(light, (v, c) => shade * next[c] + shine + (v - shade * own[c] - shine));
  };
}

const mapLight = (light: Light, of: (v: number, c: number) => number): Light => [
  of(light[0], 0),
  of(light[1], 1),
  of(light[2], 2),
];

/** Hue turned, saturation and lightness scaled: shading stays shading, since all of it is scaled alike. */
function moved({ hue, saturation, lightness }: Extract<ColourChange["to"], { hue: number }>): Becomes {
  const [c, s] = [cosPi(hue / 180), sinPi(hue / 180)];
  const lighter = 1 + lightness;
  const strength = saturation * Math.min(1, lighter);
  return (_, { l, a, b }) =>
    lightOfLab({
      l: Math.min(100, l * lighter),
      a: strength * (a * c - b * s),
      b: strength * (a * s + b * c),
    });
}
