import { LINEAR_OF_CODE } from "../../colour/srgb";
import { layersFor } from "../../film/fadeOnCloth";
import { type Light } from "../../film/model";
import { chokedBy, squaredInside } from "../../film/moveEdge";
import { inStretches, rowsAtOnce, workSlice, type Work } from "../../maths/work";
import { dotsPerMm } from "../../maths/units";
import { type Rgba } from "../../raster/types";
import { extremes } from "../../region/extremes";
import { type Finish } from "../../result/finish";
import { type TransferSettings } from "./settings";

/** Art of this much cover is whole: 255 = bare. */
const WHOLE = 6;
/** Half covered: where an edge lies. */
const HALF = 128;
/** Cover is compared over so many millimetres to either side: a soft edge's ends are as flat as a fade, if seen too near. */
const OVER_MM = 0.4;
/**
 * Cover that differs by no more than the first of these over that length fades; by the second, it ends at an edge. A slope
 * of a millimetre and a half is an edge, one of two millimetres begins to be a fade (`transfer.test.ts`).
 */
const [FADE, EDGE] = [64, 112];

/** What is printed: how much of its colour on every pixel, and how much white under it. Greys, 255 = full. */
export interface Layers {
  readonly ink: Uint8Array;
  readonly white: Uint8Array;
}

/** Distances from the time before, where nothing of the art has changed. */
export interface KeptDistances {
  readonly get: () => Int32Array | undefined;
  readonly set: (squared: Int32Array) => void;
}

/**
 * The two layers of a transfer. At an edge the white is pulled in by the exact distance; in a fade it follows the art,
 * moved in by that distance. See-through inks show what is under them: there both layers are set so that the print
 * looks as the art does on the cloth.
 *
 * @param colour  the art's colours
 * @param bare    its cover turned round: 255 = bare
 * @param cloth   light of the garment
 */
export function* layersOf(
  { width, height, data }: Rgba,
  bare: Uint8Array,
  finish: Finish,
  cloth: Light,
  { inks, white: { chokeMm, strength } }: Pick<TransferSettings, "inks" | "white">,
  kept: KeptDistances,
): Work<Layers> {
  const byPx = chokeMm * dotsPerMm(finish);
  const ink = new Uint8Array(bare.length);
  const whiteBare = new Uint8Array(bare.length);
  const solve = inks === "seeThrough" ? layersFor(cloth) : null;
  const atOnce = Math.max(1, rowsAtOnce(width) >> 6);
  const reach = Math.max(1, Math.round(OVER_MM * dotsPerMm(finish)));
  const [least, most] = yield* workSlice(extremes(bare, width, height, reach), 0, 0.2);
  const about = new Cover(bare, least, most, width, height);
  const whole = 255 - Math.round(255 * strength);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield 0.2 + (0.2 * y) / height;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const cover = 255 - bare[i];
      // Whole among whole it is no slope: all of its ink, all of its white.
      if (cover === 255 && most[i] === 0) {
        ink[i] = 255;
        whiteBare[i] = whole;
        continue;
      }
      let [own, under] = [cover, cover];
      const fade = cover === 0 ? 0 : about.fades(x, y);
      if (fade > 0) {
        // A slope moved in by a distance is lower by that distance times its steepness.
        const left = Math.max(0, 1 - (byPx * about.slope(x, y)) / cover);
        if (solve && cover < 255) {
          const o = 4 * i;
          const light = [
            LINEAR_OF_CODE[data[o]],
            LINEAR_OF_CODE[data[o + 1]],
            LINEAR_OF_CODE[data[o + 2]],
          ] as const;
          const [solvedInk, solvedWhite] = solve(light, cover / 255);
          own += fade * (255 * solvedInk - cover);
          under += fade * (255 * solvedWhite - cover);
        }
        under *= left;
      }
      ink[i] = Math.round(own);
      whiteBare[i] = 255 - Math.round(under * strength);
    }
  }
  let white = whiteBare;
  if (byPx > 0) {
    let squared = kept.get();
    if (!squared) {
      const shape = yield* workSlice(shapeOfArt(about), 0.4, 0.6);
      kept.set((squared = yield* workSlice(squaredInside(shape, width, height), 0.6, 0.8)));
    }
    white = (yield* workSlice(chokedBy(whiteBare, squared, byPx), 0.8, 0.9)) as Uint8Array<ArrayBuffer>;
  }
  yield* workSlice(
    inStretches(white.length, (from, to) => {
      for (let i = from; i < to; i++) white[i] = 255 - white[i];
    }),
    0.9,
    1,
  );
  return { ink, white };
}

/** Where the white may lie before it is pulled in, 1: up to an edge, and all over a fade. */
function* shapeOfArt(about: Cover): Work<Uint8Array> {
  const { width, height, bare } = about;
  const shape = new Uint8Array(bare.length);
  const atOnce = Math.max(1, rowsAtOnce(width) >> 3);
  for (let y = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 0, i = y * width; x < width; x++, i++)
      shape[i] = bare[i] <= WHOLE || (bare[i] < 255 && about.isInside(x, y)) ? 1 : 0;
  }
  return shape;
}

/** How art covers, about each pixel. */
class Cover {
  constructor(
    readonly bare: Uint8Array,
    private readonly least: Uint8Array,
    private readonly most: Uint8Array,
    readonly width: number,
    readonly height: number,
  ) {}

  /** How far a pixel is part of a fade and none of an edge, 0..1. */
  fades(x: number, y: number): number {
    const i = y * this.width + x;
    return Math.min(1, Math.max(0, (EDGE - (this.most[i] - this.least[i])) / (EDGE - FADE)));
  }

  /** How steeply the cover changes, in 255ths a pixel. */
  slope(x: number, y: number): number {
    const { bare, width, height } = this;
    const [l, r] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
    const [t, b] = [Math.max(0, y - 1), Math.min(height - 1, y + 1)];
    const dx = r > l ? (bare[y * width + r] - bare[y * width + l]) / (r - l) : 0;
    const dy = b > t ? (bare[b * width + x] - bare[t * width + x]) / (b - t) : 0;
    return Math.sqrt(dx * dx + dy * dy);
  }

  /** A soft pixel belongs to the art where it is part of a fade, or more than half covered beside whole art. */
  isInside(x: number, y: number): boolean {
    return this.fades(x, y) > 0 || (this.bare[y * this.width + x] < HALF && this.isWholeBeside(x, y));
  }

  private isWholeBeside(x: number, y: number): boolean {
    const { bare, width, height } = this;
    const i = y * width + x;
    return (
      (x > 0 && bare[i - 1] <= WHOLE) ||
      (x < width - 1 && bare[i + 1] <= WHOLE) ||
      (y > 0 && bare[i - width] <= WHOLE) ||
      (y < height - 1 && bare[i + width] <= WHOLE)
    );
  }
}
