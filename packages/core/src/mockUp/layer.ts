import { codeOfLight, LINEAR_OF_CODE } from "../colour/srgb";
import { overWhite } from "../film/overWhite";
import { proofIn } from "../film/seen";
import { dotsPerMm } from "../maths/units";
import { rowsAtOnce, workSlice, type Work } from "../maths/work";
import { coverOfRings } from "../path/cover";
import { ringsOf } from "../path/flatten";
import { boxOf, type PathSet } from "../path/pathSet";
import { readyBits, readyGray, readyRgba } from "../raster/halve";
import { newRgba, type Rect, type Rgba } from "../raster/types";
import { recoloured } from "../recolour/recolour";
import { wayView, type Colourway } from "../recolour/colourway";
import { viewBits, viewGray, viewRgba } from "../view/view";
import { type Paths, type Picture, type Plates } from "../result/result";

/** What is put on a thing. */
export type Art = Picture | Plates | Paths;

/**
 * What is put on a thing, without the thing: how it looks on black and on white. All ways of printing that are known here are
 * even in what lies under them, so these two tell what it looks like on anything. A pixel of nothing lies all about it.
 */
export interface Layer {
  readonly onBlack: Rgba;
  readonly onWhite: Rgba;
  /** Pixels to a mm. */
  readonly perMm: number;
}

/** The part of the piece that is put on, in mm from the piece's top left. */
export function boxOfArt(art: Art): Rect {
  const { widthMm, heightMm } = art.finish;
  const whole = { x: 0, y: 0, width: widthMm, height: heightMm };
  if (art.kind !== "paths") return whole;
  return boxOf(edgeOf(art) ?? art.sets[0]) ?? whole;
}

/** Of a sticker: what is printed out to, or cut along. */
const edgeOf = ({ sets, cut }: Paths): PathSet | null =>
  cut
    ? (sets.find((s) => s.use === "print" && s.closed.length > 0) ??
      sets.find((s) => s.closed.length > 0) ??
      null)
    : null;

/** Fewest and most pixels of a layer along its longer side. */
const [LEAST, MOST] = [8, 4096];

/**
 * @param perMm  pixels to a mm that are wanted; the layer has as many or up to twice that, as far as the art has them
 * @param vinyl  colour of what is traced and cut from one colour, 0xrrggbb
 */
export function* layerOf(art: Art, perMm: number, way: Colourway | null, vinyl: number): Work<Layer> {
  const box = boxOfArt(art);
  const long = Math.max(box.width, box.height, 1e-6);
  const own = art.kind === "paths" ? Infinity : dotsPerMm(art.finish);
  const fine = Math.min(
    own,
    MOST / long,
    Math.max(LEAST / long, 2 ** Math.ceil(Math.log2(Math.max(perMm, 1e-6)))),
  );
  const [width, height] = [box.width, box.height].map((side) => Math.max(1, Math.round(side * fine)));
  const made = yield* workSlice(onBoth(art, box, width, height, way, vinyl), 0, 0.9);
  return {
    onBlack: yield* framed(made.onBlack, 0),
    onWhite: yield* framed(made.onWhite, 255),
    perMm: fine,
  };
}

interface Both {
  readonly onBlack: Rgba;
  readonly onWhite: Rgba;
}

function* onBoth(
  art: Art,
  box: Rect,
  width: number,
  height: number,
  way: Colourway | null,
  vinyl: number,
): Work<Both> {
  const { widthPx, heightPx } = art.finish;
  const whole = { x: 0, y: 0, width: widthPx, height: heightPx };
  if (art.kind === "paths") return yield* ofPaths(art, box, width, height, way, vinyl);
  if (art.kind === "plates") {
    if (!art.print) return yield* ofMarks(art, whole, width, height, vinyl);
    const look = way ? wayView(way) : {};
    return {
      onBlack: yield* workSlice(proofIn(art, width, height, { ...look, garment: 0 }), 0, 0.5),
      onWhite: yield* workSlice(proofIn(art, width, height, { ...look, garment: 0xffffff }), 0.5, 1),
    };
  }
  const { colour, onGarment } = art;
  yield* workSlice(readyRgba(colour, widthPx / width), 0, 0.3);
  const seen = yield* workSlice(
    recoloured(viewRgba(colour, whole, width, height), way?.recolour ?? []),
    0.3,
    0.6,
  );
  if (!onGarment) return yield* workSlice(over(seen), 0.6, 1);
  const plane = { width: colour.width, height: colour.height, data: onGarment.white };
  yield* readyGray(plane, widthPx / width);
  const white = viewGray(plane, whole, width, height);
  return {
    onBlack: overWhite(seen, white, { ...onGarment, garment: 0 }),
    onWhite: overWhite(seen, white, { ...onGarment, garment: 0xffffff }),
  };
}

/** A picture over black and over white, in linear light. */
function* over({ width, height, data }: Rgba): Work<Both> {
  const [onBlack, onWhite] = [newRgba(width, height), newRgba(width, height)];
  const atOnce = rowsAtOnce(2 * width);
  for (let y = 0, o = 0; y < height; y++) {
    if (y % atOnce === 0) yield y / height;
    for (let x = 0; x < width; x++, o += 4) {
      const alpha = data[o + 3] / 255;
      for (let c = 0; c < 3; c++) {
        const own = alpha * LINEAR_OF_CODE[data[o + c]];
        onBlack.data[o + c] = codeOfLight(own);
        onWhite.data[o + c] = codeOfLight(own + 1 - alpha);
      }
      onBlack.data[o + 3] = onWhite.data[o + 3] = 255;
    }
  }
  return { onBlack, onWhite };
}

/** Marks of one bitmap, of one colour. */
function* ofMarks(
  { plates, cover }: Plates,
  whole: Rect,
  width: number,
  height: number,
  vinyl: number,
): Work<Both> {
  const { bits } = plates[0];
  yield* readyBits(bits, whole.width / width);
  const bare = viewBits(bits, whole, width, height);
  const art =
    cover && viewGray({ width: bits.width, height: bits.height, data: cover }, whole, width, height);
  const seen = newRgba(width, height);
  for (let i = 0, o = 0; i < bare.data.length; i++, o += 4) {
    put(seen, o, vinyl, ((255 - bare.data[i]) * (art ? art.data[i] : 255)) / 255);
  }
  return yield* over(seen);
}

function put({ data }: Rgba, o: number, colour: number, alpha: number): void {
  data[o] = colour >> 16;
  data[o + 1] = (colour >> 8) & 255;
  data[o + 2] = colour & 255;
  data[o + 3] = Math.round(alpha);
}

/** What is traced, filled; and what is cut out of a print, with the print on it. */
function* ofPaths(
  paths: Paths,
  box: Rect,
  width: number,
  height: number,
  way: Colourway | null,
  vinyl: number,
): Work<Both> {
  const scale = width / box.width;
  const seen = newRgba(width, height);
  const edge = edgeOf(paths);
  const sets = edge ? [edge] : paths.sets.filter((s) => s.use !== "print");
  const covers: Uint8Array[] = [];
  for (const set of sets)
    covers.push(
      yield* coverOfRings(
        ringsOf(set, 0.3 / scale).map((ring) =>
          ring.map((v, k) => (v - (k % 2 === 0 ? box.x : box.y)) * scale),
        ),
        width,
        height,
      ),
    );
  const printed = edge?.use === "print";
  const ground = printed ? (edge.ground ?? 0xffffff) : vinyl;
  for (let i = 0, o = 0; i < width * height; i++, o += 4) {
    let cover = 0;
    for (const one of covers) cover = Math.max(cover, one[i]);
    put(seen, o, ground, cover);
  }
  if (!printed || !paths.cut) return yield* over(seen);
  const { art } = paths.cut;
  const perPx = art.width / paths.finish.widthMm;
  const part = { x: box.x * perPx, y: box.y * perPx, width: box.width * perPx, height: box.height * perPx };
  yield* readyRgba(art, part.width / width);
  const picture = yield* recoloured(viewRgba(art, part, width, height), way?.recolour ?? []);
  for (let o = 0; o < seen.data.length; o += 4) {
    const alpha = picture.data[o + 3] / 255;
    for (let c = 0; c < 3; c++)
      seen.data[o + c] = Math.round(seen.data[o + c] + (picture.data[o + c] - seen.data[o + c]) * alpha);
  }
  return yield* over(seen);
}

/** With one pixel of nothing all about it, so that its edge is soft wherever it comes to lie. */
function* framed({ width, height, data }: Rgba, empty: number): Work<Rgba> {
  yield 0;
  const out = {
    width: width + 2,
    height: height + 2,
    data: new Uint8Array(4 * (width + 2) * (height + 2)).fill(empty),
  };
  for (let y = 0; y < height; y++)
    out.data.set(data.subarray(4 * y * width, 4 * (y + 1) * width), 4 * ((y + 1) * out.width + 1));
  return out;
}
