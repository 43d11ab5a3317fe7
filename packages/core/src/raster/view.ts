import { halveBits, halveGray, halveRgba } from "./halve";
import { newGray, newRgba, type Bits, type Gray, type Rect, type Rgba } from "./types";

/*
 * What a screen of `width` x `height` pixels shows of a part of a picture. Enlarged, every pixel is a plain
 * square. Reduced, every screen pixel is a weighted mean of what lies under it: first halves of halves, which
 * wipe out the finest regular patterns, then a tent filter, so that dots read as their true tone without moire.
 */

/** A tent that reaches two pixels to each side gives dots that alternate no weight at all. */
const DOTS_REACH = 2;

/** @param part  in pixels of the picture, fractions allowed; what lies outside the picture is not marked */
export function viewBits(bits: Bits, part: Rect, width: number, height: number): Gray {
  if (part.width / width >= 2 && bits.width > 1 && bits.height > 1) {
    return viewGray(halveBits(bits), halfOf(part), width, height, DOTS_REACH);
  }
  const at = (y: number, row: Float64Array) => {
    const start = y * bits.stride;
    for (let x = 0; x < bits.width; x++) row[x] = (bits.data[start + (x >> 3)] >> (7 - (x & 7))) & 1 ? 0 : 255;
  };
  return oneChannel(bits.width, bits.height, at, part, width, height, DOTS_REACH);
}

/** @param part  in pixels of the picture, fractions allowed; what lies outside the picture is white */
export function viewGray(picture: Gray, part: Rect, width: number, height: number, reach = 1): Gray {
  if (part.width / width >= 2 && picture.width > 1 && picture.height > 1) {
    return viewGray(halveGray(picture), halfOf(part), width, height, reach);
  }
  const at = (y: number, row: Float64Array) => {
    const start = y * picture.width;
    for (let x = 0; x < picture.width; x++) row[x] = picture.data[start + x];
  };
  return oneChannel(picture.width, picture.height, at, part, width, height, reach);
}

/** @param part  in pixels of the picture, fractions allowed; what lies outside the picture is clear */
export function viewRgba(picture: Rgba, part: Rect, width: number, height: number): Rgba {
  const scale = part.width / width;
  if (scale >= 2 && picture.width > 1 && picture.height > 1) return viewRgba(halveRgba(picture), halfOf(part), width, height);
  // In between, each screen pixel is the mean of four points under it.
  return scale > 1 ? halveRgba(pointsOf(picture, part, width * 2, height * 2)) : pointsOf(picture, part, width, height);
}

function pointsOf(picture: Rgba, part: Rect, width: number, height: number): Rgba {
  const out = newRgba(width, height);
  const from = new Uint32Array(picture.data.buffer, picture.data.byteOffset, picture.width * picture.height);
  const to = new Uint32Array(out.data.buffer);
  const columns = nearest(part.x, part.width, width, picture.width);
  const rows = nearest(part.y, part.height, height, picture.height);
  for (let y = 0, o = 0; y < height; y++) {
    const start = rows[y] * picture.width;
    for (let x = 0; x < width; x++, o++) if (rows[y] >= 0 && columns[x] >= 0) to[o] = from[start + columns[x]];
  }
  return out;
}

const halfOf = ({ x, y, width, height }: Rect): Rect => ({ x: x / 2, y: y / 2, width: width / 2, height: height / 2 });

/** Which pixel each screen pixel's middle falls on; -1 outside. */
function nearest(start: number, length: number, count: number, size: number): Int32Array {
  return Int32Array.from({ length: count }, (_, i) => {
    const at = Math.floor(start + ((i + 0.5) * length) / count);
    return at >= 0 && at < size ? at : -1;
  });
}

type RowReader = (y: number, row: Float64Array) => void;

function oneChannel(sourceWidth: number, sourceHeight: number, read: RowReader, part: Rect, width: number, height: number, reach: number): Gray {
  const reduced = part.width > width;
  const columns = reduced ? tent(part.x, part.width, width, sourceWidth, reach) : spikes(part.x, part.width, width, sourceWidth);
  const rows = reduced ? tent(part.y, part.height, height, sourceHeight, reach) : spikes(part.y, part.height, height, sourceHeight);
  const out = newGray(width, height);
  const source = new Float64Array(sourceWidth);
  const held = new Map<number, Float64Array>(); // source rows already brought to screen width
  for (let y = 0; y < height; y++) {
    const { first, weights } = rows[y];
    const o = y * width;
    if (weights.length === 0) {
      out.data.fill(255, o, o + width);
      continue;
    }
    for (const known of held.keys()) if (known < first) held.delete(known);
    const sum = new Float64Array(width);
    for (let k = 0; k < weights.length; k++) {
      let row = held.get(first + k);
      if (!row) {
        read(first + k, source);
        row = across(source, columns);
        held.set(first + k, row);
      }
      const weight = weights[k];
      for (let x = 0; x < width; x++) sum[x] += row[x] * weight;
    }
    for (let x = 0; x < width; x++) out.data[o + x] = sum[x] + 0.5;
  }
  return out;
}

function across(source: Float64Array, columns: readonly Taps[]): Float64Array {
  const row = new Float64Array(columns.length);
  for (let x = 0; x < columns.length; x++) {
    const { first, weights } = columns[x];
    let sum = weights.length === 0 ? 255 : 0;
    for (let k = 0; k < weights.length; k++) sum += source[first + k] * weights[k];
    row[x] = sum;
  }
  return row;
}

interface Taps {
  readonly first: number;
  /** Add up to one; none outside the picture. */
  readonly weights: readonly number[];
}

function spikes(start: number, length: number, count: number, size: number): Taps[] {
  return Array.from(nearest(start, length, count, size), (at) => ({ first: at, weights: at < 0 ? [] : [1] }));
}

function tent(start: number, length: number, count: number, size: number, least: number): Taps[] {
  const scale = length / count;
  const reach = Math.max(scale, least);
  return Array.from({ length: count }, (_, i) => {
    const centre = start + (i + 0.5) * scale;
    if (centre < 0 || centre > size) return { first: -1, weights: [] };
    const first = Math.max(0, Math.ceil(centre - reach - 0.5));
    const last = Math.min(size - 1, Math.floor(centre + reach - 0.5));
    const raw = Array.from({ length: last - first + 1 }, (__, k) => Math.max(0, reach - Math.abs(first + k + 0.5 - centre)) + 1e-9);
    const sum = raw.reduce((a, b) => a + b, 0);
    return { first, weights: raw.map((w) => w / sum) };
  });
}
