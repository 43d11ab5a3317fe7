import { dimensionsOf, type Dimensions } from "@hardline/core/mockUp/dimensions";
import { type MockUp } from "@hardline/core/mockUp/result";
import { type Rgba } from "@hardline/core/raster/types";
import { smallView } from "@hardline/core/result/view";

/** Where prints sit on a thing: its picture, and what is drawn over it. */
export interface Sitting {
  readonly picture: Rgba;
  readonly dimensions: Dimensions;
}

/** Pixels of the picture. */
const BOX = { width: 1000, height: 1000 };

export function sittingOf(result: MockUp): Sitting | null {
  const dimensions = dimensionsOf(result);
  return dimensions && { picture: smallView(result, BOX, 0xffffff), dimensions };
}
