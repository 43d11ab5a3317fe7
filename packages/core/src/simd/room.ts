import { weightedSum } from "../maths/rows";
import { PAGE, rowKernels, type VectorKernels, type VectorMemory } from "./engine";
import { BLOCK } from "./kernels";

/** Which pixels of a row make each pixel of another: the first of them, and `taps` weights. */
export interface Taps {
  readonly taps: number;
  readonly first: Int32Array;
  readonly weights: Float64Array;
}

/** Filters a row of interleaved channels across into another. */
export type Across = (row: Float64Array, out: Float64Array) => void;

/**
 * Room for rows of doubles, and the sums that are made of them. Rows that a room gave are summed two doubles at once
 * where the engine can, with the same bits as one by one.
 */
export interface Room {
  /** A row of zeros. */
  readonly row: (length: number) => Float64Array;
  /** As `weightedSum`; rows may begin anywhere within rows of the room. */
  readonly sum: (
    rows: readonly Float64Array[],
    weights: ArrayLike<number>,
    from: number,
    out: Float64Array,
  ) => void;
  readonly across: (taps: Taps, channels: 1 | 3 | 4) => Across;
  /** Gives the room back. Nothing of it may be used afterwards. */
  readonly free: () => void;
}

/** Rooms that nobody uses now, to be used again; more are left to the engine. */
const spare: VectorRoom[] = [];
const MOST_SPARE = 4;
/** A memory has an end; what needs more is summed one by one. */
const MOST_BYTES = 1 << 30;

/**
 * @param rows, length  how many rows of which length will be asked for
 * @param tables        numbers of weights of all that is filtered across
 */
export function takeRoom(rows: number, length: number, tables = 0): Room {
  const bytes = (rows + 2) * (length * 8 + 2 * BLOCK) + 24 * tables + rows * 24 + 8 * PAGE;
  if (bytes > MOST_BYTES) return new PlainRoom();
  const at = spare.findLastIndex((room) => room.bytes >= bytes);
  if (at >= 0) return spare.splice(at, 1)[0].begin();
  const made = rowKernels.on(Math.ceil(bytes / PAGE));
  return made ? new VectorRoom(made.kernels, made.memory) : new PlainRoom();
}

class VectorRoom implements Room {
  private next = 0;
  private readonly scratch: DataView;

  constructor(
    private readonly kernels: VectorKernels,
    private readonly memory: VectorMemory,
  ) {
    this.scratch = new DataView(memory.buffer);
    this.begin();
  }

  get bytes(): number {
    return this.memory.buffer.byteLength;
  }

  begin(): this {
    this.next = 2 * PAGE; // before it: what a sum is told of its rows
    return this;
  }

  readonly row = (length: number): Float64Array => {
    const row = new Float64Array(this.memory.buffer, this.take(length * 8 + BLOCK), length);
    return row.fill(0);
  };

  readonly sum: Room["sum"] = (rows, weights, from, out) => {
    const { length: count } = rows;
    for (let k = 0; k < count; k++) {
      this.scratch.setInt32(4 * k, rows[k].byteOffset, true);
      this.scratch.setFloat64(PAGE + 8 * k, weights[from + k], true);
    }
    const begin = out.byteOffset;
    this.kernels.sum(begin, begin + out.length * 8, 0, 4 * (count & ~3), 4 * count, PAGE);
  };

  readonly across: Room["across"] = ({ taps, first, weights }, channels) => {
    // One channel is filtered two pixels at a time: a last odd one is done with itself beside it.
    const count = channels === 1 ? (first.length + 1) & ~1 : first.length;
    const begins = this.take(count * 4);
    for (let o = 0; o < count; o++)
      this.scratch.setInt32(begins + 4 * o, first[Math.min(o, first.length - 1)] * 8 * channels, true);
    const table = this.take(count * taps * 8);
    const numbers = new Float64Array(this.memory.buffer, table, count * taps);
    if (channels !== 1) numbers.set(weights);
    else
      for (let o = 0; o < count; o++)
        for (let t = 0; t < taps; t++) {
          const weight = weights[Math.min(o, first.length - 1) * taps + t];
          numbers[((o >> 1) * taps + t) * 2 + (o & 1)] = weight;
        }
    const kernel = this.kernels[`across${channels}`];
    const tapBytes = taps * (channels === 1 ? 16 : 8);
    return (row, out) =>
      kernel(row.byteOffset, out.byteOffset, out.byteOffset + count * 8 * channels, begins, table, tapBytes);
  };

  readonly free = (): void => {
    if (spare.length < MOST_SPARE) spare.push(this);
  };

  private take(bytes: number): number {
    const at = this.next;
    this.next += (bytes + BLOCK - 1) & -BLOCK;
    return at;
  }
}

/** The same in plain script, for engines without vectors. */
export class PlainRoom implements Room {
  readonly row = (length: number): Float64Array => new Float64Array(length);

  readonly sum = weightedSum;

  readonly across: Room["across"] = ({ taps, first, weights }, channels) => {
    return (row, out) => {
      for (let o = 0; o < first.length; o++)
        for (let c = 0; c < channels; c++) {
          let sum = 0;
          let i = first[o] * channels + c;
          for (let w = o * taps; w < (o + 1) * taps; w++, i += channels) sum += row[i] * weights[w];
          out[o * channels + c] = sum;
        }
    };
  };

  readonly free = (): void => undefined;
}
