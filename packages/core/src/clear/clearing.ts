import { type Frame } from "../path/frame";
import { type Rgba } from "../raster/types";

/**
 * A picture while its background is taken away. `source` stays as it came; `data` is what is left: its colour where
 * the art is whole, colours freed of the background at edges, and the cover as alpha.
 */
export interface Clearing {
  readonly source: Rgba;
  readonly data: Uint8Array;
  /** 1 where a pick or a gap took a pixel away; what the fringe is unmixed from. */
  readonly taken: Uint8Array;
  /** How much each pixel is held, 0..255; null when nothing is. */
  readonly held: Uint8Array | null;
  readonly frame: Frame;
  readonly dotsPerMm: number;
}

/** Takes a pixel away as far as it is not held. */
export function takeAway({ data, taken, held }: Clearing, i: number): void {
  const hold = held ? held[i] : 0;
  if (hold >= 128) {
    if (data[i * 4 + 3] > hold) data[i * 4 + 3] = hold;
    return;
  }
  data[i * 4 + 3] = 0;
  taken[i] = 1;
}
