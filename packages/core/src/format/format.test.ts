import { unzlibSync } from "fflate";
import { execFileSync } from "node:child_process";
import sharp from "sharp";
import { finish } from "../maths/work";
import { newBits, type Bits } from "../raster/types";
import { randomGray, randomRgba, seeded } from "../testing/pictures";
import { encodeGroup4 } from "./fax";
import { writeBitsPdf } from "./pdf";
import { readPng, writeBitsPng, writeGrayPng, writeRgbaPng } from "./png";
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
    const group4 = finish(encodeGroup4(bits));
    for (const file of [writeBitsPng(bits, 300), writeBitsTiff(bits, group4, 300)]) {
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
  const { data } = await readElsewhere(writeBitsTiff(bits, finish(encodeGroup4(bits)), 600));
  expect(data.equals(expected(bits))).toBe(true);
});

test("the PDF page has the finish size and prints every dot as it is", async () => {
  const bits = randomBits(144, 72, 9, 4);
  const pdf = await writeBitsPdf(bits, finish(encodeGroup4(bits)), 50.8, 25.4);
  const info = execFileSync("pdfinfo", ["-"], { input: pdf, encoding: "utf8" });
  expect(info).toMatch(/Page size:\s+144 x 72 pts/);
  const page = execFileSync("pdftoppm", ["-r", "72", "-png", "-"], { input: pdf });
  expect((await readElsewhere(page)).data.equals(expected(bits))).toBe(true);
});

test("grey and colour PNG read back, elsewhere and by our own reader", async () => {
  const inflate = async (data: Uint8Array) => unzlibSync(data);
  const grey = randomGray(33, 21, 2);
  const colour = randomRgba(33, 21, 3);
  const { data } = await sharp(writeRgbaPng(colour, 254)).raw().toBuffer({ resolveWithObject: true });
  expect(data.equals(Buffer.from(colour.data))).toBe(true);
  expect((await readElsewhere(writeGrayPng(grey, 254))).data.equals(Buffer.from(grey.data))).toBe(true);
  expect(
    Buffer.from((await readPng(writeRgbaPng(colour, 254), inflate)).data).equals(Buffer.from(colour.data)),
  ).toBe(true);
  for (const channels of [1, 2, 3, 4] as const) {
    const raw = Buffer.from(randomGray(29 * channels, 17, channels).data);
    const file = await sharp(raw, { raw: { width: 29, height: 17, channels } })
      .png({ adaptiveFiltering: true })
      .toBuffer();
    const wanted = await sharp(file).toColourspace("srgb").ensureAlpha().raw().toBuffer();
    expect(Buffer.from((await readPng(file, inflate)).data).equals(wanted)).toBe(true);
  }
});

test("our reader refuses what it does not read", async () => {
  const inflate = async (data: Uint8Array) => unzlibSync(data);
  await expect(readPng(Uint8Array.from([1, 2, 3]), inflate)).rejects.toThrow("not a PNG");
  await expect(readPng(writeBitsPng(newBits(4, 4), 72), inflate)).rejects.toThrow("depth 1");
  const cut = writeGrayPng(randomGray(9, 9, 1), 72);
  await expect(readPng(cut, async () => new Uint8Array(3))).rejects.toThrow("not whole");
});
