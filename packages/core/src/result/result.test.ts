import { runToEnd as finishWork } from "../maths/work";
import { WHOLE_FRAME } from "../path/frame";
import { rectangleKnots } from "../path/outline";
import { pathSetOf } from "../path/pathSet";
import { dotsFingerprint } from "../raster/fingerprint";
import { newBits } from "../raster/types";
import { type Finish } from "./finish";
import { resultFingerprint } from "./fingerprint";
import { baseUnder, Preview } from "./preview";
import { markedWithin, readDot } from "./read";
import { as, arraysOf, bytesOf, mapArrays, type Paths, type Picture, type Plates, type Tone } from "./result";
import { viewOf } from "./view";

const finish: Finish = { widthPx: 2, heightPx: 1, widthMm: 2, heightMm: 1, dotsPerInch: 25.4 };
const place = { finish, frame: WHOLE_FRAME };
const bitsOf = (byte: number) => {
  const bits = newBits(2, 1);
  bits.data[0] = byte;
  return bits;
};
const picture: Picture = {
  ...place,
  kind: "picture",
  cleared: null,
  colour: { width: 2, height: 1, data: Uint8Array.from([1, 2, 3, 255, 4, 5, 6, 128]) },
};
const tone: Tone = {
  ...place,
  kind: "tone",
  gray: { width: 2, height: 1, data: Uint8Array.from([10, 200]) },
  cover: Uint8Array.from([255, 128]),
};
const plates: Plates = {
  ...place,
  kind: "plates",
  plates: [{ name: "bitmap", ink: 0x102030, bits: bitsOf(0b10000000) }],
  cover: Uint8Array.from([255, 0]),
};
const second = { name: "dark", ink: 0x400000, bits: bitsOf(0b01000000) };
const two: Plates = { ...plates, plates: [...plates.plates, second], cover: null };
const paths: Paths = {
  ...place,
  kind: "paths",
  sets: [
    pathSetOf({ name: "in", use: "fill", colour: 0x0000ff }, [
      { knots: rectangleKnots(0, 0, 1, 1), closed: true },
    ]),
  ],
};
const pane = { part: { x: 0, y: 0, width: 2, height: 1 }, width: 2, height: 1, base: 0xa0b0c0 };
const seen = (result: Parameters<typeof viewOf>[0], more: object = {}) =>
  Array.from(finishWork(viewOf(result, { ...pane, ...more })).data);

describe("what a result looks like", () => {
  test("dots are shown in their ink on what lies under them; nothing where there is no art", () => {
    expect(seen(plates)).toEqual([0x10, 0x20, 0x30, 255, 0xa0, 0xb0, 0xc0, 0]);
  });
  test("tone is shown as grey, as solid as the art is; or in an ink that it stands in for", () => {
    expect(seen(tone)).toEqual([10, 10, 10, 255, 200, 200, 200, 128]);
    const dots = {
      ...tone,
      ink: 0x102030,
      cover: null,
      gray: { ...tone.gray, data: Uint8Array.from([0, 255]) },
    };
    expect(seen(dots)).toEqual([0x10, 0x20, 0x30, 255, 0xa0, 0xb0, 0xc0, 255]);
  });
  test("several plates lie over each other, and each can be hidden", () => {
    expect(seen(two)).toEqual([0x10, 0x20, 0x30, 255, 0x40, 0, 0, 255]);
    expect(seen(two, { hidden: ["dark"] })).toEqual([0x10, 0x20, 0x30, 255, 0xa0, 0xb0, 0xc0, 255]);
    expect(seen(two, { hidden: ["dark", "bitmap"] })).toEqual([0xa0, 0xb0, 0xc0, 255, 0xa0, 0xb0, 0xc0, 255]);
  });
  test("paths are areas or lines, and clear elsewhere", () => {
    expect(seen(paths)).toEqual([0, 0, 255, 255, 0, 0, 0, 0]);
    const line = { ...paths, sets: [{ ...paths.sets[0], use: "through" as const }] };
    const large = seen(line, { width: 60, height: 30 });
    const alpha = (x: number, y: number) => large[(y * 60 + x) * 4 + 3];
    expect([alpha(15, 0), alpha(29, 15), alpha(15, 15), alpha(45, 15)].map((a) => a > 100)).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
  test("a preview is the last that fills it, with paths over it; pale marks lie on slate", () => {
    const preview = new Preview({ width: 2, height: 1 });
    expect(preview.picture).toBeNull();
    for (const result of [picture, plates, paths]) preview.add(result);
    expect(Array.from(preview.picture!.data)).toEqual([0, 0, 255, 255, 255, 255, 255, 0]);
    expect(baseUnder(plates)).toBe(0xffffff);
    expect(baseUnder({ ...plates, plates: [{ ...plates.plates[0], ink: 0xf0f0f0 }] })).toBe(0x3a3d42);
  });
});

describe("what a result holds", () => {
  test("its own bytes are counted, not those that it hands on", () => {
    const own = bytesOf(tone);
    expect(own).toBe(1024 + 4);
    expect(bytesOf({ ...plates, cover: tone.cover }, [tone])).toBe(1024 + 1);
    expect(bytesOf(tone, [tone])).toBe(1024);
    expect(arraysOf(two)).toHaveLength(2);
  });
  test("every array can be replaced, and nothing else changes", () => {
    const moved = mapArrays(plates, (array) => new Uint8Array(array as Uint8Array));
    expect(moved).toEqual(plates);
    expect(moved.plates[0].bits.data).not.toBe(plates.plates[0].bits.data);
    const set = mapArrays(paths, (array) => array).sets[0];
    expect(set.points).toBe(paths.sets[0].points);
  });
  test("is of the kind that it must be, or that is said", () => {
    expect(as(tone, "tone")).toBe(tone);
    expect(() => as(tone, "plates")).toThrow("plates was wanted, not tone");
  });
  test("a fingerprint tells plates and paths apart; a single plate has that of its dots", () => {
    const print = (r: Parameters<typeof resultFingerprint>[0]) => finishWork(resultFingerprint(r));
    expect(print(plates)).toBe(finishWork(dotsFingerprint(plates.plates[0].bits)));
    expect(new Set([print(plates), print(two), print(paths)]).size).toBe(3);
    const swapped = { ...two, plates: [...two.plates].reverse() };
    expect(print(swapped)).not.toBe(print(two));
    expect([print(picture), print(tone)]).toEqual([null, null]);
  });
});

describe("a reading", () => {
  test("tells the tone of the last that has one, and the marks of the last that has any", () => {
    expect(readDot([picture, tone, two], place, 0, 0)).toEqual({
      tone: (245 / 255) * 100,
      plates: [
        { name: "bitmap", marked: true },
        { name: "dark", marked: false },
      ],
    });
    expect(readDot([picture], place, 1, 0)!.tone).toBeCloseTo((100 * (255 - 5)) / 255, 9);
    expect(readDot([paths], place, 0, 0)).toEqual({ tone: null, plates: [] });
    expect([readDot([tone], place, 2, 0), readDot([tone], place, 0, -1)]).toEqual([null, null]);
  });
  test("the artwork is read where the piece lies on it", () => {
    const wide = { finish: { ...finish, widthPx: 4 }, frame: { x: 0.5, y: 0, width: 0.5, height: 1 } };
    expect(readDot([tone], wide, 3, 0)!.tone).toBeCloseTo((100 * 55) / 255, 9);
  });
  test("a loupe counts marks, whichever plate they are on; beyond the piece all is bare", () => {
    expect(markedWithin(two.plates, 0, 0, 2)).toBe(50);
    expect(markedWithin(plates.plates, 0, 0, 1)).toBe(100);
  });
});
