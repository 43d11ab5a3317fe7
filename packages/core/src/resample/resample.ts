import { coverOf } from "../colour/grey";
import { isShareable, roomFor, shareOut } from "../hands/shareOut";
import { workSlice, type Work } from "../maths/work";
import { newGray, newRgba, type Gray, type Rgba } from "../raster/types";
import { takeRoom } from "../simd/room";
import { contributions, type Contributions, type FilterName } from "./filters";
import { resampledRows, ROWS_A_PART } from "./inParts";
import { codedRow, codesInto, linearRow, premultipliedRow, straightRow, wholeRow } from "./linearRows";
import { filterDown, numbersOf } from "./passes";
import { rowsOf, type RgbaRows } from "./rows";

/**
 * A grey picture at another size, filtered in linear light.
 *
 * @param width, height  of the result, in pixels, 1 or more
 */
export function* resampleGray(picture: Gray, width: number, height: number, filter: FilterName): Work<Gray> {
  if (width === picture.width && height === picture.height) return picture;
  const out = newGray(width, height);
  yield* filtered(
    picture,
    width,
    height,
    filter,
    1,
    (y, row) => linearRow(picture, y, row),
    (y, row) => codesInto(row, out.data.subarray(y * width, (y + 1) * width)),
  );
  return out;
}

/**
 * A colour picture at another size, filtered in linear light on premultiplied colour, so that what lies
 * under clear pixels never bleeds into the art.
 *
 * @param width, height  of the result, in pixels, 1 or more
 */
export function* resampleRgba(picture: Rgba, width: number, height: number, filter: FilterName): Work<Rgba> {
  if (width === picture.width && height === picture.height) return picture;
  const whole = (yield* workSlice(coverOf(picture), 0, 0.02)) === null;
  const { data: source } = picture;
  const reads = contributions(picture.height, height, filter).taps;
  if (!isShareable(source) || isTooTall(picture.width, width, whole ? 3 : 4, reads))
    return yield* workSlice(resampleRows(rowsOf(picture, whole), width, height, filter), 0.02, 1);
  const out = new Uint8Array(roomFor(width * height * 4));
  const given = { ...picture, source, whole, out, outWidth: width, outHeight: height, filter };
  yield* workSlice(shareOut(resampledRows, given, Math.ceil(height / ROWS_A_PART)), 0.02, 1);
  return { width, height, data: out };
}

/** The same from rows, which may still be on their way: it yields for as long as one that it needs is not there. */
export function* resampleRows(rows: RgbaRows, width: number, height: number, filter: FilterName): Work<Rgba> {
  const out = newRgba(width, height);
  const lineOf = (y: number): Uint8Array => out.data.subarray(y * width * 4, (y + 1) * width * 4);
  if (width === rows.width && height === rows.height) {
    for (let y = 0; y < height; y++) {
      while (!rows.has(y)) yield y / height;
      lineOf(y).set(rows.row(y));
    }
    return out;
  }
  const [channels, load, emit] = rows.whole
    ? ([3, wholeRow, codedRow] as const)
    : ([4, premultipliedRow, straightRow] as const);
  yield* filtered(
    rows,
    width,
    height,
    filter,
    channels,
    (y, row) => load(rows.row(y), row),
    (y, row) => emit(row, lineOf(y)),
    rows.has,
  );
  return out;
}

/** Rows that a filter reaches over are held up to so many bytes. */
const MOST_ROWS = 192 << 20;
const isTooTall = (width: number, outWidth: number, channels: number, taps: number): boolean =>
  8 * Math.max(width, outWidth + 1) * channels * (taps + 2) > MOST_ROWS;

/**
 * The same for a picture made so much smaller that a filter reaches over more rows than can be held: each row is
 * filtered across at once and added, by its weight, to the few rows of the result that it is part of.
 */
function* filteredOnTheWay(
  picture: { readonly width: number; readonly height: number },
  width: number,
  across: Contributions,
  down: Contributions,
  channels: 1 | 3 | 4,
  load: (y: number, row: Float64Array) => void,
  emit: (y: number, row: Float64Array) => void,
  has?: (y: number) => boolean,
): Work<void> {
  const room = takeRoom(2, Math.max(picture.width, width + 1) * channels, numbersOf(across));
  try {
    const narrow = room.across(across, channels);
    const wide = room.row(picture.width * channels);
    const row = room.row((width + 1) * channels);
    const { first, weights, taps } = down;
    const height = first.length;
    const sums: Float64Array[] = [];
    let done = 0;
    for (let y = 0; y < picture.height && done < height; y++) {
      while (has && !has(y)) yield y / picture.height;
      if (y % 32 === 0) yield y / picture.height;
      load(y, wide);
      narrow(wide, row);
      for (let o = done; o < height && first[o] <= y; o++) {
        if (y >= first[o] + taps) continue;
        const sum = (sums[o] ??= new Float64Array(width * channels));
        const weight = weights[o * taps + y - first[o]];
        for (let k = 0; k < sum.length; k++) sum[k] += weight * row[k];
      }
      for (; done < height && (y + 1 >= first[done] + taps || y + 1 === picture.height); done++) {
        emit(done, sums[done]);
        delete sums[done];
      }
    }
  } finally {
    room.free();
  }
}

/** Filters down and then across; rows come from `load` and go to `emit`, channels beside each other. */
function* filtered(
  picture: { readonly width: number; readonly height: number },
  width: number,
  height: number,
  filter: FilterName,
  channels: 1 | 3 | 4,
  load: (y: number, row: Float64Array) => void,
  emit: (y: number, row: Float64Array) => void,
  has?: (y: number) => boolean,
): Work<void> {
  const across = contributions(picture.width, width, filter);
  const down = contributions(picture.height, height, filter);
  if (isTooTall(picture.width, width, channels, down.taps)) {
    yield* filteredOnTheWay(picture, width, across, down, channels, load, emit, has);
    return;
  }
  const longest = Math.max(picture.width, width + 1) * channels;
  const room = takeRoom(down.taps + 2, longest, numbersOf(across));
  try {
    const narrow = room.across(across, channels);
    const row = room.row((width + 1) * channels);
    const line = row.subarray(0, width * channels);
    const narrowed = (y: number, column: Float64Array): void => {
      narrow(column, row);
      emit(y, line);
    };
    yield* filterDown(room, down, picture.width * channels, load, narrowed, has);
  } finally {
    room.free();
  }
}
