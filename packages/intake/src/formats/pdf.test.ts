import { PDFDocument, PDFName, PDFNumber } from "pdf-lib";
import { type Rgba } from "@hardline/core/raster/types";
import { IntakeError } from "../errors";
import { type Part } from "../pages";
import { pdfOf, type PdfPage } from "../testing/pdfFile";
import { pagesOf, pathsOf, takeIn } from "../intake";

const at = ({ width, data }: Rgba, x: number, y: number): number[] =>
  Array.from(data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4));
const drawn = async (file: Uint8Array, width?: number, part?: Part): Promise<Rgba> =>
  (await takeIn(file, part)).pixels(width);
const refusal = async (file: Uint8Array, part?: Part): Promise<string> => {
  try {
    await drawn(file, undefined, part);
  } catch (error) {
    if (error instanceof IntakeError) return error.message;
    throw error;
  }
  return "taken";
};
const one = (content: string, more?: string): Buffer => pdfOf({ pages: [{ content, more }] });
const [RED, BLUE, CLEAR] = [
  [255, 0, 0, 255],
  [0, 0, 255, 255],
  [0, 0, 0, 0],
];
/** An inch wide: red on the left, nothing, blue at the right end of the upper half. */
const FLAG = "1 0 0 rg 0 0 18 36 re f 0 0 1 rg 54 18 18 18 re f";

test("a page is drawn at its size and at any other, on nothing", async () => {
  const intake = await takeIn(one(FLAG));
  expect(intake).toMatchObject({
    pages: 1,
    kind: { name: "PDF" },
    facts: { width: 300, height: 150, vector: true },
  });
  expect(intake.widthMm).toBeCloseTo(25.4, 4);
  expect(intake.notes).toEqual(["25.4 × 12.7 mm", "drawn from shapes"]);
  for (const width of [300, 720, 31]) {
    const picture = await intake.pixels(width);
    expect([picture.width, picture.height]).toEqual([width, Math.max(1, Math.round(width / 2))]);
    const of = (x: number, y: number) => at(picture, Math.floor(x * width), Math.floor((y * width) / 2));
    expect([of(0.1, 0.9), of(0.5, 0.5), of(0.9, 0.2), of(0.9, 0.8)]).toEqual([RED, CLEAR, BLUE, CLEAR]);
  }
});

test("what is seen through stays so: colour and cover apart", async () => {
  const resources = "/Resources << /ExtGState << /G << /ca 0.5 >> /M << /BM /Multiply >> >> >>";
  const half = await drawn(one("/G gs 0 0 1 rg 0 0 72 36 re f", resources));
  const [r, g, b, a] = at(half, 40, 20);
  expect([r, g, b]).toEqual([0, 0, 255]);
  expect(Math.abs(a - 127.5)).toBeLessThanOrEqual(1);
  const multiplied = "1 1 0 rg 0 0 72 36 re f /M gs 0 1 1 rg 0 0 36 36 re f";
  const over = await drawn(one(multiplied, resources));
  expect([at(over, 60, 70), at(over, 250, 70)]).toEqual([
    [0, 255, 0, 255],
    [255, 255, 0, 255],
  ]);
});

test.each([
  [
    0,
    [72, 36],
    [
      [0.1, 0.9, RED],
      [0.9, 0.2, BLUE],
    ],
  ],
  [
    90,
    [36, 72],
    [
      [0.1, 0.1, RED],
      [0.8, 0.9, BLUE],
    ],
  ],
  [
    180,
    [72, 36],
    [
      [0.9, 0.1, RED],
      [0.1, 0.8, BLUE],
    ],
  ],
  [
    270,
    [36, 72],
    [
      [0.9, 0.9, RED],
      [0.2, 0.1, BLUE],
    ],
  ],
] as const)("a page turned by %d degrees is shown so", async (turned, [w, h], places) => {
  const intake = await takeIn(one(FLAG, `/Rotate ${turned}`));
  expect([intake.facts.width, intake.facts.height]).toEqual([(w * 300) / 72, (h * 300) / 72]);
  const picture = await intake.pixels();
  for (const [x, y, colour] of places)
    expect(at(picture, Math.floor(x * picture.width), Math.floor(y * picture.height))).toEqual(colour);
});

test.each([0, 90, 180, 270])("edges are those of the file, the page turned by %d degrees", async (turned) => {
  // Crop 10..62 x 4..34 within the paper; trim 15..57 x 9..29; each filled with its colour.
  const fill = "0 1 0 rg 10 4 52 30 re f 1 0 0 rg 15 9 42 20 re f 0 0 1 rg 15 9 6 6 re f";
  const file = one(
    fill,
    `/CropBox [10 4 62 34] /TrimBox [15 9 57 29] /BleedBox [10 4 62 34] /Rotate ${turned}`,
  );
  const [{ boxes }] = await pagesOf(file);
  const size = (w: number, h: number) => (turned % 180 === 0 ? [w, h] : [h, w]).map((v) => (v / 72) * 25.4);
  expect(boxes.map((b) => b.box)).toEqual(["crop", "trim"]); // the bleed is where the crop is
  for (const [k, [w, h]] of [
    [52, 30],
    [42, 20],
  ].entries()) {
    expect(boxes[k].widthMm).toBeCloseTo(size(w, h)[0], 3);
    expect(boxes[k].heightMm).toBeCloseTo(size(w, h)[1], 3);
  }
  const trim = await drawn(file, turned % 180 === 0 ? 420 : 200, { page: 1, box: "trim" });
  const colours = [
    [2, 2],
    [trim.width - 3, 2],
    [2, trim.height - 3],
    [trim.width - 3, trim.height - 3],
  ].map(([x, y]) => at(trim, x, y).join());
  expect(colours.filter((c) => c === RED.join())).toHaveLength(3);
  // The blue corner is at the lower left, and goes round clockwise with the page.
  expect(colours.indexOf(BLUE.join())).toBe([2, 0, 1, 3][turned / 90]);
  expect((await takeIn(file, { page: 1, box: "trim" })).notes[0]).toMatch(/, as cut$/);
});

describe("a picture alone on a page", () => {
  const [w, h] = [7, 5];
  const rgb = Uint8Array.from({ length: w * h * 3 }, (_, i) => (i * 53) % 256);
  const mask = Uint8Array.from({ length: w * h }, (_, i) => 255 - ((i * 29) % 256));
  const picture = `/Type /XObject /Subtype /Image /Width ${w} /Height ${h} /BitsPerComponent 8 /ColorSpace /DeviceRGB`;
  const named = "/Resources << /XObject << /P 100 0 R >> >>";
  const file = (content: string, more = "", masked = false): Buffer =>
    pdfOf({
      pages: [{ content, more: `${named} ${more}` }],
      objects: [
        [masked ? `${picture} /SMask 101 0 R` : picture, rgb],
        [picture.replace("/DeviceRGB", "/DeviceGray"), mask],
      ],
    });

  test.each([
    ["over the whole page", "72 0 0 36 0 0 cm /P Do"],
    ["with a margin round it", "30 0 0 20 11 7 cm /P Do"],
  ])("%s is that picture, to the bit", async (_, content) => {
    const intake = await takeIn(file(`q ${content} Q`));
    expect(intake.facts).toMatchObject({ width: w, height: h, vector: false });
    expect(intake.widthMm).toBeCloseTo(((content.startsWith("72") ? 72 : 30) / 72) * 25.4, 3);
    const { data } = await intake.pixels();
    for (let i = 0; i < w * h; i++)
      expect(Array.from(data.subarray(i * 4, i * 4 + 4))).toEqual([...rgb.subarray(i * 3, i * 3 + 3), 255]);
  });

  test("turned with its page, its pixels are turned", async () => {
    const { width, height, data } = await drawn(file("q 72 0 0 36 0 0 cm /P Do Q", "/Rotate 90"));
    expect([width, height]).toEqual([h, w]);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const o = (x * h + (h - 1 - y)) * 4;
        expect(Array.from(data.subarray(o, o + 3))).toEqual(
          Array.from(rgb.subarray((y * w + x) * 3, (y * w + x) * 3 + 3)),
        );
      }
  });

  test("keeps its soft mask", async () => {
    const { data } = await drawn(file("q 72 0 0 36 0 0 cm /P Do Q", "", true));
    for (let i = 0; i < w * h; i++) expect(data[i * 4 + 3]).toBe(mask[i]);
  });

  test("of one bit is as it is", async () => {
    const bits = Buffer.from([0b10110010, 0b01000000, 0b11111111, 0b11000000]);
    const bitmap =
      "/Type /XObject /Subtype /Image /Width 10 /Height 2 /BitsPerComponent 1 /ColorSpace /DeviceGray";
    const pages = [{ content: "q 50 0 0 10 0 0 cm /P Do Q", more: named }];
    const { width, data } = await drawn(pdfOf({ pages, objects: [[bitmap, bits]] }));
    expect(width).toBe(10);
    const grey = Array.from({ length: 20 }, (_, i) => data[i * 4]);
    expect(grey.map((v) => (v === 255 ? 1 : v === 0 ? 0 : v)).join("")).toBe("10110010011111111111");
  });

  test("with a word beside it is a page of shapes", async () => {
    const intake = await takeIn(file("q 30 0 0 20 0 0 cm /P Do Q 0 0 1 rg 50 0 9 9 re f"));
    expect(intake.facts).toMatchObject({ width: 300, vector: true });
  });
});

describe("a file of several pages", () => {
  const pages: PdfPage[] = ["1 0 0", "0 1 0", "0 0 1"].map((c, k) => ({
    content: `${c} rg 0 0 500 500 re f`,
    more: `/MediaBox [0 0 ${72 * (k + 1)} 36]`,
  }));
  const file = pdfOf({ pages });

  test("tells them, and each is an artwork of its own", async () => {
    expect((await pagesOf(file)).map((p) => Math.round(p.boxes[0].widthMm))).toEqual([25, 51, 76]);
    const second = await takeIn(file, { page: 2, box: "crop" });
    expect(second.facts).toMatchObject({ width: 600, height: 150 });
    expect(second.notes[0]).toBe("page 2 of 3");
    expect(at(await second.pixels(), 100, 20)).toEqual([0, 255, 0, 255]);
    const [first, whole] = [await takeIn(file), second.facts.sha256];
    expect(whole).toBe(`${first.facts.sha256}#page=2`);
  });

  test.each([
    [{ page: 4, box: "crop" }, "page is 4; allowed: a whole number 1 to 3."],
    [{ page: 0, box: "crop" }, "page is 0; allowed: a whole number 1 to 3."],
    [{ page: 1.5, box: "crop" }, "page is 1.5; allowed: a whole number 1 to 3."],
    [{ page: 2, box: "trim" }, "box is trim; page 2 has crop alone."],
  ] as const)("refuses %j", async (part, reason) => expect(await refusal(file, part)).toBe(reason));
});

describe("files that are not as they should be", () => {
  test("a broken table of contents is made up for", async () => {
    const text = one(FLAG).toString("latin1");
    const off = Buffer.from(text.replace(/startxref\n\d+/, "startxref\n7"), "latin1");
    expect(at(await drawn(off), 5, 30)).toEqual(RED);
    expect(at(await drawn(Buffer.from(text.slice(0, text.indexOf("xref")), "latin1")), 5, 30)).toEqual(RED);
  });

  test("what comes before its mark is passed over; scripts and what is to open are not looked at", async () => {
    expect(
      at(await drawn(Buffer.concat([Buffer.from("Content-Type: x\r\n\r\n"), one(FLAG)])), 5, 30),
    ).toEqual(RED);
    const catalog =
      "/OpenAction << /S /JavaScript /JS (app.alert\\(1\\)) >> /AA << /WC << /S /Launch /F (x) >> >>";
    expect(at(await drawn(pdfOf({ pages: [{ content: FLAG }], catalog })), 5, 30)).toEqual(RED);
  });

  test.each([
    ["a letter alone", Buffer.from("%PDF-1.7\n"), /The PDF file is broken and cannot be read whole/],
    ["no page", pdfOf({ pages: [] }), /it has no page/],
    ["half of it", one(FLAG).subarray(0, 90), /The PDF file is broken/],
    [
      "a lock",
      pdfOf({
        pages: [{ content: FLAG }],
        trailer: `/ID [<00112233445566778899aabbccddeeff> <00112233445566778899aabbccddeeff>] /Encrypt << /Filter /Standard /V 1 /R 2 /P -4 /O <${"ab".repeat(32)}> /U <${"cd".repeat(32)}> >>`,
      }),
      /A PDF that is locked with a password is not read. Save it without one./,
    ],
    [
      "a page that is its own parent",
      pdfOf({ pages: [{ content: FLAG, more: "/Kids [10 0 R] /Type /Pages" }] }),
      /page 1 cannot be found in it/,
    ],
  ])("%s is told", async (_, file, reason) => expect(await refusal(file)).toMatch(reason));

  test("deep nesting, loops and huge numbers end", async () => {
    const deep = one(`${"q ".repeat(200000)}${FLAG}`);
    expect(await refusal(deep)).toBe("taken");
    const loop = pdfOf({
      pages: [{ content: "/F Do", more: "/Resources << /XObject << /F 100 0 R >> >>" }],
      objects: [
        [
          "/Type /XObject /Subtype /Form /BBox [0 0 72 36] /Resources << /XObject << /F 100 0 R >> >>",
          Buffer.from("/F Do"),
        ],
      ],
    });
    expect(await refusal(loop)).toBe("taken");
    const vast = await takeIn(one(FLAG, "/MediaBox [0 0 99999999 99999999]"));
    expect(vast.facts.width * vast.facts.height).toBeLessThan(41e6);
    await expect(vast.pixels(70000)).rejects.toThrow(/pixels; 65535 or less a side is taken/);
  });

  test("other files have no pages to choose from", async () => {
    const svg = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>');
    expect(await refusal(svg, { page: 2, box: "crop" })).toBe(
      "page is 2, box is crop; a SVG is taken whole.",
    );
  });
});

test.each([
  ["in plain words", false],
  ["within a stream of objects", true],
])("a page whose unit is ten points is ten times as large, told %s", async (_how, packed) => {
  const pdf = await PDFDocument.create();
  const page = pdf.addPage([720, 360]);
  page.node.set(PDFName.of("UserUnit"), PDFNumber.of(10));
  page.drawRectangle({ x: 0, y: 0, width: 360, height: 360 });
  const file = Buffer.from(await pdf.save({ useObjectStreams: packed }));
  expect(file.includes("/UserUnit")).toBe(!packed);
  const intake = await takeIn(file);
  expect(intake.widthMm).toBeCloseTo(2540, 6);
  expect(intake.notes).toContain("2540 × 1270 mm");
  const [{ boxes }] = await pagesOf(file);
  expect(boxes).toEqual([
    { box: "crop", widthMm: expect.closeTo(2540, 6), heightMm: expect.closeTo(1270, 6) },
  ]);
  const { groups } = await pathsOf(file);
  expect(Math.max(...(groups[0].d.match(/[\d.]+/g) ?? []).map(Number))).toBeCloseTo(1270, 3);
});
