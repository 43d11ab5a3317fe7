import { readFileSync } from "node:fs";
import { join } from "node:path";
import sharp from "sharp";
import { IntakeError } from "../errors";
import { pagesOf, takeIn } from "../intake";

const file = (name: string): Buffer => readFileSync(join(__dirname, "../testing/phones", name));
const FIELDS = [
  [200, 30, 40],
  [20, 140, 60],
  [30, 50, 190],
  [240, 190, 20],
] as const;
const [WIDTH, HEIGHT] = [49, 33];

interface Pixels {
  readonly width: number;
  readonly data: Uint8Array;
}
const at = ({ width, data }: Pixels, x: number, y: number): number[] =>
  Array.from(data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4));

/** The fields' colours in their middles: left to right, top to bottom. */
const middles = (picture: Pixels, width = WIDTH, height = HEIGHT): number[][] =>
  [0.25, 0.75].flatMap((v) =>
    [0.25, 0.75].map((u) => at(picture, Math.floor(u * width), Math.floor(v * height)).slice(0, 3)),
  );

function near(found: readonly number[][], wanted: readonly (readonly number[])[], within = 3): void {
  const off = found.flatMap((seen, k) => seen.map((v, c) => Math.abs(v - wanted[k][c])));
  expect(Math.max(...off)).toBeLessThanOrEqual(within);
}

test.each([
  ["plain.heic", "HEIC"],
  ["wide.heic", "HEIC"],
  ["ten-bits.heic", "HEIC"],
  ["wide.avif", "AVIF"],
  ["wide.jxl", "JPEG XL"],
])("%s comes with the colours that it shows", async (name, kind) => {
  const intake = await takeIn(file(name));
  const picture = await intake.pixels();
  expect([intake.kind.name, picture.width, picture.height, intake.facts.width, intake.facts.height]).toEqual([
    ...[kind, WIDTH, HEIGHT, WIDTH, HEIGHT],
  ]);
  near(middles(picture), FIELDS);
  expect(picture.data.filter((_, i) => i % 4 === 3).every((a) => a === 255)).toBe(true);
});

test("what was done is told", async () => {
  expect((await takeIn(file("plain.heic"))).notes).toEqual([]);
  expect((await takeIn(file("wide.heic"))).notes).toEqual(["colours brought to sRGB by its profile"]);
  expect((await takeIn(file("ten-bits.heic"))).notes).toEqual(["10 bits kept as 8"]);
});

test("a turn in the file is made", async () => {
  const picture = await (await takeIn(file("turned.jxl"))).pixels();
  expect([picture.width, picture.height]).toEqual([HEIGHT, WIDTH]);
  // a quarter clockwise: what was below is left
  near(middles(picture, HEIGHT, WIDTH), [FIELDS[2], FIELDS[0], FIELDS[3], FIELDS[1]]);

  // a property that nobody needs becomes a quarter turn anticlockwise
  const turned = Buffer.from(file("plain.heic"));
  const property = turned.indexOf("pixi");
  turned.write("irot", property, "latin1");
  turned[property + 4] = 1;
  const intake = await takeIn(turned);
  expect([intake.facts.width, intake.facts.height]).toEqual([HEIGHT, WIDTH]);
  near(middles(await intake.pixels(), HEIGHT, WIDTH), [FIELDS[1], FIELDS[3], FIELDS[0], FIELDS[2]]);
});

test("a file of several pictures lets one be chosen", async () => {
  const both = file("two.heic");
  expect((await pagesOf(both)).map(({ called, page, pixels }) => [called, page, pixels])).toEqual([
    ["picture", 1, [WIDTH, HEIGHT]],
    ["picture", 2, [WIDTH, HEIGHT]],
  ]);
  near(middles(await (await takeIn(both)).pixels()), FIELDS);
  const second = await takeIn(both, { page: 2, box: "crop" });
  expect(at(await second.pixels(), 5, 5)).toEqual([127, 127, 127, 255]);
  expect(second.notes).toEqual(["picture 2 of 2"]);
  await expect(takeIn(both, { page: 3, box: "crop" })).rejects.toThrow(
    "page is 3; allowed: a whole number 1 to 2.",
  );
  await expect(takeIn(both, { page: 1, box: "trim" })).rejects.toThrow(
    "box is trim; a picture has crop alone.",
  );
});

test("a picture for displays of high range is refused, with what to do", async () => {
  await expect(takeIn(file("bright.avif"))).rejects.toThrow(
    "A picture for displays of high dynamic range is not read. Save it as an ordinary one, in sRGB.",
  );
});

test.each(["plain.heic", "two.heic", "wide.avif", "wide.jxl", "turned.jxl"])(
  "%s, cut off or changed anywhere, is refused or read at its size",
  async (name) => {
    const whole = file(name);
    let refused = 0;
    const tried = async (bytes: Buffer): Promise<void> => {
      try {
        const intake = await takeIn(bytes);
        const picture = await intake.pixels();
        expect(picture.data).toHaveLength(intake.facts.width * intake.facts.height * 4);
      } catch (error) {
        if (!(error instanceof IntakeError)) throw error;
        refused++;
      }
    };
    for (let end = 13; end < whole.length; end += 61) await tried(whole.subarray(0, end));
    expect(refused).toBeGreaterThan(0);
    for (let k = 12; k < whole.length; k += 37) {
      const changed = Buffer.from(whole);
      changed[k] ^= 0xff;
      await tried(changed);
    }
  },
  60_000,
);

test("frames and pages are chosen, each as it is seen", async () => {
  const [width, height] = [20, 10];
  const colours = [
    [255, 0, 0],
    [0, 255, 0],
    [0, 0, 255],
  ];
  const rows = Buffer.from(colours.flatMap((c) => Array.from({ length: width * height }, () => c).flat()));
  const all = () => sharp(rows, { raw: { width, height: height * 3, channels: 3, pageHeight: height } });
  for (const [bytes, called] of [
    [await all().gif().toBuffer(), "frame"],
    [await all().webp({ lossless: true }).toBuffer(), "frame"],
    [await all().tiff({ compression: "lzw" }).toBuffer(), "page"],
  ] as const) {
    expect((await takeIn(bytes)).notes).toEqual([`${called} 1 of 3`]);
    expect((await pagesOf(bytes)).map((p) => [p.called, p.pixels])).toEqual(
      colours.map(() => [called, [width, height]]),
    );
    for (const [k, colour] of colours.entries()) {
      const intake = await takeIn(bytes, { page: k + 1, box: "crop" });
      expect(intake.pages).toBe(3);
      expect(at(await intake.pixels(), 7, 7)).toEqual([...colour, 255]);
    }
    await expect(takeIn(bytes, { page: 4, box: "crop" })).rejects.toThrow(IntakeError);
  }
});

test("a JPEG that carries a gain map is the picture without it", async () => {
  const raw = { raw: { width: WIDTH, height: HEIGHT, channels: 3 as const } };
  const fields = await (await takeIn(file("plain.heic"))).pixels();
  const rgb = Buffer.from(fields.data.filter((_, i) => i % 4 < 3));
  const base = await sharp(rgb, raw).jpeg({ quality: 95, chromaSubsampling: "4:4:4" }).toBuffer();
  const gains = await sharp(rgb, raw).greyscale().jpeg().toBuffer();
  // ISO 21496-1: both say so in a segment of their own, and the second picture follows the first
  const urn = Buffer.from("urn:iso:std:iso:ts:21496:-1\0\0\0\0\0");
  const said = (jpeg: Buffer): Buffer => {
    const head = Buffer.from([0xff, 0xe2, (urn.length + 2) >> 8, (urn.length + 2) & 255]);
    return Buffer.concat([jpeg.subarray(0, 2), head, urn, jpeg.subarray(2)]);
  };
  const both = Buffer.concat([said(base), said(gains)]);
  const [plain, carried] = [await takeIn(base), await takeIn(both)];
  expect(carried.facts.width).toBe(WIDTH);
  expect((await carried.pixels()).data).toEqual((await plain.pixels()).data);
  expect(carried.notes).toEqual([]);
});
