import { runToEnd } from "../maths/work";
import { cropped } from "../raster/crop";
import { halveRgba } from "../raster/halve";
import { TINT, type Rect, type Rgba } from "../raster/types";
import { flood } from "../region/flood";
import { Alike, wordsOf, type ColourTable } from "./alike";
import { everywhere } from "./pick";

/** At the screen's own detail the whole picture is filled up to so many pixels; else made as small as the second. */
const SCREEN_PIXELS = 900000;
const SMALL_PIXELS = 250000;

export interface PickPreview {
  /** `width` x `height`, 1 = a click takes it. */
  readonly mask: Uint8Array;
  /** Share of the whole picture, 0..1, as far as the smaller picture tells. */
  readonly share: number;
}

/**
 * What a click would take, for a screen of `width` x `height` pixels that shows a part of the picture: fast enough to
 * follow the pointer. The whole picture is filled made small; where the screen shows more detail than that, what is
 * in view is filled again at the screen's detail, starting from the pointer and wherever the fill enters the view.
 *
 * @param x, y   the pixel under the pointer
 * @param table  to use again at every place
 */
export function previewPick(
  picture: Rgba,
  x: number,
  y: number,
  tolerance: number,
  joined: boolean,
  part: Rect,
  width: number,
  height: number,
  table: ColourTable,
): PickPreview {
  const word = wordsOf(picture.data)[y * picture.width + x];
  const alike = new Alike(word & 0xffffff, tolerance, table);
  const clear = word >>> 24 < TINT;
  let fine = 0;
  while (2 << fine <= (part.width / width) * 1.01) fine++;
  let [small, halvings] = [picture, 0];
  const pixelsAt = (k: number) => (picture.width * picture.height) / (1 << (2 * k));
  const least = pixelsAt(fine) <= SCREEN_PIXELS ? SCREEN_PIXELS : SMALL_PIXELS;
  while (small.width * small.height > least) {
    small = halveRgba(small);
    halvings++;
  }
  const whole = runToEnd(everywhere(wordsOf(small.data), alike, clear)).mask;
  let pixels = 0;
  const at = (v: number, size: number) => Math.min(size - 1, v >> halvings);
  const seed = at(y, small.height) * small.width + at(x, small.width);
  if (joined) {
    // The pixel under the pointer may be a hair's breadth from its like in the smaller picture.
    const around = [0, -1, 1, -small.width, small.width].map((d) => seed + d);
    const seeds = around.filter((i) => i >= 0 && i < whole.length);
    pixels = runToEnd(flood(whole, small.width, small.height, seeds)).pixels;
    for (let i = 0; i < whole.length; i++) whole[i] = whole[i] === 2 ? 1 : 0;
  } else for (let i = 0; i < whole.length; i++) pixels += whole[i];
  const share = pixels / whole.length;
  if (fine >= halvings) return { mask: sampled(whole, small, part, 1 << halvings, width, height), share };

  let seen = picture;
  for (let k = 0; k < fine; k++) seen = halveRgba(seen);
  const scale = 1 << fine;
  const left = Math.max(0, Math.floor(part.x / scale));
  const top = Math.max(0, Math.floor(part.y / scale));
  const box = {
    x: left,
    y: top,
    width: Math.max(1, Math.min(seen.width, Math.ceil((part.x + part.width) / scale)) - left),
    height: Math.max(1, Math.min(seen.height, Math.ceil((part.y + part.height) / scale)) - top),
  };
  const view = cropped(seen, box);
  const mask = runToEnd(everywhere(wordsOf(view.data), alike, clear)).mask;
  if (joined) {
    const seeds = entries(mask, box, whole, small, halvings - fine, [x >> fine, y >> fine]);
    runToEnd(flood(mask, box.width, box.height, seeds));
    for (let i = 0; i < mask.length; i++) mask[i] = mask[i] === 2 ? 1 : 0;
  }
  const within = { ...part, x: part.x - left * scale, y: part.y - top * scale };
  return { mask: sampled(mask, box, within, scale, width, height), share };
}

/** Where the fill starts within the view: the pointer, and the view's edge wherever the whole fill lies there. */
function entries(
  mask: Uint8Array,
  box: Rect,
  whole: Uint8Array,
  small: Rgba,
  halvings: number,
  [px, py]: readonly [number, number],
): number[] {
  const seeds: number[] = [];
  if (px >= box.x && py >= box.y && px < box.x + box.width && py < box.y + box.height)
    seeds.push((py - box.y) * box.width + px - box.x);
  const consider = (x: number, y: number): void => {
    const i = y * box.width + x;
    const sx = Math.min(small.width - 1, (x + box.x) >> halvings);
    const sy = Math.min(small.height - 1, (y + box.y) >> halvings);
    if (mask[i] === 1 && whole[sy * small.width + sx]) seeds.push(i);
  };
  for (let x = 0; x < box.width; x++) {
    consider(x, 0);
    consider(x, box.height - 1);
  }
  for (let y = 0; y < box.height; y++) {
    consider(0, y);
    consider(box.width - 1, y);
  }
  return seeds;
}

function sampled(
  mask: Uint8Array,
  size: { readonly width: number; readonly height: number },
  part: Rect,
  scale: number,
  width: number,
  height: number,
): Uint8Array {
  const out = new Uint8Array(width * height);
  const columns = Int32Array.from({ length: width }, (_, x) =>
    Math.floor((part.x + ((x + 0.5) * part.width) / width) / scale),
  );
  for (let y = 0, o = 0; y < height; y++) {
    const v = Math.floor((part.y + ((y + 0.5) * part.height) / height) / scale);
    if (v < 0 || v >= size.height) {
      o += width;
      continue;
    }
    const row = v * size.width;
    for (let x = 0; x < width; x++, o++) {
      const u = columns[x];
      if (u >= 0 && u < size.width) out[o] = mask[row + u];
    }
  }
  return out;
}
