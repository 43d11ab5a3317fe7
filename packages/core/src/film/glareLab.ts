import { codesOf, labOfLight, type Lab } from "../colour/oklab";
import { LINEAR_OF_CODE } from "../colour/srgb";

/**
 * Light that falls on a print and comes back from its surface, as a share of white's. Without it the colours just above
 * black are as far from one another as no eye tells them, and the noise of a JPEG in black is as far as two inks are:
 * #010101 and #0a0a0a 7.8 instead of 1.7 (`npm run films`).
 *
 * @see ISO 3664:2009, viewing conditions: about 1 % of glare is usual where prints are looked at
 */
const GLARE = 0.01;

const seen = (code: number): number => (LINEAR_OF_CODE[code] + GLARE) / (1 + GLARE);

/** OKLab times 100 of a colour as it is seen under usual light. @param red, green, blue  sRGB code values, 0..255 */
export const labOf = (red: number, green: number, blue: number): Lab =>
  labOfLight(seen(Math.round(red)), seen(Math.round(green)), seen(Math.round(blue)));

/** @param hex  #rrggbb */
export const labOfHex = (hex: string): Lab => labOf(...codesOf(hex));
