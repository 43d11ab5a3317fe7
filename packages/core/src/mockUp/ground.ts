import { codeOfLight, LINEAR_OF_CODE } from "../colour/srgb";
import { codesOf, hexOfNumber } from "../colour/oklab";
import { workSlice, type Work } from "../maths/work";
import { coverOfRings } from "../path/cover";
import { newRgba, type Rect, type Rgba } from "../raster/types";
import { latticeRow, ringsOfPart, shadingOf, type Shading } from "./shading";
import { structureRow } from "./structure";
import { ribbon } from "./shapes";
import { type Drawn, type Stuff } from "./thing";

/** A thing without anything on it, in a part of its picture, and what its light does to what is put on it. */
export interface Ground {
  readonly picture: Rgba;
  /** Times the light of an ink that lies there. */
  readonly light: Float32Array;
  /** Shine over everything, in linear light; null where nothing shines. */
  readonly shine: Float32Array | null;
  /** How much of each pixel cannot be printed on, 0..255: it is not the thing, or in front of it; null where all can. */
  readonly front: Uint8Array | null;
}

/** What a thing stands before. */
export const BACKGROUND = 0xeeece7;
/** How dark its shadow is at its deepest, and how far it falls, as a share of the picture's height. */
const [SHADOW, FALL] = [0.2, 0.012];

const shadings = new WeakMap<Drawn, Shading>();

/** What is painted so far: red, green and blue in linear light. */
interface Canvas {
  readonly width: number;
  readonly height: number;
  readonly r: Float32Array;
  readonly g: Float32Array;
  readonly b: Float32Array;
}

/** @param part  of the picture, in mm @param colour  of the thing, #rrggbb */
export function* drawnGround(
  drawn: Drawn,
  stuff: Stuff,
  colour: string,
  part: Rect,
  width: number,
  height: number,
): Work<Ground> {
  let shading = shadings.get(drawn);
  if (!shading) shadings.set(drawn, (shading = yield* workSlice(shadingOf(drawn), 0, 0.2)));
  const scale = width / part.width;
  const count = width * height;
  const light = new Float32Array(count);
  const shine = drawn.shine ? new Float32Array(count) : null;
  const [r, g, b] = [0, 1, 2].map(() => new Float32Array(count));
  const canvas: Canvas = { width, height, r, g, b };
  const back = lightOf(hexOfNumber(BACKGROUND));
  const fall = FALL * drawn.heightMm;
  const [x0, dx] = [part.x + 0.5 / scale, 1 / scale];
  const shadow = new Float32Array(width);
  // What shines is upright and round: the same in every row.
  const shineRow =
    drawn.shine && Float32Array.from({ length: width }, (_, u) => drawn.shine!(x0 + u * dx, 0));
  for (let v = 0; v < height; v++) {
    if (v % 64 === 0) yield 0.2 + (0.2 * v) / height;
    const y = part.y + (v + 0.5) / scale;
    latticeRow(shading.light, x0, dx, y, light.subarray(v * width, (v + 1) * width));
    latticeRow(shading.shadow, x0, dx, y - fall, shadow);
    backRow(canvas, v, back, shadow);
    if (shine) shine.set(shineRow!, v * width);
  }
  const front = new Uint8Array(count).fill(255);
  const own = lightOf(colour);
  const grain = new Float32Array(width);
  const outlines = outlinesOf(drawn, scale);
  for (const [k, { colour: hex, shade = 1, behind }] of drawn.parts.entries()) {
    const at = (share: number): number => 0.4 + (0.4 * (k + share)) / drawn.parts.length;
    const rings = movedRings(outlines.parts[k], part, scale);
    const box = boxIn(rings, width, height);
    if (!box) continue;
    const cover = yield* workSlice(coverIn(rings, box), at(0), at(0.6));
    const tint = hex ? lightOf(hex) : own;
    const kind = behind ? "behind" : hex ? "fixed" : "body";
    const row = grain.subarray(0, box.width);
    row.fill(1);
    for (let v = 0; v < box.height; v++) {
      if (v % 64 === 0) yield at(0.6 + (0.4 * v) / box.height);
      if (kind === "body") structureRow(stuff, x0 + box.x * dx, dx, part.y + (box.y + v + 0.5) / scale, row);
      partRow(canvas, box, v, cover, tint, shade, kind === "behind" ? null : light, row);
      if (kind !== "behind") frontRow(front, width, box, v, cover, kind === "body");
    }
  }
  for (const [k, { widthMm, shade }] of drawn.lines.entries()) {
    const [line] = movedRings(outlines.lines[k], part, scale);
    if (!line) continue;
    // A line thinner than a pixel is a pixel wide and paler.
    const ring = ribbon(line, Math.max(1, widthMm * scale));
    const box = boxIn([ring], width, height);
    if (!box) continue;
    const cover = yield* workSlice(coverIn([ring], box), 0.8, 0.9);
    darken(canvas, box, cover, (shade - 1) * Math.min(1, widthMm * scale));
  }
  const picture = newRgba(width, height);
  const rows = Math.max(1, Math.floor(262144 / width));
  for (let v = 0; v < height; v += rows) {
    yield 0.9 + (0.1 * v) / height;
    finish(canvas, shine, front, picture.data, v * width, Math.min(height, v + rows) * width);
  }
  return { picture, light, shine, front };
}

interface Outlines {
  readonly scale: number;
  readonly parts: readonly (readonly Float64Array[])[];
  readonly lines: readonly (readonly Float64Array[])[];
}

const outlines = new WeakMap<Drawn, Outlines>();

/** A thing's parts and lines as straight pieces, fine enough for a scale, in its pixels from the picture's corner. */
function outlinesOf(drawn: Drawn, scale: number): Outlines {
  const known = outlines.get(drawn);
  if (known?.scale === scale) return known;
  const made = {
    scale,
    parts: drawn.parts.map(({ path }) => ringsOfPart(path, 0, 0, scale)),
    lines: drawn.lines.map(({ path }) => ringsOfPart({ ...path, closed: false }, 0, 0, scale)),
  };
  outlines.set(drawn, made);
  return made;
}

const movedRings = (rings: readonly Float64Array[], { x, y }: Rect, scale: number): Float64Array[] =>
  rings.map((ring) => ring.map((v, k) => v - (k % 2 === 0 ? x : y) * scale));

const lightOf = (hex: string): readonly number[] => codesOf(hex).map((code) => LINEAR_OF_CODE[code]);

function backRow({ width, r, g, b }: Canvas, v: number, back: readonly number[], shadow: Float32Array): void {
  const [br, bg, bb] = back;
  for (let u = 0, i = v * width; u < width; u++, i++) {
    const dark = 1 - SHADOW * shadow[u];
    r[i] = br * dark;
    g[i] = bg * dark;
    b[i] = bb * dark;
  }
}

function partRow(
  { width, r, g, b }: Canvas,
  box: Rect,
  v: number,
  cover: Uint8Array,
  tint: readonly number[],
  shade: number,
  light: Float32Array | null,
  grain: Float32Array,
): void {
  const [tr, tg, tb] = tint;
  for (let u = 0, n = v * box.width, i = (box.y + v) * width + box.x; u < box.width; u++, n++, i++) {
    const share = cover[n] / 255;
    if (share === 0) continue;
    const lit = light ? shade * light[i] * grain[u] : shade;
    r[i] += (tr * lit - r[i]) * share;
    g[i] += (tg * lit - g[i]) * share;
    b[i] += (tb * lit - b[i]) * share;
  }
}

/** What is the thing can be printed on, what lies on it in a colour of its own cannot. */
function frontRow(
  front: Uint8Array,
  width: number,
  box: Rect,
  v: number,
  cover: Uint8Array,
  isBody: boolean,
): void {
  for (let u = 0, n = v * box.width, i = (box.y + v) * width + box.x; u < box.width; u++, n++, i++)
    if (isBody) {
      if (255 - cover[n] < front[i]) front[i] = 255 - cover[n];
    } else if (cover[n] > front[i]) front[i] = cover[n];
}

function darken({ width, r, g, b }: Canvas, box: Rect, cover: Uint8Array, by: number): void {
  for (let v = 0, n = 0; v < box.height; v++)
    for (let u = 0, i = (box.y + v) * width + box.x; u < box.width; u++, n++, i++) {
      if (cover[n] === 0) continue;
      const times = 1 + (by * cover[n]) / 255;
      r[i] *= times;
      g[i] *= times;
      b[i] *= times;
    }
}

/** Shine is laid over all of the thing, and light becomes codes. */
function finish(
  { r, g, b }: Canvas,
  shine: Float32Array | null,
  front: Uint8Array,
  out: Uint8Array,
  from: number,
  to: number,
): void {
  for (let i = from, o = 4 * from; i < to; i++, o += 4) {
    let shone = 0;
    if (shine) {
      if (front[i] === 255) shine[i] = 0;
      shone = shine[i];
    }
    out[o] = codeOfLight(r[i] + shone * (1 - r[i]));
    out[o + 1] = codeOfLight(g[i] + shone * (1 - g[i]));
    out[o + 2] = codeOfLight(b[i] + shone * (1 - b[i]));
    out[o + 3] = 255;
  }
}

/** The pixels that rings may cover; null where that is none. */
function boxIn(rings: readonly Float64Array[], width: number, height: number): Rect | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings)
    for (let k = 0; k < ring.length; k += 2) {
      left = Math.min(left, ring[k]);
      right = Math.max(right, ring[k]);
      top = Math.min(top, ring[k + 1]);
      bottom = Math.max(bottom, ring[k + 1]);
    }
  const [x, y] = [Math.max(0, Math.floor(left)), Math.max(0, Math.floor(top))];
  const [to, foot] = [Math.min(width, Math.ceil(right)), Math.min(height, Math.ceil(bottom))];
  return to > x && foot > y ? { x, y, width: to - x, height: foot - y } : null;
}

const coverIn = (rings: readonly Float64Array[], { x, y, width, height }: Rect): Work<Uint8Array> =>
  coverOfRings(
    rings.map((ring) => ring.map((v, k) => v - (k % 2 === 0 ? x : y))),
    width,
    height,
  );
