import { codesOf, codesOfLab, oklabOf } from "../colour/oklab";
import { copied } from "../maths/copy";
import { inStretches, rowsAtOnce, workSlice, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { type Areas } from "./bounded";

/** A colour that an area takes, and, for a soft shade, a second one. Places in pixels. */
export interface AreaColour {
  /** #rrggbb */
  readonly colour: string;
  readonly shade?: {
    readonly colour: string;
    readonly from: readonly [number, number];
    readonly to: readonly [number, number];
  };
}

/** Share of pixels that must let something through for a picture to be art on nothing: then its ink covers. */
const SEEN_THROUGH = 0.002;

/**
 * Colours laid under a drawing, area by area. Where the drawing is on nothing its ink lies over the colour as it is; where it
 * still is on its paper, the paper takes the colour and the ink darkens it, each channel by itself. Both come to the same for
 * black ink on white.
 *
 * @param colourOf  for each area its colour; undefined leaves it as it is
 */
export function* underInk(
  picture: Rgba,
  areas: Areas,
  colourOf: readonly (AreaColour | undefined)[],
): Work<Rgba> {
  const { width, height } = picture;
  const data = yield* workSlice(copied(picture.data), 0, 0.3);
  const covers = yield* workSlice(isOnNothing(picture), 0.3, 0.4);
  const tables = colourOf.map((c) => c && tableOf(c));
  const rows = rowsAtOnce(width);
  for (let y = 0, i = 0; y < height; y++) {
    if (y % rows === 0) yield 0.4 + (0.6 * y) / height;
    for (let x = 0; x < width; x++, i++) {
      const area = areas.of[i];
      const table = area < 0 ? undefined : tables[area];
      if (!table) continue;
      const at = table.shareX === 0 && table.shareY === 0 ? 0 : stepAt(table, x, y);
      const [j, c] = [4 * i, 3 * at];
      const alpha = data[j + 3];
      const codes = table.codes;
      if (covers) {
        const rest = 255 - alpha;
        data[j] = (data[j] * alpha + codes[c] * rest + 127) / 255;
        data[j + 1] = (data[j + 1] * alpha + codes[c + 1] * rest + 127) / 255;
        data[j + 2] = (data[j + 2] * alpha + codes[c + 2] * rest + 127) / 255;
      } else {
        data[j] = (data[j] * codes[c] + 127) / 255;
        data[j + 1] = (data[j + 1] * codes[c + 1] + 127) / 255;
        data[j + 2] = (data[j + 2] * codes[c + 2] + 127) / 255;
      }
      data[j + 3] = 255;
    }
  }
  return { width, height, data };
}

function* isOnNothing({ data }: Rgba): Work<boolean> {
  let through = 0;
  yield* inStretches(data.length / 4, (from, to) => {
    for (let i = from; i < to; i++) if (data[4 * i + 3] < 255) through++;
  });
  return through > SEEN_THROUGH * (data.length / 4);
}

/** Steps of a shade. */
const STEPS = 256;

interface Table {
  /** r, g, b of each step. */
  readonly codes: Uint8Array;
  /** A place's step: offset and shares of x and y. */
  readonly offset: number;
  readonly shareX: number;
  readonly shareY: number;
}

function stepAt({ offset, shareX, shareY }: Table, x: number, y: number): number {
  const t = offset + (x + 0.5) * shareX + (y + 0.5) * shareY;
  return t <= 0 ? 0 : t >= STEPS - 1 ? STEPS - 1 : t | 0;
}

/** A shade goes evenly from one colour to the other in OKLab, with no band that is darker than both. */
function tableOf({ colour, shade }: AreaColour): Table {
  const one = codesOf(colour);
  if (!shade) return { codes: Uint8Array.from(one), offset: 0, shareX: 0, shareY: 0 };
  const [dx, dy] = [shade.to[0] - shade.from[0], shade.to[1] - shade.from[1]];
  const square = dx * dx + dy * dy;
  if (square === 0) return { codes: Uint8Array.from(one), offset: 0, shareX: 0, shareY: 0 };
  const other = codesOf(shade.colour);
  const [p, q] = [oklabOf(...one), oklabOf(...other)];
  const codes = new Uint8Array(3 * STEPS);
  for (let k = 0; k < STEPS; k++) {
    const t = k / (STEPS - 1);
    const mix = (a: number, b: number): number => a + t * (b - a);
    codes.set(codesOfLab({ l: mix(p.l, q.l), a: mix(p.a, q.a), b: mix(p.b, q.b) }), 3 * k);
  }
  const per = (STEPS - 1) / square;
  return {
    codes,
    offset: -(shade.from[0] * dx + shade.from[1] * dy) * per,
    shareX: dx * per,
    shareY: dy * per,
  };
}
