import { codesOf } from "../colour/oklab";
import { codeOfLight, LINEAR_OF_CODE } from "../colour/srgb";
import { canonical } from "../settings/canonical";
import { cosPi, sinPi } from "../maths/steady";
import { workSlice, type Work } from "../maths/work";
import { readyRgba } from "../raster/halve";
import { newRgba, type Rect, type Rgba } from "../raster/types";
import { viewGray, viewRgba } from "../view/view";
import { drawnGround, type Ground } from "./ground";
import { layerOf, type Art, type Layer } from "./layer";
import { type PlacedPrint } from "./place";
import { type PhotoStage, type Scene, type Stage } from "./scene";
import { latticeRow } from "./shading";
import { type Surface } from "./surface";

/** Pixels that are looked at together, and kept while a hand moves a print; of more, so many that they stay near the processor. */
const [KEPT, BAND] = [1_600_000, 300_000];

/**
 * A thing with what is put on it, as it is seen.
 * @param part  of the thing's picture, in its own units
 */
export function* seenScene(art: Art, scene: Scene, part: Rect, width: number, height: number): Work<Rgba> {
  const rows = Math.max(1, Math.floor(BAND / width));
  if (width * height <= KEPT) return yield* seenBand(art, scene, part, width, height);
  const out = newRgba(width, height);
  for (let y = 0; y < height; y += rows) {
    const some = Math.min(rows, height - y);
    const own = { ...part, y: part.y + (y / height) * part.height, height: (some / height) * part.height };
    const seen = yield* workSlice(seenBand(art, scene, own, width, some), y / height, (y + some) / height);
    out.data.set(seen.data, 4 * y * width);
  }
  return out;
}

function* seenBand(art: Art, scene: Scene, part: Rect, width: number, height: number): Work<Rgba> {
  const ground = yield* workSlice(groundOf(scene, part, width, height), 0, 0.6);
  const out = { ...ground.picture, data: ground.picture.data.slice() };
  const perMm = (width / part.width) * scene.stage.perMm;
  for (const [k, print] of scene.prints.entries()) {
    const at = (share: number): number => 0.6 + (0.4 * (k + share)) / scene.prints.length;
    const layer = yield* workSlice(keptLayer(art, perMm / print.scale, scene), at(0), at(0.5));
    for (const surface of print.area.surfaces) {
      const on = pixelsOf(print, surface, part, width, height);
      if (!on) continue;
      const field = yield* workSlice(fieldOf(surface, part, width, height), at(0.5), at(0.7));
      layPrint(out.data, ground, field, layer, print, scene, on, width);
    }
  }
  return out;
}

/** Places along each side of a print that tell which pixels it may lie on, and how far beyond them it is looked for. */
const [LOOKS, BEYOND] = [12, 4];

/** The pixels that a print may lie on; null where that is none. Where some of it is turned away, they may be any. */
function pixelsOf(
  print: PlacedPrint,
  surface: Surface,
  part: Rect,
  width: number,
  height: number,
): Rect | null {
  const { middle, turn, widthMm, heightMm } = print;
  const [c, s] = [cosPi(turn / 180), sinPi(turn / 180)];
  let [left, top, right, foot] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let j = 0; j <= LOOKS; j++)
    for (let i = 0; i <= LOOKS; i++) {
      const [x, y] = [(i / LOOKS - 0.5) * widthMm, (j / LOOKS - 0.5) * heightMm];
      const seen = surface.seen(middle[0] + c * x - s * y, middle[1] + s * x + c * y);
      if (!seen) return { x: 0, y: 0, width, height };
      const [u, v] = [((seen[0] - part.x) / part.width) * width, ((seen[1] - part.y) / part.height) * height];
      left = Math.min(left, u);
      right = Math.max(right, u);
      top = Math.min(top, v);
      foot = Math.max(foot, v);
    }
  // Between two places that are looked at, a bent edge may bulge by a part of their distance.
  const [du, dv] = [BEYOND + (right - left) / LOOKS, BEYOND + (foot - top) / LOOKS];
  const [x, y] = [Math.max(0, Math.floor(left - du)), Math.max(0, Math.floor(top - dv))];
  const [to, end] = [Math.min(width, Math.ceil(right + du)), Math.min(height, Math.ceil(foot + dv))];
  return to > x && end > y ? { x, y, width: to - x, height: end - y } : null;
}

/** The last ground, which stays while a hand moves what lies on it. */
let lastGround: {
  readonly stage: Stage;
  readonly of: string;
  readonly ground: Ground;
} | null = null;

function* groundOf({ stage, colour }: Scene, part: Rect, width: number, height: number): Work<Ground> {
  const of = canonical([colour, part, width, height]);
  if (lastGround && isSame(lastGround.stage, stage) && lastGround.of === of) return lastGround.ground;
  const made =
    stage.kind === "drawn"
      ? yield* drawnGround(stage.drawn, stage.stuff, colour, part, width, height)
      : yield* photoGround(stage, part, width, height);
  lastGround = { stage, of, ground: made };
  return made;
}

const isSame = (a: Stage, b: Stage): boolean =>
  a.kind === "drawn" && b.kind === "drawn"
    ? a.drawn === b.drawn
    : a.kind === "photo" &&
      b.kind === "photo" &&
      a.photo === b.photo &&
      a.light === b.light &&
      a.lit === b.lit &&
      a.front === b.front;

function* photoGround(
  { photo, light, lit, front }: PhotoStage,
  part: Rect,
  width: number,
  height: number,
): Work<Ground> {
  yield* workSlice(readyRgba(photo, part.width / width), 0, 0.5);
  const picture = viewRgba(photo, part, width, height);
  const own = new Float32Array(width * height);
  for (let v = 0; v < height; v++) {
    if (v % 64 === 0) yield 0.5 + (0.5 * v) / height;
    const y = part.y + ((v + 0.5) / height) * part.height;
    const row = own.subarray(v * width, (v + 1) * width);
    latticeRow(light, part.x + (0.5 * part.width) / width, part.width / width, y, row);
    for (let u = 0; u < width; u++) row[u] /= lit;
  }
  const plane = front && { width: photo.width, height: photo.height, data: front };
  return {
    picture,
    light: own,
    shine: null,
    // What lies outside the photograph has nothing to be printed on.
    front: plane && viewGray(plane, part, width, height).data,
  };
}

/** Where on an area each pixel lies, in mm: x, y; not a number where it lies on none. */
type Field = Float32Array;

const fields = new WeakMap<Surface, { readonly of: string; readonly places: Field }>();

function* fieldOf(surface: Surface, part: Rect, width: number, height: number): Work<Field> {
  const of = canonical([part, width, height]);
  const known = fields.get(surface);
  if (known?.of === of) return known.places;
  const places = new Float32Array(2 * width * height);
  const [dx, dy] = [part.width / width, part.height / height];
  const pixels = { x: part.x + dx / 2, y: part.y + dy / 2, dx, dy, width };
  const rows = Math.max(1, Math.floor(32768 / width));
  for (let v = 0; v < height; v += rows) {
    yield v / height;
    (surface.rows ?? oneByOne(surface))(pixels, v, Math.min(height, v + rows), places);
  }
  fields.set(surface, { of, places });
  return places;
}

const oneByOne = (surface: Surface): NonNullable<Surface["rows"]> => {
  const place = new Float64Array(2);
  return ({ x, y, dx, dy, width }, from, to, into) => {
    for (let v = from, o = 2 * from * width; v < to; v++)
      for (let u = 0; u < width; u++, o += 2) {
        const on = surface.at(x + u * dx, y + v * dy, place);
        into[o] = on ? place[0] : NaN;
        into[o + 1] = on ? place[1] : NaN;
      }
  };
};

const layers = new WeakMap<Art, Map<string, Layer>>();
/** Layers of one art that are kept: of the ways that lie side by side, at two sizes. */
const MOST_LAYERS = 12;

function* keptLayer(art: Art, perMm: number, { way, vinyl }: Scene): Work<Layer> {
  const fine = Math.ceil(Math.log2(Math.max(perMm, 1e-6)));
  const name = canonical([fine, vinyl, way && [way.colours, way.recolour]]);
  if (!layers.has(art)) layers.set(art, new Map());
  const own = layers.get(art)!;
  const known = own.get(name);
  if (known) return known;
  const made = yield* layerOf(art, 2 ** fine, way, vinyl);
  if (own.size >= MOST_LAYERS) own.delete(own.keys().next().value!);
  own.set(name, made);
  return made;
}

/** Light of an ink that lies in full light is at most so much stronger: an etched mark is matt. */
const MATT = 1.15;

/** Lays one print over the ground, pixel by pixel. */
function layPrint(
  out: Uint8Array,
  { picture, light, shine, front }: Ground,
  places: Field,
  layer: Layer,
  { middle, turn, scale, widthMm, heightMm }: PlacedPrint,
  { ink, stage: { etched } }: Scene,
  on: Rect,
  width: number,
): void {
  const [c, s] = [cosPi(turn / 180), sinPi(turn / 180)];
  const per = layer.perMm / scale;
  const [w, h] = [layer.onBlack.width, layer.onBlack.height];
  // The frame of nothing about the layer lies outside the print.
  const [left, top] = [(widthMm / 2) * per + 0.5, (heightMm / 2) * per + 0.5];
  const [mx, my] = middle;
  const [black, white, ground] = [layer.onBlack.data, layer.onWhite.data, picture.data];
  const mark = Array.from(codesOf(etched.colour), (code) => LINEAR_OF_CODE[code]);
  const own = new Float64Array(3);
  const through = new Float64Array(3);
  const dyes = ink === "inCloth";
  const burns = ink === "etched";
  for (let n = 0, all = on.width * on.height; n < all; n++) {
    const i = (on.y + ((n / on.width) | 0)) * width + on.x + (n % on.width);
    const o = 4 * i;
    const x = places[2 * i] - mx;
    if (!(x === x)) continue;
    const y = places[2 * i + 1] - my;
    const u = (c * x + s * y) * per + left;
    const v = (c * y - s * x) * per + top;
    if (u < 0 || v < 0 || u >= w - 1 || v >= h - 1) continue;
    const ahead = front ? front[i] : 0;
    if (ahead === 255) continue;
    const iu = u | 0;
    const iv = v | 0;
    const p = 4 * (iv * w + iu);
    between(black, white, p, p + 4 * w, u - iu, v - iv, own, through);
    const open = (through[0] + through[1] + through[2]) / 3;
    if (open > 0.9995) continue;
    const lit = light[i];
    const shone = shine ? shine[i] : 0;
    const etch = (1 - open) * etched.share;
    for (let k = 0; k < 3; k++) {
      const under = LINEAR_OF_CODE[ground[o + k]];
      const below = LINEAR_OF_CODE[out[o + k]]; // the thing, or a print that is there already
      let seen: number;
      if (dyes) seen = below * (own[k] + through[k]);
      else if (burns) seen = below * (1 - etch) + mark[k] * (lit < MATT ? lit : MATT) * etch;
      else seen = own[k] * lit + through[k] * below + shone * (1 - through[k]) * (1 - own[k] * lit);
      if (ahead > 0) seen += ((under - seen) * ahead) / 255;
      out[o + k] = codeOfLight(seen);
    }
  }
}

/** Linear light between four pixels of what is seen on black, and what of the ground is seen through it. */
function between(
  black: Uint8Array,
  white: Uint8Array,
  p: number,
  q: number,
  a: number,
  b: number,
  own: Float64Array,
  through: Float64Array,
): void {
  const w0 = (1 - a) * (1 - b);
  const w1 = a * (1 - b);
  const w2 = (1 - a) * b;
  const w3 = a * b;
  for (let k = 0; k < 3; k++) {
    const dark =
      w0 * LINEAR_OF_CODE[black[p + k]] +
      w1 * LINEAR_OF_CODE[black[p + 4 + k]] +
      w2 * LINEAR_OF_CODE[black[q + k]] +
      w3 * LINEAR_OF_CODE[black[q + 4 + k]];
    own[k] = dark;
    through[k] =
      w0 * LINEAR_OF_CODE[white[p + k]] +
      w1 * LINEAR_OF_CODE[white[p + 4 + k]] +
      w2 * LINEAR_OF_CODE[white[q + k]] +
      w3 * LINEAR_OF_CODE[white[q + 4 + k]] -
      dark;
  }
}
