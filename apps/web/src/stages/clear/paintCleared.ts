import { GAP_LEFT, GAP_TAKEN } from "@hardline/core/clear/gaps";
import { TINT as FAINT, type Rect } from "@hardline/core/raster/types";
import { type Picture } from "@hardline/core/result/result";
import { type Showing } from "./worker";

const INK = [0x15, 0x18, 0x1d];
const STAMP = [0x1f, 0x45, 0xc4];
const TINT = [0xd4, 0x3a, 0x7a];

/** What Clear adds to its picture on the screen: the ink edge of what was cleared, or its cover, or its faint tint. */
export function paintCleared(
  data: Uint8Array,
  art: Picture,
  part: Rect,
  width: number,
  height: number,
  showing: Showing,
  gapsOf?: number,
): void {
  if (showing === "cover") return paintCover(data);
  if (showing === "tint") return paintTint(data);
  edge(data, width, height, (i) => data[i * 4 + 3] < 128, INK);
  const found = art.cleared?.gaps.find((g) => g.op === gapsOf);
  if (!found) return;
  const shown = gapsOnScreen(found.plane, art.colour.width, art.colour.height, part, width, height);
  edge(data, width, height, (i) => shown[i] === GAP_TAKEN, STAMP);
  edge(data, width, height, (i) => shown[i] === GAP_LEFT, STAMP, true);
}

/** Cover as grey, white where the art is whole. */
function paintCover(data: Uint8Array): void {
  for (let o = 0; o < data.length; o += 4) {
    data[o] = data[o + 1] = data[o + 2] = data[o + 3];
    data[o + 3] = 255;
  }
}

/** From the faintest step of cover up, tint is shown whole; what is art is dimmed. */
function paintTint(data: Uint8Array): void {
  for (let o = 0; o < data.length; o += 4) {
    const cover = data[o + 3];
    if (cover === 0) continue;
    const faint = cover < FAINT;
    for (let k = 0; k < 3; k++) data[o + k] = faint ? TINT[k] : 196 + (data[o + k] >> 3);
    data[o + 3] = 255;
  }
}

/** Colours every pixel of an area that touches one outside it; or only every other, for an area that is left. */
function edge(
  data: Uint8Array,
  width: number,
  height: number,
  inside: (i: number) => boolean,
  colour: readonly number[],
  dotted = false,
): void {
  const marks: number[] = [];
  for (let y = 1; y + 1 < height; y++)
    for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
      if (!inside(i)) continue;
      if (inside(i - 1) && inside(i + 1) && inside(i - width) && inside(i + width)) continue;
      if (!dotted || ((x + y) >> 1) & 1) marks.push(i);
    }
  for (const i of marks) {
    for (let k = 0; k < 3; k++) data[i * 4 + k] = colour[k];
    data[i * 4 + 3] = 255;
  }
}

function gapsOnScreen(
  plane: Uint8Array,
  planeWidth: number,
  planeHeight: number,
  part: Rect,
  width: number,
  height: number,
): Uint8Array {
  const out = new Uint8Array(width * height);
  for (let y = 0, o = 0; y < height; y++) {
    const v = Math.floor(part.y + ((y + 0.5) * part.height) / height);
    for (let x = 0; x < width; x++, o++) {
      const u = Math.floor(part.x + ((x + 0.5) * part.width) / width);
      if (u >= 0 && v >= 0 && u < planeWidth && v < planeHeight) out[o] = plane[v * planeWidth + u];
    }
  }
  return out;
}

const rgba = ([r, g, b]: readonly number[], alpha: number): number =>
  ((alpha << 24) | (b << 16) | (g << 8) | r) >>> 0;
const [EDGE, LINE, PALE] = [rgba(INK, 255), rgba(INK, 150), rgba([0xfb, 0xf4, 0xcd], 130)];

/** A click's area as it is shown under the pointer: paled, hatched, with an ink edge. It follows the hand, so it is quick. */
export function paintPick(mask: Uint8Array, width: number, height: number): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint32Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    const inner = y > 0 && y + 1 < height;
    for (let x = 0; x < width; x++, i++) {
      if (mask[i] === 0) continue;
      const edge =
        inner &&
        x > 0 &&
        x + 1 < width &&
        (mask[i - 1] & mask[i + 1] & mask[i - width] & mask[i + width]) === 0;
      out[i] = edge ? EDGE : ((x + y) & 7) === 0 ? LINE : PALE;
    }
  }
  return new Uint8ClampedArray(out.buffer);
}
