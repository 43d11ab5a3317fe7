import { runToEnd } from "@hardline/core/maths/work";
import { writeDxf } from "@hardline/core/format/dxf";
import { rectangleKnots } from "@hardline/core/path/outline";
import { pathSetOf } from "@hardline/core/path/pathSet";
import sharp from "sharp";
import { IntakeError } from "./errors";
import { takeIn } from "./intake";
import { sniff } from "./sniff";

const raw = (width: number, height: number, channels: 3 | 4 = 3) => ({
  data: Buffer.from(Uint8Array.from({ length: width * height * channels }, (_, i) => (i * 37) % 256)),
  info: { raw: { width, height, channels } },
});
const image = (width = 40, height = 30, channels: 3 | 4 = 3) => {
  const { data, info } = raw(width, height, channels);
  return sharp(data, info);
};
const refusal = async (bytes: Uint8Array): Promise<string> => {
  try {
    const intake = await takeIn(bytes);
    await intake.pixels();
  } catch (error) {
    if (error instanceof IntakeError) return error.message;
    throw error;
  }
  return "taken";
};

test.each([
  ["PNG", () => image().png().toBuffer()],
  ["JPEG", () => image().jpeg({ quality: 100, chromaSubsampling: "4:4:4" }).toBuffer()],
  ["WebP", () => image().webp({ lossless: true }).toBuffer()],
  ["TIFF", () => image().tiff({ compression: "lzw" }).toBuffer()],
  ["GIF", () => image().gif().toBuffer()],
] as const)("%s is known by its content and read upright at its size", async (name, make) => {
  const bytes = await make();
  const intake = await takeIn(bytes);
  expect(intake.kind.name).toBe(name);
  expect(intake.facts).toMatchObject({ width: 40, height: 30, vector: false });
  const { data } = await intake.pixels();
  expect(data).toHaveLength(40 * 30 * 4);
  const worst = name === "JPEG" || name === "GIF" ? 255 : 0;
  const wanted = raw(40, 30).data;
  for (let i = 0; i < 1200; i++) expect(Math.abs(data[i * 4] - wanted[i * 3])).toBeLessThanOrEqual(worst);
});

test("a picture turned by its tag stands upright, and that is noted", async () => {
  const bytes = await image(40, 30).withMetadata({ orientation: 6 }).png().toBuffer();
  const jpeg = await sharp(bytes).withMetadata({ orientation: 6 }).jpeg().toBuffer();
  const intake = await takeIn(jpeg);
  expect(intake.facts).toMatchObject({ width: 30, height: 40 });
  expect(intake.notes).toContain("turned upright by its tag");
  expect(await intake.pixels()).toMatchObject({ width: 30, height: 40 });
});

test("CMYK comes as sRGB: white stays white, black is dark", async () => {
  const paper = await sharp({ create: { width: 16, height: 16, channels: 3, background: "#fff" } })
    .composite([
      { input: { create: { width: 8, height: 16, channels: 3, background: "#000" } }, left: 0, top: 0 },
    ])
    .toColourspace("cmyk")
    .jpeg({ quality: 100 })
    .toBuffer();
  const intake = await takeIn(paper);
  expect(intake.notes).toContain("CMYK brought to sRGB");
  const { data } = await intake.pixels();
  const at = (x: number) => Array.from(data.subarray((8 * 16 + x) * 4, (8 * 16 + x) * 4 + 4));
  expect(Math.min(...at(14))).toBeGreaterThan(245);
  expect(Math.max(...at(1).slice(0, 3))).toBeLessThan(70);
});

test("16 bits are kept as 8, rounded to the nearest", async () => {
  const values = [0, 128, 129, 257, 385, 386, 32767, 65535];
  const wide = Uint16Array.from(values.flatMap((v) => [v, v, v]));
  const png = await sharp(wide, { raw: { width: 8, height: 1, channels: 3 } })
    .toColourspace("rgb16")
    .png()
    .toBuffer();
  const intake = await takeIn(png);
  expect(intake.notes).toContain("16 bits kept as 8");
  const { data } = await intake.pixels();
  expect(values.map((_, i) => data[i * 4])).toEqual(values.map((v) => Math.round(v / 257)));
});

test("alpha comes through untouched; of an animation the first frame is taken", async () => {
  const { data, info } = raw(9, 7, 4);
  expect(Buffer.from((await (await takeIn(await sharp(data, info).png().toBuffer())).pixels()).data)).toEqual(
    data,
  );
  const frames = await Promise.all(
    ["#f00", "#0f0"].map((background) =>
      sharp({ create: { width: 8, height: 8, channels: 3, background } })
        .png()
        .toBuffer(),
    ),
  );
  const gif = await sharp(frames, { join: { animated: true } })
    .gif()
    .toBuffer();
  const intake = await takeIn(gif);
  expect(intake.notes).toContain("frame 1 of 2");
  expect(intake.facts).toMatchObject({ width: 8, height: 8 });
  expect(Array.from((await intake.pixels()).data.subarray(0, 4))).toEqual([255, 0, 0, 255]);
});

test("SVG is drawn at the width asked for, without following references to files or addresses", async () => {
  const svg = (inner: string) =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="20" height="10">${inner}</svg>`,
    );
  const intake = await takeIn(svg('<rect width="10" height="10" fill="#f00"/>'));
  expect(intake.facts).toMatchObject({ width: 20, height: 10, vector: true });
  const drawn = await intake.pixels(200);
  expect(drawn).toMatchObject({ width: 200, height: 100 });
  expect([drawn.data[3], drawn.data[99 * 4 + 3], drawn.data[100 * 4 + 3]]).toEqual([255, 255, 0]);
  const outside = await takeIn(
    svg(
      `<image xlink:href="file://${__filename}" width="20" height="10"/><image href="http://127.0.0.1:9/x.png" width="20" height="10"/>`,
    ),
  );
  expect((await outside.pixels(40)).data.every((v) => v === 0)).toBe(true);
});

test.each<[string, () => Promise<Uint8Array>, RegExp]>([
  ["an empty file", async () => new Uint8Array(0), /empty \(0 bytes\)/],
  [
    "text named as a picture",
    async () => Buffer.from("dear shop, here is my logo"),
    /PNG, JPEG, WebP, AVIF, HEIC, JPEG XL, TIFF, GIF, BMP, PDF, SVG or DXF is taken/,
  ],
  [
    "a JPEG cut off in the middle",
    async () => (await image(300, 300).jpeg().toBuffer()).subarray(0, 9000),
    /JPEG file is broken/,
  ],
  [
    "a PNG with a damaged middle",
    async () => (await image(200, 200).png().toBuffer()).fill(0x55, 400, 1800),
    /PNG file is broken/,
  ],
  [
    "a broken SVG",
    async () => Buffer.from("<svg xmlns='http://www.w3.org/2000/svg'><rect></svg>"),
    /SVG file is broken/,
  ],
])("%s is refused with the reason", async (_what, make, reason) => {
  expect(await refusal(await make())).toMatch(reason);
});

test("a picture of more than 200 million pixels is refused before it is decoded, with its size", async () => {
  const huge = await sharp({
    create: { width: 20000, height: 10001, channels: 3, background: "#888" },
    limitInputPixels: false,
  })
    .png({ compressionLevel: 1 })
    .toBuffer();
  expect(await refusal(huge)).toMatch(/20000 x 10001 = 200 million pixels; 200 million or less/);
});

test("kinds are told by content alone", () => {
  expect(sniff(Buffer.from("<?xml version='1.0'?>\n<!-- made here --><svg></svg>"))?.name).toBe("SVG");
  expect(sniff(Buffer.from("<html><svg></svg></html>"))).toBeNull();
  expect(sniff(Buffer.from("BM"))).toBeNull();
});

test("a DXF drawing is drawn from its shapes, and one that cannot be read says why", async () => {
  const square = pathSetOf({ name: "cut", use: "through", colour: 0 }, [
    { knots: rectangleKnots(10, 5, 20, 10), closed: true },
  ]);
  const bytes = runToEnd(writeDxf([square], { x: 0, y: 0, width: 40, height: 20 }));
  const taken = await takeIn(Buffer.from(bytes));
  expect(taken.kind).toMatchObject({ name: "DXF", mediaType: "image/vnd.dxf" });
  expect(taken.facts.vector).toBe(true);
  expect(taken.facts.width / taken.facts.height).toBeCloseTo(2, 1);
  const { data, width } = await taken.pixels(400);
  const alpha = (x: number, y: number) => data[4 * (y * width + x) + 3];
  expect([alpha(200, 100), alpha(20, 100), alpha(200, 180)]).toEqual([255, 0, 0]);
  await expect(takeIn(Buffer.from("0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n"))).rejects.toThrow(
    /no lines or curves/,
  );
});
