import { type ArtworkFacts } from "@hardline/core/route/source";

/** Of more pixels an artwork is not held in the browser, but read through whenever its size is made anew. */
const LARGE_PIXELS = 60e6;

export const isLarge = ({ width, height, vector }: ArtworkFacts): boolean =>
  !vector && width * height > LARGE_PIXELS;
