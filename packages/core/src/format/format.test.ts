import { execFileSync } from "node:child_process";
import { pipeline } from "node:stream";
import { createInflate } from "node:zlib";
import sharp from "sharp";
import { runToEnd } from "../maths/work";
import { newBits, type Bits } from "../raster/types";
import { randomGray, randomRgba, seeded } from "../testing/pictures";
import { encodeGroup4 } from "./fax";
import { writeBitsPdf } from "./pdf";
import { writeBitsPng, writeGrayPng, writeRgbaPng } from "./png";
import { readPng } from "./readPng";
import { readBitsTiff } from "./readTiff";
import { writeBitsTiff } from "./tiff";

function randomBits(width: number, height: number, seed: number, changeOneIn: number): Bits {
  const bits = newBits(width, height);
  const next = seeded(seed);
  for (let y = 0; y < height; y++)
    for (let x = 0, v = next() & 1; x < width; x++) {
      if (next() % changeOneIn === 0) v ^= 1;
      if (v) bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
    }
  return bits;
}

/** Grey bytes of a bitmap as another library reads them: 0 = mark. */
const expected = ({ width, height, stride, data }: Bits) =>
  Buffer.from(
    Uint8Array.from({ length: width * height }, (_, i) => {
      const [x, y] = [i % width, Math.floor(i / width)];
      return (data[y * stride + (x >> 3)] >> (7 - (x & 7))) & 1 ? 0 : 255;
    }),
  );
const readElsewhere = (file: Uint8Array) =>
  sharp(file).toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });

const CASES: Bits[] = [
  newBits(1, 1),
  newBits(3000, 2),
  randomBits(1, 9, 4, 2),
  randomBits(8, 8, 1, 2),
  randomBits(61, 33, 2, 3),
  randomBits(700, 50, 3, 60),
  randomBits(6000, 20, 5, 900),
  randomBits(9000, 6, 6, 4000),
];

test.each(CASES.map((bits) => [bits.width, bits.height, bits] as const))(
  "bitmap %d x %d reads back elsewhere, as PNG and TIFF",
  async (_w, _h, bits) => {
    const group4 = runToEnd(encodeGroup4(bits));
    const tiff = writeBitsTiff(bits, group4, 300);
    const own = runToEnd(readBitsTiff(tiff));
    expect(own.dotsPerInch).toBe(300);
    expect(Buffer.from(own.bits.data).equals(Buffer.from(bits.data))).toBe(true);
    for (const file of [runToEnd(writeBitsPng(bits, 300)), tiff]) {
      const { data, info } = await readElsewhere(file);
      expect([info.width, info.height]).toEqual([bits.width, bits.height]);
      expect(data.equals(expected(bits))).toBe(true);
      expect((await sharp(file).metadata()).density).toBe(300);
    }
  },
);

test("every run length there is a code word for comes through Group 4", async () => {
  const width = 2700;
  const bits = newBits(width, 2 * width);
  for (let y = 0; y < 2 * width; y += 2)
    for (let x = 10, n = y / 2; x < width && n > 0; x++, n--)
      bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
  const tiff = writeBitsTiff(bits, runToEnd(encodeGroup4(bits)), 600);
  expect(Buffer.from(runToEnd(readBitsTiff(tiff)).bits.data).equals(Buffer.from(bits.data))).toBe(true);
  const { data } = await readElsewhere(tiff);
  expect(data.equals(expected(bits))).toBe(true);
});

test("the PDF page has the finish size and prints every dot as it is", async () => {
  const bits = randomBits(144, 72, 9, 4);
  const pdf = await writeBitsPdf(bits, runToEnd(encodeGroup4(bits)), 50.8, 25.4);
  const info = execFileSync("pdfinfo", ["-"], { input: pdf, encoding: "utf8" });
  expect(info).toMatch(/Page size:\s+144 x 72 pts/);
  const page = execFileSync("pdftoppm", ["-r", "72", "-png", "-"], { input: pdf });
  expect((await readElsewhere(page)).data.equals(expected(bits))).toBe(true);
});

async function* pieces(bytes: Uint8Array, size: number) {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}
/** What fails on the way in fails what comes out. */
const inflate = (data: AsyncIterable<Uint8Array>) => pipeline(data, createInflate(), () => undefined);
const host = { inflate };
const readOurs = async (file: Uint8Array, size = 7) => (await readPng(pieces(file, size), host)).data;

test("grey and colour PNG read back, elsewhere and by our own reader, in pieces of any size", async () => {
  const grey = randomGray(33, 21, 2);
  const colour = randomRgba(33, 21, 3);
  const written = runToEnd(writeRgbaPng(colour, 254));
  const { data } = await sharp(written).raw().toBuffer({ resolveWithObject: true });
  expect(data.equals(Buffer.from(colour.data))).toBe(true);
  expect((await readElsewhere(runToEnd(writeGrayPng(grey, 254)))).data.equals(Buffer.from(grey.data))).toBe(
    true,
  );
  for (const size of [1, 3, 64, 1 << 20]) expect(await readOurs(written, size)).toEqual(colour.data);
  for (const channels of [1, 2, 3, 4] as const) {
    const raw = Buffer.from(randomGray(29 * channels, 17, channels).data);
    const file = await sharp(raw, { raw: { width: 29, height: 17, channels } })
      .png({ adaptiveFiltering: true })
      .toBuffer();
    const wanted = await sharp(file).toColourspace("srgb").ensureAlpha().raw().toBuffer();
    expect(Buffer.from(await readOurs(file)).equals(wanted)).toBe(true);
  }
});

test("a picture too large for one slice of the writer is whole", async () => {
  const large = randomRgba(700, 300, 5);
  expect(await readOurs(runToEnd(writeRgbaPng(large, 254)), 9999)).toEqual(large.data);
});

test("our reader refuses what it does not read, and stops when it is told to", async () => {
  await expect(readOurs(Uint8Array.from([1, 2, 3]))).rejects.toThrow("not a PNG");
  await expect(readOurs(Uint8Array.from({ length: 99 }, () => 7))).rejects.toThrow("not a PNG");
  await expect(readOurs(runToEnd(writeBitsPng(newBits(4, 4), 72)))).rejects.toThrow("depth 1");
  const cut = runToEnd(writeGrayPng(randomGray(90, 90, 1), 72));
  await expect(readOurs(cut.subarray(0, 400))).rejects.toThrow(/whole|unexpected end/);
  const pause = () => Promise.reject(new Error("stopped"));
  const large = runToEnd(writeRgbaPng(randomRgba(700, 600, 1), 72));
  await expect(readPng(pieces(large, 9999), { ...host, pause })).rejects.toThrow("stopped");
});

test("what another library codes as Group 4 is read as it is", async () => {
  const bits = randomBits(613, 97, 11, 9);
  const raw = { width: bits.width, height: bits.height, channels: 1 } as const;
  const tiff = await sharp(expected(bits), { raw })
    .toColourspace("b-w")
    .tiff({ compression: "ccittfax4", bitdepth: 1, miniswhite: true })
    .toBuffer();
  const { bits: read } = runToEnd(readBitsTiff(tiff));
  expect([read.width, read.height]).toEqual([613, 97]);
  expect(Buffer.from(read.data).equals(Buffer.from(bits.data))).toBe(true);
});

test("a TIFF that is cut off, is none, or has its code spoilt is refused in words", () => {
  const bits = randomBits(300, 40, 12, 5);
  const tiff = writeBitsTiff(bits, runToEnd(encodeGroup4(bits)), 300);
  const reason = (file: Uint8Array): string => {
    try {
      runToEnd(readBitsTiff(file));
      return "read";
    } catch (error) {
      return (error as Error).message;
    }
  };
  expect(reason(new Uint8Array(3))).toContain("ends too early");
  expect(reason(new TextEncoder().encode("GIF89a and more"))).toContain("does not begin as one");
  for (let cut = 8; cut < tiff.length - 4; cut += 37)
    expect(reason(tiff.subarray(0, cut))).toMatch(/ends too early|it has no/);
  const next = seeded(7);
  for (let k = 0; k < 200; k++) {
    const spoilt = tiff.slice();
    spoilt[140 + (next() % (tiff.length - 140))] ^= 1 << (next() % 8);
    expect(reason(spoilt)).toMatch(/^(read|.*facsimile code.*)$/);
  }
});
