import {
  add,
  and,
  get,
  i32,
  i32Load,
  load,
  loadHigh,
  loadLow,
  loadSplat,
  narrowToByte,
  narrowToShort,
  plus,
  plusWhole,
  set,
  shiftRight,
  splatWhole,
  step,
  store,
  storeLow,
  times,
  timesWhole,
  whileLess,
  zeros,
  type Code,
  type Kernel,
} from "./assemble";

/*
 * Every kernel adds and multiplies in the very order in which plain script would, two doubles beside each other; so
 * whichever of the two is used, the results have the same bits.
 */

/** Vectors of a row that are summed together. */
const WIDE = 4;
/** Bytes of those: rows are filled up to a multiple of this. */
export const BLOCK = WIDE * 16;

const each = (count: number, code: (k: number) => Code): Code =>
  Array.from({ length: count }, (_, k) => code(k)).flat();

/**
 * sum(out, end, rows, fours, rowsEnd, weights): out..end becomes the sum of rows, each times its weight. `rows` lists
 * where rows begin, 4 bytes each, and `fours` is where the last whole four of them ends; four are summed by themselves
 * and then added.
 */
function sum(): Kernel {
  const [out, end, rows, fours, rowsEnd, weights, x, r, w, p] = Array.from({ length: 10 }, (_, k) => k);
  const total = (v: number) => 10 + v;
  const group = (v: number) => 10 + WIDE + v;
  const weight = 10 + 2 * WIDE;
  const nextRow: Code = [
    ...[...get(r), ...i32Load(), ...get(x), ...add, ...set(p)],
    ...[...get(w), ...loadSplat(), ...set(weight)],
    ...step(r, i32(4)),
    ...step(w, i32(8)),
  ];
  const product = (v: number): Code => [...get(p), ...load(16 * v), ...get(weight), ...times];
  const four: Code = [
    ...nextRow,
    ...each(WIDE, (v) => [...product(v), ...set(group(v))]),
    ...each(3, () => [
      ...nextRow,
      ...each(WIDE, (v) => [...get(group(v)), ...product(v), ...plus, ...set(group(v))]),
    ]),
    ...each(WIDE, (v) => [...get(total(v)), ...get(group(v)), ...plus, ...set(total(v))]),
  ];
  const one: Code = [
    ...nextRow,
    ...each(WIDE, (v) => [...get(total(v)), ...product(v), ...plus, ...set(total(v))]),
  ];
  const block: Code = [
    ...[...get(rows), ...set(r), ...get(weights), ...set(w)],
    ...each(WIDE, (v) => [...zeros, ...set(total(v))]),
    ...whileLess(r, fours, four),
    ...whileLess(r, rowsEnd, one),
    ...each(WIDE, (v) => [...get(out), ...get(total(v)), ...store(16 * v)]),
    ...step(out, i32(BLOCK)),
    ...step(x, i32(BLOCK)),
  ];
  return {
    name: "sum",
    parameters: 6,
    numbers: 4,
    vectors: 2 * WIDE + 1,
    code: whileLess(out, end, block),
  };
}

/**
 * across1(row, out, end, first, weights, tapBytes): two pixels of one channel at a time. `first` lists where each
 * pixel's taps begin in the row, in bytes; weights of two pixels lie beside each other, 16 bytes a tap.
 */
function acrossOne(): Kernel {
  const [row, out, end, first, weights, tapBytes, a, b, wEnd] = Array.from({ length: 9 }, (_, k) => k);
  const total = 9;
  const tap: Code = [
    ...get(total),
    ...[...get(b), ...get(a), ...loadLow(), ...loadHigh()],
    ...[...get(weights), ...load(), ...times, ...plus, ...set(total)],
    ...step(a, i32(8)),
    ...step(b, i32(8)),
    ...step(weights, i32(16)),
  ];
  const pair: Code = [
    ...[...get(row), ...get(first), ...i32Load(0), ...add, ...set(a)],
    ...[...get(row), ...get(first), ...i32Load(4), ...add, ...set(b)],
    ...[...get(weights), ...get(tapBytes), ...add, ...set(wEnd)],
    ...[...zeros, ...set(total)],
    ...whileLess(weights, wEnd, tap),
    ...[...get(out), ...get(total), ...store()],
    ...step(first, i32(8)),
    ...step(out, i32(16)),
  ];
  return { name: "across1", parameters: 6, numbers: 3, vectors: 1, code: whileLess(out, end, pair) };
}

/** across3, across4(row, out, end, first, weights, tapBytes): one pixel of three or four channels; 8 bytes a weight. */
function acrossMany(channels: 3 | 4): Kernel {
  const [row, out, end, first, weights, tapBytes, a, wEnd] = Array.from({ length: 8 }, (_, k) => k);
  const [front, back, weight] = [8, 9, 10];
  const [loadBack, storeBack] = channels === 4 ? [load(16), store(16)] : [loadLow(16), storeLow(16)];
  const tap: Code = [
    ...[...get(weights), ...loadSplat(), ...set(weight)],
    ...[...get(front), ...get(a), ...load(), ...get(weight), ...times, ...plus, ...set(front)],
    ...[...get(back), ...get(a), ...loadBack, ...get(weight), ...times, ...plus, ...set(back)],
    ...step(a, i32(8 * channels)),
    ...step(weights, i32(8)),
  ];
  const pixel: Code = [
    ...[...get(row), ...get(first), ...i32Load(), ...add, ...set(a)],
    ...[...get(weights), ...get(tapBytes), ...add, ...set(wEnd)],
    ...[...zeros, ...set(front), ...zeros, ...set(back)],
    ...whileLess(weights, wEnd, tap),
    ...[...get(out), ...get(front), ...store()],
    ...[...get(out), ...get(back), ...storeBack],
    ...step(first, i32(4)),
    ...step(out, i32(8 * channels)),
  ];
  return {
    name: `across${channels}`,
    parameters: 6,
    numbers: 2,
    vectors: 3,
    code: whileLess(out, end, pixel),
  };
}

/** A weighted sum of red, green and blue: whole weights, what is added, and by how many bits the sum is shifted. */
export interface GreyWeights {
  readonly red: number;
  readonly green: number;
  readonly blue: number;
  readonly plus: number;
  readonly shift: number;
}

/** Pixels that the grey kernel takes at once; it is given whole numbers of them. */
export const GREY_AT_ONCE = 16;

/** grey(from, end, to): four bytes a pixel become one. */
export function greyKernel({ red, green, blue, plus: half, shift }: GreyWeights): Kernel {
  const [from, end, to] = [0, 1, 2];
  const [pixel, r, g, b, least, more] = [3, 4, 5, 6, 7, 8];
  const whole = (value: number, local: number): Code => [...i32(value), ...splatWhole, ...set(local)];
  const part = (bits: number, weight: number): Code => [
    ...[...get(pixel), ...shiftRight(bits), ...get(least), ...and],
    ...[...get(weight), ...timesWhole],
  ];
  const four = (k: number): Code => [
    ...[...get(from), ...load(16 * k), ...set(pixel)],
    ...[...part(0, r), ...part(8, g), ...plusWhole, ...part(16, b), ...plusWhole, ...get(more), ...plusWhole],
    ...shiftRight(shift),
  ];
  const sixteen: Code = [
    ...get(to),
    ...[...four(0), ...four(1), ...narrowToShort, ...four(2), ...four(3), ...narrowToShort, ...narrowToByte],
    ...store(),
    ...step(from, i32(4 * GREY_AT_ONCE)),
    ...step(to, i32(GREY_AT_ONCE)),
  ];
  const code = [
    ...[...whole(red, r), ...whole(green, g), ...whole(blue, b), ...whole(255, least), ...whole(half, more)],
    ...whileLess(from, end, sixteen),
  ];
  return { name: "grey", parameters: 3, numbers: 0, vectors: 6, code };
}

export const KERNELS: readonly Kernel[] = [sum(), acrossOne(), acrossMany(3), acrossMany(4)];
