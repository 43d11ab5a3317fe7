import { type Rgba } from "@hardline/core/raster/types";
import { viewRgba } from "@hardline/core/view/view";

/** The art about a dot. */
export interface ColourWish {
  readonly x: number;
  readonly y: number;
}

/** The mean colour of a few pixels, as #rrggbb; null where there is no art. */
export function colourAt(picture: Rgba, x: number, y: number): string | null {
  const part = { x: Math.floor(x) - 1, y: Math.floor(y) - 1, width: 3, height: 3 };
  const { data } = viewRgba(picture, part, 3, 3);
  const sums = [0, 0, 0];
  let count = 0;
  for (let o = 0; o < data.length; o += 4) {
    if (data[o + 3] < 128) continue;
    for (let c = 0; c < 3; c++) sums[c] += data[o + c];
    count++;
  }
  if (count === 0) return null;
  return `#${sums
    .map((s) =>
      Math.round(s / count)
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")}`;
}
