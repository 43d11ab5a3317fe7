/*
 * Just enough of an assembler for WebAssembly to write a few kernels that add and multiply vectors of doubles. Code is
 * a list of numbers; the helpers here are named after the instructions they encode.
 * @see W3C, WebAssembly Core Specification 2.0 (with vector instructions)
 */

export type Code = readonly number[];

/** A whole number in the variable-length form that the format wants. */
function leb(value: number): number[] {
  const out: number[] = [];
  for (;;) {
    const byte = value & 127;
    value >>= 7;
    const done = (value === 0 && (byte & 64) === 0) || (value === -1 && (byte & 64) !== 0);
    out.push(done ? byte : byte | 128);
    if (done) return out;
  }
}

function unsigned(value: number): number[] {
  const out: number[] = [];
  do {
    out.push((value & 127) | (value > 127 ? 128 : 0));
    value >>>= 7;
  } while (value > 0);
  return out;
}

const vector = (op: number, ...more: number[]): Code => [0xfd, ...unsigned(op), ...more];
/** Doubles lie on multiples of eight; where rows are shifted against each other, no more is promised. */
const at = (offset: number, align = 3): number[] => [align, ...unsigned(offset)];

export const I32 = 0x7f;
export const V128 = 0x7b;

export const get = (local: number): Code => [0x20, ...unsigned(local)];
export const set = (local: number): Code => [0x21, ...unsigned(local)];
export const i32 = (value: number): Code => [0x41, ...leb(value)];
export const i32Load = (offset = 0): Code => [0x28, ...at(offset, 2)];
export const add: Code = [0x6a];
export const less: Code = [0x49]; // unsigned
export const load = (offset = 0): Code => vector(0x00, ...at(offset));
export const loadSplat = (offset = 0): Code => vector(0x0a, ...at(offset));
export const loadLow = (offset = 0): Code => vector(0x5d, ...at(offset));
export const loadHigh = (offset = 0): Code => vector(0x57, ...at(offset), 1);
export const store = (offset = 0): Code => vector(0x0b, ...at(offset));
export const storeLow = (offset = 0): Code => vector(0x5b, ...at(offset), 0);
export const zeros: Code = vector(0x0c, ...new Array<number>(16).fill(0));
export const times: Code = vector(0xf2);
export const plus: Code = vector(0xf0);
/** Four whole numbers beside each other. */
export const splatWhole: Code = vector(0x11);
export const plusWhole: Code = vector(0xae);
export const timesWhole: Code = vector(0xb5);
export const and: Code = vector(0x4e);
export const shiftRight = (bits: number): Code => [...i32(bits), ...vector(0xad)];
/** Whole numbers of twice the size, from two vectors, as those of half of it. */
export const narrowToShort: Code = vector(0x85);
export const narrowToByte: Code = vector(0x66);

/** Adds a number to a local. */
export const step = (local: number, by: Code): Code => [...get(local), ...by, ...add, ...set(local)];

/** Repeats the body for as long as one local is less than another; not even once when it is not. */
export const whileLess = (local: number, end: number, body: Code): Code => [
  ...[0x02, 0x40, 0x03, 0x40], // block, loop
  ...get(local),
  ...get(end),
  ...less,
  ...[0x45, 0x0d, 1], // otherwise out of the block
  ...body,
  ...[0x0c, 0, 0x0b, 0x0b],
];

export interface Kernel {
  readonly name: string;
  /** All of them i32. */
  readonly parameters: number;
  /** Further locals, after the parameters. */
  readonly numbers: number;
  readonly vectors: number;
  readonly code: Code;
}

const section = (id: number, content: readonly number[]): number[] => [
  id,
  ...unsigned(content.length),
  ...content,
];
const list = (items: readonly (readonly number[])[]): number[] => [
  ...unsigned(items.length),
  ...items.flat(),
];
const text = (s: string): number[] => [...unsigned(s.length), ...Array.from(s, (c) => c.charCodeAt(0))];

/** A module that exports kernels and works on memory it is given. */
export function moduleOf(kernels: readonly Kernel[]): Uint8Array<ArrayBuffer> {
  const types = kernels.map((k) => [0x60, ...list(new Array<number[]>(k.parameters).fill([I32])), 0]);
  const memory = [...text("host"), ...text("memory"), 0x02, 0x00, ...unsigned(1)];
  const bodies = kernels.map(({ numbers, vectors, code }) => {
    const locals = list([
      [...unsigned(numbers), I32],
      [...unsigned(vectors), V128],
    ]);
    const body = [...locals, ...code, 0x0b];
    return [...unsigned(body.length), ...body];
  });
  return Uint8Array.from([
    ...[0x00, 0x61, 0x73, 0x6d, 1, 0, 0, 0],
    ...section(1, list(types)),
    ...section(2, list([memory])),
    ...section(3, list(kernels.map((_, i) => unsigned(i)))),
    ...section(7, list(kernels.map(({ name }, i) => [...text(name), 0x00, ...unsigned(i)]))),
    ...section(10, list(bodies)),
  ]);
}
