import { type Shareable } from "../hands/shareOut";
import { takeRoom } from "../simd/room";
import { contributions, type FilterName } from "./filters";
import { filterDown, numbersOf } from "./passes";
import { codedRow, premultipliedRow, straightRow, wholeRow } from "./linearRows";

/** Rows of the result in a part: the rows that two parts both read, at their seam, are few beside them. */
export const ROWS_A_PART = 160;

/** A picture in memory that all threads see, and room for it at another size. */
export interface Resampling {
  readonly source: Uint8Array;
  readonly width: number;
  readonly height: number;
  /** It has no transparency. */
  readonly whole: boolean;
  readonly out: Uint8Array;
  readonly outWidth: number;
  readonly outHeight: number;
  readonly filter: FilterName;
}

/** A colour picture at another size, so many rows a part: as `resampleRows` makes it, to the bit. */
export const resampledRows: Shareable<Resampling> = {
  name: "resampled rows",
  begin: ({ source, width, height, whole, out, outWidth, outHeight, filter }) => {
    const across = contributions(width, outWidth, filter);
    const { taps, first, weights } = contributions(height, outHeight, filter);
    const channels = whole ? 3 : 4;
    const [load, emit] = whole ? [wholeRow, codedRow] : [premultipliedRow, straightRow];
    return function* (part) {
      const from = part * ROWS_A_PART;
      const to = Math.min(outHeight, from + ROWS_A_PART);
      const room = takeRoom(taps + 2, Math.max(width, outWidth + 1) * channels, numbersOf(across));
      try {
        const narrow = room.across(across, channels);
        const row = room.row((outWidth + 1) * channels);
        const line = row.subarray(0, outWidth * channels);
        yield* filterDown(
          room,
          { taps, first: first.subarray(from, to), weights: weights.subarray(from * taps, to * taps) },
          width * channels,
          (y, wide) => load(source.subarray(y * width * 4, (y + 1) * width * 4), wide),
          (y, wide) => {
            narrow(wide, row);
            emit(line, out.subarray((from + y) * outWidth * 4, (from + y + 1) * outWidth * 4));
          },
        );
      } finally {
        room.free();
      }
    };
  },
};
