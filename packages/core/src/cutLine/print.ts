import { dotsPerMm } from "../maths/units";
import { inStretches, workSlice, rowsAtOnce, type Work } from "../maths/work";
import { coverOfRings } from "../path/cover";
import { ringBox, type Rings } from "../polygon/rings";
import { newRgba, type Rgba } from "../raster/types";
import { squaredDistanceTo } from "../region/distance";
import { type Finish } from "../result/finish";

/** What lies under the art out to the edge of what is printed. */
export type Under =
  | { readonly kind: "nothing" }
  | { readonly kind: "edge" }
  | { readonly kind: "colour"; readonly colour: number };

/** Art of more cover than this, 0..255, has a colour of its own. */
const HALF = 127;

/** A picture as it is printed, and where its top left lies on the finished piece, in mm. */
export interface Print {
  readonly picture: Rgba;
  readonly xMm: number;
  readonly yMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/**
 * A picture cut to an outline, its canvas grown or cut down to hold all of it; what lies under the art is a colour, the
 * nearest colour of its edge, or nothing.
 *
 * @param rings  in mm; may reach beyond the picture
 * @see Meijster et al., as in `squaredDistanceTo`, for the nearest colour
 */
export function* printOf(colour: Rgba, rings: Rings, under: Under, finish: Finish): Work<Print> {
  const perMm = dotsPerMm(finish);
  const boxes = rings.map(ringBox);
  const left = Math.floor(Math.min(...boxes.map((b) => b.x)) * perMm);
  const top = Math.floor(Math.min(...boxes.map((b) => b.y)) * perMm);
  const width = Math.max(1, Math.ceil(Math.max(...boxes.map((b) => b.x + b.width)) * perMm) - left);
  const height = Math.max(1, Math.ceil(Math.max(...boxes.map((b) => b.y + b.height)) * perMm) - top);
  const inDots = rings.map((ring) => ring.map((v, k) => v * perMm - (k % 2 === 0 ? left : top)));
  const cover = yield* workSlice(coverOfRings(inDots, width, height), 0, 0.3);
  const art = yield* workSlice(moved(colour, left, top, width, height), 0.3, 0.4);
  const below = yield* workSlice(layer(art, under), 0.4, 0.8);
  yield* workSlice(
    inStretches(
      width * height,
      (from, to) => {
        for (let i = from, o = 4 * from; i < to; i++, o += 4) over(art.data, below, o, cover[i]);
      },
      OVER_AT_ONCE,
    ),
    0.8,
    1,
  );
  const mm = (dots: number) => dots / perMm;
  return { picture: art, xMm: mm(left), yMm: mm(top), widthMm: mm(width), heightMm: mm(height) };
}

/** Pixels laid over each other between two slices. */
const OVER_AT_ONCE = 1 << 17;

/** Lays a pixel over what lies under it, within the cover of the outline. */
function over(art: Uint8Array | Uint8ClampedArray, below: Uint8Array | null, o: number, cover: number): void {
  const alpha = art[o + 3];
  const under = below ? below[o + 3] : 0;
  const whole = alpha + (under * (255 - alpha)) / 255;
  if (below && whole > 0)
    for (let c = 0; c < 3; c++)
      art[o + c] = Math.round((art[o + c] * alpha + (below[o + c] * under * (255 - alpha)) / 255) / whole);
  art[o + 3] = Math.round((whole * cover) / 255);
}

/** The part of a picture in a box that may reach beyond it. */
function* moved(
  { width: w, height: h, data }: Rgba,
  left: number,
  top: number,
  width: number,
  height: number,
): Work<Rgba> {
  const out = newRgba(width, height);
  const [from, to] = [Math.max(0, left), Math.min(w, left + width)];
  const atOnce = rowsAtOnce(width);
  for (let y = Math.max(0, top), rows = 0; y < Math.min(h, top + height); y++, rows++) {
    if (rows % atOnce === 0) yield rows / height;
    if (from < to)
      out.data.set(
        data.subarray(4 * (y * w + from), 4 * (y * w + to)),
        4 * ((y - top) * width + from - left),
      );
  }
  return out;
}

/** What lies under the art; where it is to go on without a rim, the art's faint edge is taken off. */
function* layer({ width, height, data }: Rgba, under: Under): Work<Uint8Array | null> {
  if (under.kind === "nothing") return null;
  const out = new Uint8Array(4 * width * height);
  if (under.kind === "colour") {
    const { colour } = under;
    const word = (0xff000000 | ((colour & 255) << 16) | (colour & 0xff00) | (colour >> 16)) >>> 0;
    new Uint32Array(out.buffer).fill(word);
    return out;
  }
  const solid = new Uint8Array(width * height);
  let whole = 0;
  yield* inStretches(solid.length, (from, to) => {
    for (let i = from; i < to; i++) whole += solid[i] = +(data[4 * i + 3] === 255);
  });
  if (whole === 0)
    yield* inStretches(solid.length, (from, to) => {
      for (let i = from; i < to; i++) solid[i] = +(data[4 * i + 3] > HALF);
    });
  const nearest = new Int32Array(solid.length);
  const distance = yield* workSlice(squaredDistanceTo(solid, width, height, nearest), 0.1, 0.8);
  const edge = new Map<number, readonly number[]>();
  yield* inStretches(solid.length, (from, to) => {
    for (let i = from; i < to; i++) {
      const n = nearest[i];
      if (n < 0) continue;
      if (solid[i]) {
        for (let c = 0; c < 3; c++) out[4 * i + c] = data[4 * i + c];
      } else {
        let colour = edge.get(n);
        if (!colour) edge.set(n, (colour = colourBehind(data, width, height, n)));
        for (let c = 0; c < 3; c++) out[4 * i + c] = colour[c];
      }
      out[4 * i + 3] = 255;
      // At the very edge the art's own colour is a guess, and shows as a rim between art and border.
      if (!solid[i] && distance[i] <= BEHIND * BEHIND) data[4 * i + 3] = 0;
    }
  });
  return out;
}

/** Colours are taken from so far behind an edge, where nothing of what was there before is mixed in. */
const BEHIND = 3;

/** Mean colour of the whole pixels around one of the edge; its own where there are none. */
function colourBehind(data: Uint8Array, width: number, height: number, n: number): readonly number[] {
  const [x, y] = [n % width, Math.floor(n / width)];
  const sum = [0, 0, 0];
  let count = 0;
  for (let v = Math.max(0, y - BEHIND); v <= Math.min(height - 1, y + BEHIND); v++)
    for (let u = Math.max(0, x - BEHIND); u <= Math.min(width - 1, x + BEHIND); u++) {
      const o = 4 * (v * width + u);
      if (data[o + 3] < 255) continue;
      count++;
      for (let c = 0; c < 3; c++) sum[c] += data[o + c];
    }
  return count > 0 ? sum.map((s) => Math.round(s / count)) : [0, 1, 2].map((c) => data[4 * n + c]);
}
