import { runToEnd } from "../maths/work";
import { gathered, type Contributions } from "../resample/filters";
import { filterDown, numbersOf } from "../resample/passes";
import { takeRoom } from "../simd/room";
import { halveBits, halveGray, halveRgba } from "../raster/halve";
import { newGray, newRgba, type Bits, type Gray, type Rect, type Rgba } from "../raster/types";

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
    for (let x = 0; x < bits.width; x++)
      row[x] = (bits.data[start + (x >> 3)] >> (7 - (x & 7))) & 1 ? 0 : 255;
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

/**
 * Of smooth tones, in a quarter of the time: reduced, each screen pixel is the mean of four points under it.
 * @param part    in pixels of the picture, fractions allowed; what lies outside the picture is white
 * @param points  one will do for a first look
 */
export function viewTone(picture: Gray, part: Rect, width: number, height: number, points: 1 | 4 = 4): Gray {
  const scale = part.width / width;
  if (scale >= 2 && picture.width > 1 && picture.height > 1)
    return viewTone(halveGray(picture), halfOf(part), width, height, points);
  const each = scale > 1 && points === 4 ? 2 : 1;
  const columns = nearest(part.x, part.width, each * width, picture.width);
  const rows = nearest(part.y, part.height, each * height, picture.height);
  const out = newGray(width, height);
  if (each === 1) onePoint(picture, columns, rows, out);
  else fourPoints(picture, inPairs(columns), inPairs(rows), out);
  return out;
}

/** Where a screen pixel lies across the picture's edge, what is of it in the picture is seen. */
function inPairs(places: Int32Array): Int32Array {
  for (let k = 0; k + 1 < places.length; k += 2) {
    if (places[k] < 0) places[k] = places[k + 1];
    else if (places[k + 1] < 0) places[k + 1] = places[k];
  }
  return places;
}

function onePoint({ width: stride, data }: Gray, columns: Int32Array, rows: Int32Array, out: Gray): void {
  for (let y = 0; y < out.height; y++) {
    const to = out.data.subarray(y * out.width, (y + 1) * out.width);
    if (rows[y] < 0) {
      to.fill(255);
      continue;
    }
    const from = data.subarray(rows[y] * stride, (rows[y] + 1) * stride);
    for (let x = 0; x < to.length; x++) to[x] = columns[x] < 0 ? 255 : from[columns[x]];
  }
}

function fourPoints({ width: stride, data }: Gray, columns: Int32Array, rows: Int32Array, out: Gray): void {
  const within = columns.every((c) => c >= 0);
  for (let y = 0; y < out.height; y++) {
    const to = out.data.subarray(y * out.width, (y + 1) * out.width);
    if (rows[2 * y] < 0 || rows[2 * y + 1] < 0) {
      to.fill(255);
      continue;
    }
    const above = data.subarray(rows[2 * y] * stride, (rows[2 * y] + 1) * stride);
    const below = data.subarray(rows[2 * y + 1] * stride, (rows[2 * y + 1] + 1) * stride);
    meanRow(above, below, columns, to);
    if (!within)
      for (let x = 0; x < to.length; x++) if (columns[2 * x] < 0 || columns[2 * x + 1] < 0) to[x] = 255;
  }
}

function meanRow(above: Uint8Array, below: Uint8Array, columns: Int32Array, to: Uint8Array): void {
  for (let x = 0, k = 0; x < to.length; x++, k += 2) {
    const [left, right] = [columns[k], columns[k + 1]];
    to[x] = (above[left] + above[right] + below[left] + below[right] + 2) >> 2;
  }
}

/** @param part  in pixels of the picture, fractions allowed; what lies outside the picture is clear */
export function viewRgba(picture: Rgba, part: Rect, width: number, height: number): Rgba {
  const scale = part.width / width;
  if (scale >= 2 && picture.width > 1 && picture.height > 1)
    return viewRgba(halveRgba(picture), halfOf(part), width, height);
  // In between, each screen pixel is the mean of four points under it.
  return scale > 1
    ? halveRgba(pointsOf(picture, part, width * 2, height * 2))
    : pointsOf(picture, part, width, height);
}

function pointsOf(picture: Rgba, part: Rect, width: number, height: number): Rgba {
  const out = newRgba(width, height);
  const from = new Uint32Array(picture.data.buffer, picture.data.byteOffset, picture.width * picture.height);
  const to = new Uint32Array(out.data.buffer);
  const columns = nearest(part.x, part.width, width, picture.width);
  const rows = nearest(part.y, part.height, height, picture.height);
  for (let y = 0, o = 0; y < height; y++) {
    const start = rows[y] * picture.width;
    for (let x = 0; x < width; x++, o++)
      if (rows[y] >= 0 && columns[x] >= 0) to[o] = from[start + columns[x]];
  }
  return out;
}

const halfOf = ({ x, y, width, height }: Rect): Rect => ({
  x: x / 2,
  y: y / 2,
  width: width / 2,
  height: height / 2,
});

/** Which pixel each screen pixel's middle falls on; -1 outside. */
function nearest(start: number, length: number, count: number, size: number): Int32Array {
  return Int32Array.from({ length: count }, (_, i) => {
    const at = Math.floor(start + ((i + 0.5) * length) / count);
    return at >= 0 && at < size ? at : -1;
  });
}

type RowReader = (y: number, row: Float64Array) => void;

function oneChannel(
  sourceWidth: number,
  sourceHeight: number,
  read: RowReader,
  part: Rect,
  width: number,
  height: number,
  reach: number,
): Gray {
  const out = newGray(width, height);
  if (part.width > width) {
    const columns = tent(part.x, part.width, width, sourceWidth, reach);
    const rows = tent(part.y, part.height, height, sourceHeight, reach);
    const room = takeRoom(rows.taps + 2, Math.max(sourceWidth, width + 1), numbersOf(columns));
    const narrow = room.across(columns, 1);
    const row = room.row(width + 1);
    const emit = (y: number, summed: Float64Array) => {
      narrow(summed, row);
      for (let x = 0, o = y * width; x < width; x++, o++) out.data[o] = row[x] + 0.5;
    };
    runToEnd(filterDown(room, rows, sourceWidth, read, emit));
    room.free();
    return out;
  }
  const columns = nearest(part.x, part.width, width, sourceWidth);
  const rows = nearest(part.y, part.height, height, sourceHeight);
  const source = new Float64Array(sourceWidth);
  out.data.fill(255);
  for (let y = 0, o = 0; y < height; y++, o += width) {
    if (rows[y] < 0) continue;
    if (y > 0 && rows[y] === rows[y - 1]) {
      out.data.copyWithin(o, o - width, o);
      continue;
    }
    read(rows[y], source);
    for (let x = 0; x < width; x++) if (columns[x] >= 0) out.data[o + x] = source[columns[x]];
  }
  return out;
}

/** A triangle of weights around the middle of each screen pixel, as wide as the pixel or `least`. */
function tent(start: number, length: number, count: number, size: number, least: number): Contributions {
  const scale = length / count;
  const reach = Math.max(scale, least);
  const taps = Math.min(size, Math.ceil(2 * reach));
  return gathered(count, taps, (i) => {
    const centre = start + (i + 0.5) * scale;
    const first = Math.min(size - taps, Math.max(0, Math.ceil(centre - reach - 0.5)));
    return { start: first, weight: (at) => Math.max(0, reach - Math.abs(at + 0.5 - centre)) + 1e-9 };
  });
}
