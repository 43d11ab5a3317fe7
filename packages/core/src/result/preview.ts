import { type Rgba } from "../raster/types";
import { type Result } from "./result";
import { smallView } from "./view";

const [WHITE, SLATE] = [0xffffff, 0x3a3d42];

/** The colour that a result is best seen on: slate where all its marks are pale, white elsewhere. */
export function baseUnder(result: Result): number {
  if (result.kind !== "plates" || result.plates.length === 0) return WHITE;
  return result.plates.every(({ ink }) => lumaOf(ink) > 128) ? SLATE : WHITE;
}

const lumaOf = (colour: number): number =>
  (colour >> 16) * 0.2126 + ((colour >> 8) & 255) * 0.7152 + (colour & 255) * 0.0722;

/**
 * A small picture of what a route comes to: its last picture, tone or plates, with its paths drawn over them.
 */
export class Preview {
  private under: Rgba | null = null;

  /** @param box  in pixels, that the picture is to fit */
  constructor(private readonly box: { readonly width: number; readonly height: number }) {}

  /** Takes up the next result of the route, in order. */
  add(result: Result): void {
    if (result.kind === "layout" || result.kind === "program") return;
    const seen = smallView(result, this.box, baseUnder(result));
    this.under = result.kind === "paths" && this.under ? over(seen, this.under) : seen;
  }

  get picture(): Rgba | null {
    return this.under;
  }
}

/** One picture laid over another of the same size. @see Porter & Duff, "Compositing Digital Images", SIGGRAPH 1984 */
function over(top: Rgba, under: Rgba): Rgba {
  if (top.width !== under.width || top.height !== under.height) return top;
  const data = under.data.slice();
  for (let o = 0; o < data.length; o += 4) {
    const [a, b] = [top.data[o + 3] / 255, data[o + 3] / 255];
    const alpha = a + b * (1 - a);
    if (a === 0 || alpha === 0) continue;
    for (let k = 0; k < 3; k++)
      data[o + k] = Math.round((top.data[o + k] * a + data[o + k] * b * (1 - a)) / alpha);
    data[o + 3] = Math.round(alpha * 255);
  }
  return { ...under, data };
}
