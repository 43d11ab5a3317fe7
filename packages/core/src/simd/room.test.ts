import { weightedSum } from "../maths/rows";
import { seeded } from "../testing/pictures";
import { rowKernels } from "./engine";
import { PlainRoom, takeRoom, type Room } from "./room";

const numbers = (length: number, seed: number): Float64Array => {
  const next = seeded(seed);
  return Float64Array.from({ length }, () => (next() % 2000003) / 999983 - 1);
};
const filled = (room: Room, from: Float64Array): Float64Array => {
  const row = room.row(from.length);
  row.set(from);
  return row;
};

test("this engine has vectors, so that what is tested here is what is used", () => {
  expect(rowKernels.on(1)).not.toBeNull();
});

test.each([1, 2, 3, 4, 5, 7, 8, 9, 11, 16, 31])("a sum of %d rows has the bits of plain script", (count) => {
  for (const length of [1, 3, 8, 13, 257]) {
    const room = takeRoom(count + 1, length);
    const given = Array.from({ length: count }, (_, k) => numbers(length, 7 * k + length));
    const weights = numbers(count + 2, 99);
    const [out, wanted] = [room.row(length), new Float64Array(length)];
    room.sum(
      given.map((g) => filled(room, g)),
      weights,
      2,
      out,
    );
    weightedSum(given, weights, 2, wanted);
    expect(Array.from(out)).toEqual(Array.from(wanted));
    room.free();
  }
});

test("rows may overlap, each shifted against the one before", () => {
  const room = takeRoom(2, 40);
  const row = filled(room, numbers(40, 3));
  const shifted = Array.from({ length: 7 }, (_, k) => row.subarray(k, k + 33));
  const [out, wanted] = [room.row(33), new Float64Array(33)];
  room.sum(shifted, numbers(7, 5), 0, out);
  weightedSum(shifted, numbers(7, 5), 0, wanted);
  expect(Array.from(out)).toEqual(Array.from(wanted));
  room.free();
});

test.each([1, 3, 4] as const)("filtered across, %d channels have the bits of plain script", (channels) => {
  for (const [wide, narrow, taps] of [
    [40, 13, 9],
    [12, 30, 6],
    [5, 1, 5],
  ]) {
    const first = Int32Array.from({ length: narrow }, (_, o) =>
      Math.min(wide - taps, Math.floor((o * wide) / narrow)),
    );
    const table = { taps, first, weights: numbers(narrow * taps, 11) };
    const row = numbers(wide * channels, 4);
    const room = takeRoom(2, (Math.max(wide, narrow) + 1) * channels, narrow * (taps + 2));
    const [out, wanted] = [room.row((narrow + 1) * channels), new Float64Array((narrow + 1) * channels)];
    room.across(table, channels)(filled(room, row), out);
    new PlainRoom().across(table, channels)(row, wanted);
    const seen = narrow * channels;
    expect(Array.from(out.subarray(0, seen))).toEqual(Array.from(wanted.subarray(0, seen)));
    room.free();
  }
});

test("a room that was given back is used again, and its rows are empty", () => {
  const one = takeRoom(2, 100);
  const { buffer } = one.row(100).fill(5);
  one.free();
  const other = takeRoom(2, 90);
  const row = other.row(90);
  expect(row.buffer).toBe(buffer);
  expect(row.every((v) => v === 0)).toBe(true);
  const beside = takeRoom(2, 90);
  expect(beside.row(90).buffer).not.toBe(buffer);
  other.free();
  beside.free();
});

test("what no memory could hold is summed one by one", () => {
  expect(takeRoom(1000, 1 << 20)).toBeInstanceOf(PlainRoom);
});
