import { takeIn } from "../intake";
import { bmpOf, packed } from "../testing/files";

const PALETTE = Array.from({ length: 16 }, (_, k) => [k * 17, 255 - k * 16, (k * 53) % 256] as const);
const INDICES = [
  [1, 1, 1, 1, 1, 2, 3],
  [15, 0, 4, 4, 9, 9, 9],
  [7, 6, 5, 4, 3, 2, 1],
];
const colours = INDICES.flat().flatMap((k) => [...PALETTE[k], 255]);
const bottomUp = [...INDICES].reverse();

async function pixelsOf(file: Buffer): Promise<number[]> {
  const intake = await takeIn(file);
  expect(intake.kind.name).toBe("BMP");
  return Array.from((await intake.pixels()).data);
}

const filled = (row: number[]): number[] => [...row, ...Array<number>((4 - (row.length % 4)) % 4).fill(0)];
const four = Buffer.from(
  bottomUp.flatMap((r) => filled([0, 2, 4, 6].map((x) => (r[x] << 4) | (r[x + 1] ?? 0)))),
);
const eight = Buffer.from(bottomUp.flatMap(filled));
const known = { width: 7, height: 3, palette: PALETTE };

test.each([
  ["8 bits", bmpOf({ ...known, bits: 8, data: eight })],
  ["4 bits", bmpOf({ ...known, bits: 4, data: four })],
  ["the short header of OS/2", bmpOf({ ...known, bits: 4, header: 12, data: four })],
  ["a gap before the pixels", bmpOf({ ...known, bits: 8, gap: 21, data: eight })],
  [
    "runs of 8 bits",
    bmpOf({
      ...known,
      bits: 8,
      compression: 1,
      // a stretch as it is (7, filled to 8), runs, a jump over what is colour 0, the end
      data: Buffer.from([
        ...[0, 7, 7, 6, 5, 4, 3, 2, 1, 0, 0, 0],
        ...[1, 15, 0, 2, 1, 0, 2, 4, 3, 9, 0, 0],
        ...[5, 1, 1, 2, 1, 3, 0, 1],
      ]),
    }),
  ],
  [
    "runs of 4 bits",
    bmpOf({
      ...known,
      bits: 4,
      compression: 2,
      data: Buffer.from([
        ...[0, 7, 0x76, 0x54, 0x32, 0x10, 0, 0],
        ...[2, 0xf0, 2, 0x44, 3, 0x99, 0, 0],
        ...[5, 0x11, 2, 0x23, 0, 1],
      ]),
    }),
  ],
])("colours by number: %s", async (_what, file) => {
  expect(await pixelsOf(file)).toEqual(colours);
});

test("1 bit: the palette says which is ink", async () => {
  const palette = [
    [255, 0, 0],
    [0, 0, 255],
  ] as const;
  const file = bmpOf({ width: 9, height: 1, bits: 1, palette, data: Buffer.from([0b10100001, 0x80, 0, 0]) });
  const bits = [1, 0, 1, 0, 0, 0, 0, 1, 1];
  expect(await pixelsOf(file)).toEqual(bits.flatMap((b) => [...palette[b], 255]));
});

test("16 bits: the most a channel can hold is white, whatever its width", async () => {
  const five = bmpOf({
    width: 3,
    height: 1,
    bits: 16,
    data: packed([0x7fff, 2], [0x4000 | (3 << 5), 2], [1, 2], [0, 2]),
  });
  expect(await pixelsOf(five)).toEqual([255, 255, 255, 255, 132, 25, 0, 255, 0, 0, 8, 255]);
  const six = bmpOf({
    width: 2,
    height: 1,
    bits: 16,
    compression: 3,
    masks: [0xf800, 0x7e0, 0x1f],
    data: packed([0xffff, 2], [32 << 5, 2]),
  });
  expect(await pixelsOf(six)).toEqual([255, 255, 255, 255, 0, 130, 0, 255]);
});

test("24 and 32 bits, from either end; the fourth byte is alpha only where a mask says so", async () => {
  const up = bmpOf({
    width: 1,
    height: 2,
    bits: 24,
    data: Buffer.from([3, 2, 1, 0, 6, 5, 4, 0]),
  });
  expect(await pixelsOf(up)).toEqual([4, 5, 6, 255, 1, 2, 3, 255]);
  const down = Buffer.from(up);
  down.writeInt32LE(-2, 22);
  expect(await pixelsOf(down)).toEqual([1, 2, 3, 255, 4, 5, 6, 255]);
  const plain = bmpOf({ width: 1, height: 1, bits: 32, data: Buffer.from([3, 2, 1, 77]) });
  expect(await pixelsOf(plain)).toEqual([1, 2, 3, 255]);
  const masks = [0xff0000, 0xff00, 0xff, 0xff000000];
  const clear = { width: 1, height: 1, bits: 32, compression: 6, masks };
  expect(await pixelsOf(bmpOf({ ...clear, data: Buffer.from([3, 2, 1, 77]) }))).toEqual([1, 2, 3, 77]);
  expect(await pixelsOf(bmpOf({ ...clear, data: Buffer.from([3, 2, 1, 0]) }))).toEqual([1, 2, 3, 255]);
});

test.each([
  ["pixels beyond its end", bmpOf({ ...known, bits: 8, data: eight }).subarray(0, 130), /not whole/],
  ["an offset beyond its end", bmpOf({ ...known, bits: 8, gap: 9, data: new Uint8Array(0) }), /beyond/],
  ["runs that end too soon", bmpOf({ ...known, bits: 8, compression: 1, data: eight }), /not whole/],
  ["64 bits", bmpOf({ width: 1, height: 1, bits: 64, data: Buffer.alloc(8) }), /64 bits a pixel.*PNG/],
  ["a JPEG inside", bmpOf({ width: 1, height: 1, bits: 0, compression: 4, data: Buffer.alloc(8) }), /way 4/],
  ["no size", bmpOf({ width: 0, height: 4, bits: 24, data: Buffer.alloc(8) }), /no size/],
])("%s: refused, with the reason", async (_what, file, reason) => {
  await expect(takeIn(file).then((i) => i.pixels())).rejects.toThrow(reason);
});
