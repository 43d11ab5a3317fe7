import sharp from "sharp";
import { takeIn } from "../intake";
import { pngOf, profileOf, tiffOf, words } from "../testing/files";

/** The sRGB curve, worked out here on its own. */
const stored = (light: number): number =>
  255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055);
const light = (level: number): number =>
  level <= 0.04045 ? level / 12.92 : ((level + 0.055) / 1.055) ** 2.4;

const RAMP = Array.from({ length: 256 }, (_, v) => [v, v, v]).flat();
const reds = async (file: Buffer): Promise<number[]> => {
  const { data } = await (await takeIn(file)).pixels();
  return Array.from({ length: data.length / 4 }, (_, i) => data[i * 4]);
};
const near = (found: number[], wanted: number[], within: number) =>
  expect(Math.max(...found.map((v, k) => Math.abs(v - wanted[k])))).toBeLessThanOrEqual(within);

describe("PNG without a profile", () => {
  test.each([
    [1, 100000],
    [1.8, 55556],
  ])("stored by a gamma of %d is brought to sRGB", async (gamma, said) => {
    const wanted = Array.from({ length: 256 }, (_, v) => stored((v / 255) ** gamma));
    near(await reds(pngOf(256, RAMP, 8, { gAMA: words(said) })), wanted, 0.51);
    const deep = RAMP.map((v) => v * 257);
    near(await reds(pngOf(256, deep, 16, { gAMA: words(said) })), wanted, 0.51);
  });

  test.each([
    ["the usual gamma", { gAMA: words(45455) }],
    ["sRGB beside another gamma", { sRGB: Uint8Array.of(0), gAMA: words(100000) }],
  ])("%s changes nothing", async (_what, own) => {
    expect(await reds(pngOf(256, RAMP, 8, own))).toEqual(Array.from({ length: 256 }, (_, v) => v));
  });

  test("wider primaries are brought in, white staying white", async () => {
    // red, green and blue of a common wide display, and its white of sRGB
    const cHRM = words(31270, 32900, 68000, 32000, 26500, 69000, 15000, 6000);
    const pixels = [255, 255, 255, 128, 128, 128, 200, 100, 100];
    const { data } = await (await takeIn(pngOf(3, pixels, 8, { cHRM }))).pixels();
    // by hand: light (0.578, 0.127, 0.127) times the published matrix gives (0.679, 0.109, 0.119) of sRGB
    expect(Array.from(data)).toEqual([255, 255, 255, 255, 128, 128, 128, 255, 215, 93, 97, 255]);
  });

  test("texts are left unread, however many", async () => {
    const own = Object.fromEntries(
      Array.from({ length: 9 }, (_, k) => [`t${k}Xt`, Buffer.from("note\0said")]),
    );
    expect(await reds(pngOf(256, RAMP, 8, own))).toHaveLength(256);
  });

  test("for a display of high range is refused", async () => {
    const file = pngOf(1, [9, 9, 9], 8, { cICP: Uint8Array.of(9, 16, 0, 1) });
    await expect(takeIn(file)).rejects.toThrow(/high dynamic range/);
  });
});

describe("16 bits with a profile", () => {
  const deep = (values: readonly number[]) =>
    Buffer.from(Uint16Array.from(values.map((v) => v * 257)).buffer);
  const plain = [
    [258, 3, [16, 16, 16]],
    [259, 3, [1]],
    [262, 3, [2]],
    [277, 3, [3]],
  ] as const;
  // XYZ under D50 of the primaries of sRGB
  const SRGB = [
    [0.4361, 0.2225, 0.0139],
    [0.3851, 0.7169, 0.0971],
    [0.1431, 0.0606, 0.7141],
  ];

  test("RGB: by its curve and its primaries, exactly", async () => {
    const profile = [...profileOf(1, SRGB)];
    const file = tiffOf(256, 1, deep(RAMP), [...plain, [34675, 7, profile]]);
    near(
      await reds(file),
      Array.from({ length: 256 }, (_, v) => stored(v / 255)),
      1,
    );
    // the same with red and green changed places: a red picture is green
    const swapped = [...profileOf(1, [SRGB[1], SRGB[0], SRGB[2]])];
    const red = tiffOf(1, 1, deep([255, 0, 0]), [...plain, [34675, 7, swapped]]);
    const { data } = await (await takeIn(red)).pixels();
    expect(data[1]).toBeGreaterThan(253);
    expect(Math.max(data[0], data[2])).toBeLessThan(8);
  });

  test("grey: by its curve", async () => {
    const grey = Array.from({ length: 256 }, (_, v) => v);
    const tags = [
      [258, 3, [16]],
      [259, 3, [1]],
      [262, 3, [1]],
      [277, 3, [1]],
      [34675, 7, [...profileOf(2)]],
    ] as const;
    near(
      await reds(tiffOf(256, 1, deep(grey), tags)),
      grey.map((v) => stored((v / 255) ** 2)),
      0.51,
    );
  });

  test("what sRGB stores comes back as it is", () => {
    for (const v of [0, 0.02, 0.3, 1]) expect(stored(light(v)) / 255).toBeCloseTo(v, 12);
  });
});

describe("TIFF", () => {
  const strip = Buffer.from([10, 20, 30, 40, 50, 60]);
  const rgb = (...more: [number, 1 | 3 | 4 | 7, number[]][]) =>
    tiffOf(2, 1, strip, [
      [258, 3, [8, 8, 8]],
      [259, 3, [1]],
      [277, 3, [3]],
      ...(more.some(([tag]) => tag === 262) ? [] : [[262, 3, [2]] as [number, 3, number[]]]),
      ...more,
    ]);

  test.each([0, 9, 77])("an orientation of %d means nothing", async (turn) => {
    const intake = await takeIn(rgb([274, 3, [turn]]));
    expect(intake.notes).toEqual([]);
    expect(Array.from((await intake.pixels()).data)).toEqual([10, 20, 30, 255, 40, 50, 60, 255]);
  });

  test("colours weighted by their alpha are given back", async () => {
    const file = tiffOf(1, 1, Buffer.from([100, 50, 0, 128]), [
      [258, 3, [8, 8, 8, 8]],
      [259, 3, [1]],
      [262, 3, [2]],
      [277, 3, [4]],
      [338, 3, [1]],
    ]);
    near(Array.from((await (await takeIn(file)).pixels()).data), [199.2, 99.6, 0, 128], 1);
  });

  test.each<[string, Buffer, RegExp]>([
    ["of a camera", rgb([50706, 1, [1, 4, 0, 0]]), /raw camera file.*Develop it/],
    ["with a thumbnail before the sensor's data", rgb([254, 4, [1]], [330, 4, [8]]), /raw camera file/],
    ["in YCbCr", rgb([262, 3, [6]]), /YCbCr/],
    ["in Lab", rgb([262, 3, [8]]), /Lab/],
    ["of numbers without a white", rgb([339, 3, [3, 3, 3]]), /no fixed white/],
    ["whose tags lie beyond its end", rgb().subarray(0, 20), /broken.*tags/],
  ])("%s is refused", async (_what, file, reason) => {
    await expect(takeIn(file)).rejects.toThrow(reason);
  });
});

describe("SVG", () => {
  const text =
    '<svg xmlns="http://www.w3.org/2000/svg" width="8" height="4"><rect width="8" height="4" fill="#123456"/></svg>';
  const wide = (swap: boolean) => {
    const out = Buffer.from(`\uFEFF${text}`, "utf16le");
    return swap ? out.swap16() : out;
  };
  test.each<[string, Buffer]>([
    ["with a byte-order mark", Buffer.from(`\uFEFF${text}`)],
    ["in UTF-16", wide(false)],
    ["in UTF-16 of the other order", wide(true)],
    [
      "in an encoding that it names",
      Buffer.from(`<?xml version="1.0" encoding="ISO-8859-1"?><!-- H\u00e4fen -->${text}`, "latin1"),
    ],
    [
      "with a prefix",
      Buffer.from(text.replace(/<(\/?)(svg|rect)/g, "<$1q:$2").replace("xmlns=", "xmlns:q=")),
    ],
    ["after a long comment", Buffer.from(`<!--${"x".repeat(5000)}-->${text}`)],
  ])("%s is a drawing", async (_what, file) => {
    const intake = await takeIn(file);
    expect(intake.facts).toMatchObject({ width: 8, height: 4, vector: true });
    expect(Array.from((await intake.pixels(8)).data.subarray(0, 4))).toEqual([0x12, 0x34, 0x56, 255]);
  });

  test.each([
    text.replace('width="8"', 'width="1e9"'),
    text.replace('width="8" height="4"', 'viewBox="0 0 1e9 1e9"'),
  ])("beyond all size is refused with what is allowed", async (huge) => {
    await expect(takeIn(Buffer.from(huge))).rejects.toThrow(/1000000000 x.*65535 or less/);
  });
});

describe("GIF", () => {
  const gif = async () =>
    sharp({ create: { width: 3, height: 2, channels: 3, background: "#f00" } })
      .gif()
      .toBuffer();
  const onCanvas = (file: Buffer, width: number, height: number): Buffer => {
    const out = Buffer.from(file);
    out.writeUInt16LE(width, 6);
    out.writeUInt16LE(height, 8);
    return out;
  };

  test("a first picture smaller than its canvas stands in its corner, clear around it", async () => {
    const intake = await takeIn(onCanvas(await gif(), 5, 4));
    expect(intake.facts).toMatchObject({ width: 5, height: 4 });
    const { data } = await intake.pixels();
    const alpha = Array.from({ length: 20 }, (_, i) => data[i * 4 + 3]);
    expect(alpha).toEqual([255, 255, 255, 0, 0, 255, 255, 255, ...Array<number>(12).fill(0)]);
    expect(data[0]).toBe(255);
  });

  test("its canvas counts, not its picture", async () => {
    await expect(takeIn(onCanvas(await gif(), 65535, 65535))).rejects.toThrow(/65535 x 65535/);
  });
});

test("a JPEG whose lower half is gone, closed as if it were whole, is taken with a word about it", async () => {
  const samples = Buffer.from(Uint8Array.from({ length: 300 * 200 * 3 }, (_, i) => (i * 37) % 251));
  const whole = await sharp(samples, { raw: { width: 300, height: 200, channels: 3 } })
    .jpeg()
    .toBuffer();
  const closed = Buffer.concat([whole.subarray(0, whole.length / 2), Buffer.from([0xff, 0xd9])]);
  const intake = await takeIn(closed);
  await intake.pixels();
  expect(intake.notes.join()).toMatch(/damaged, look whether all of it is there/);
  const fine = await takeIn(whole);
  await fine.pixels();
  expect(fine.notes).toEqual([]);
});

test.each([
  [1, 70000],
  [70000, 1],
])("%d x %d pixels: refused with what is allowed", async (width, height) => {
  const file = await sharp({ create: { width, height, channels: 3, background: "#888" } })
    .png()
    .toBuffer();
  await expect(takeIn(file)).rejects.toThrow(`${width} x ${height} pixels; 65535 or less a side is taken.`);
});
