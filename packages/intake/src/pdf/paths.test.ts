import { knotsFrom } from "@hardline/core/drawing/pathData";
import { pagesOf, pathsOf, takeIn } from "../intake";
import { pdfOf } from "../testing/pdfFile";

const PT = 25.4 / 72;
/** Layers as a file names them; the second says by the standard what it is for. */
const LAYERS = [
  ["/Type /OCG /Name (Art)"],
  [
    "/Type /OCG /Name (Outline 3) /GTS_Metadata << /Type /GTS_PSMetadata /GTS_ProcStepsGroup /Structural /GTS_ProcStepsType /Cutting >>",
  ],
  [
    "/Type /OCG /Name (Folds) /GTS_Metadata << /GTS_ProcStepsGroup /Structural /GTS_ProcStepsType /Creasing >>",
  ],
] as const;
const RESOURCES = "/Resources << /Properties << /A 100 0 R /B 101 0 R /C 102 0 R >> >>";
const CATALOG =
  "/OCProperties << /OCGs [100 0 R 101 0 R 102 0 R] /D << /Order [100 0 R 101 0 R 102 0 R] >> >>";
const layered = (content: string, more = "") =>
  pdfOf({ pages: [{ content, more: `${RESOURCES} ${more}` }], objects: [...LAYERS], catalog: CATALOG });

const CONTENT =
  "/OC /A BDC 1 0 0 rg 8 8 10 10 re f EMC " +
  "/OC /B BDC 0 0 1 RG 0.5 w 4 4 m 68 4 l 68 32 l 4 32 l h S EMC " +
  "/OC /C BDC 0 1 0 RG 36 4 m 36 32 l S EMC";

test("paths of a page are told by layer and colour, in mm from its upper left, what is cut first", async () => {
  const { widthMm, heightMm, groups } = await pathsOf(layered(CONTENT));
  expect([widthMm, heightMm]).toEqual([expect.closeTo(25.4, 6), expect.closeTo(12.7, 6)]);
  expect(groups.map((group) => ({ ...group, d: undefined }))).toEqual([
    {
      ...{ name: "Outline 3, cut", layer: "Outline 3", colour: "#0000ff" },
      ...{ painted: "lined", closed: 1, open: 0, cutting: true, d: undefined },
    },
    {
      ...{ name: "Art", layer: "Art", colour: "#ff0000" },
      ...{ painted: "filled", closed: 1, open: 0, cutting: false, d: undefined },
    },
    {
      ...{ name: "Folds", layer: "Folds", colour: "#00ff00" },
      ...{ painted: "lined", closed: 0, open: 1, cutting: false, d: undefined },
    },
  ]);
  const [outline] = knotsFrom(groups[0].d);
  expect(outline.closed).toBe(true);
  // 4 points from the left, 4 from the foot of 36
  const corners = [
    [4, 32],
    [68, 32],
    [68, 4],
    [4, 4],
  ].map(([x, y]) => [expect.closeTo(x * PT, 3), expect.closeTo(y * PT, 3)]);
  expect(outline.knots.map((k) => k.at)).toEqual(corners);
});

test("what is cut along is not drawn, and that is said; a fold is", async () => {
  const intake = await takeIn(layered(CONTENT));
  expect(intake.notes).toContain("cut lines left out: Outline 3");
  const { data, width } = await intake.pixels(144);
  const alpha = (x: number, y: number): number => data[(y * 2 * width + x * 2) * 4 + 3];
  // along the outline, in the art, and on the fold
  expect([alpha(20, 4), alpha(4, 20), alpha(13, 23), alpha(36, 20)].map((a) => a > 100)).toEqual([
    ...[false, false, true, true],
  ]);
  const plain = await takeIn(layered(CONTENT.replaceAll("/B BDC", "/A BDC")));
  expect(plain.notes.join()).not.toContain("left out");
});

test("a page that is turned, an edge of it, and a drawing within a drawing that is moved", async () => {
  const form = "/Type /XObject /Subtype /Form /BBox [0 0 50 50] /Matrix [2 0 0 2 0 0]";
  const file = pdfOf({
    pages: [
      {
        content: "1 0 0 1 10 0 cm /F Do",
        more: "/Rotate 90 /TrimBox [10 6 62 30] /Resources << /XObject << /F 100 0 R >> >>",
      },
    ],
    objects: [[form, Buffer.from("0 0 0 RG 2 4 m 6 4 l 6 10 l h S")]],
  });
  const { widthMm, heightMm, groups } = await pathsOf(file, { page: 1, box: "trim" });
  // 52 by 24 points, lying on its side
  expect([widthMm, heightMm]).toEqual([expect.closeTo(24 * PT, 4), expect.closeTo(52 * PT, 4)]);
  // (2, 4) twice as large and 10 on is (14, 8); shown it is 8 - 6 from the left and 14 - 10 from the top
  const [path] = knotsFrom(groups[0].d);
  expect(path.knots.map((k) => k.at)).toEqual(
    [
      [2, 4],
      [2, 12],
      [14, 12],
    ].map(([x, y]) => [expect.closeTo(x * PT, 3), expect.closeTo(y * PT, 3)]),
  );
});

test("a curve keeps its handles, and what is filled is closed by that", async () => {
  const { groups } = await pathsOf(pdfOf({ pages: [{ content: "0 g 10 10 m 10 20 30 20 30 10 c f" }] }));
  expect(groups).toHaveLength(1);
  expect([groups[0].closed, groups[0].open]).toEqual([1, 0]);
  const [path] = knotsFrom(groups[0].d);
  expect(path.closed).toBe(true);
  expect(path.knots[0].out).toEqual([0, expect.closeTo(-10 * PT, 3)]);
  expect(path.knots[1].in).toEqual([0, expect.closeTo(-10 * PT, 3)]);
});

test("shapes of one colour that lie over one another are sets of their own, and stay filled where they meet", async () => {
  const content = "1 0 0 rg 4 4 20 20 re f 14 14 20 20 re f 50 4 10 10 re f";
  const { groups } = await pathsOf(pdfOf({ pages: [{ content }] }));
  expect(groups.map(({ name, closed }) => [name, closed])).toEqual([
    ["shapes #ff0000", 2],
    ["shapes #ff0000, 2", 1],
  ]);
});

test("marks beside the edge that counts are left out, lines on it are not", async () => {
  const content = "0 G 2 0 m 2 5 l S 10 10 m 62 10 l S 0 20 m 9 20 l S";
  const file = pdfOf({ pages: [{ content, more: "/TrimBox [10 6 62 30]" }] });
  const { groups } = await pathsOf(file, { page: 1, box: "trim" });
  expect(groups.map(({ open, d }) => [open, knotsFrom(d).length])).toEqual([[1, 1]]);
  expect((await pathsOf(file)).groups[0].open).toBe(3);
});

test("letters and what only clips are no paths", async () => {
  const content = "q 0 0 10 10 re W n 0 g BT /F1 12 Tf 5 5 Td (words) Tj ET Q";
  const more = "/Resources << /Font << /F1 << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >>";
  expect((await pathsOf(pdfOf({ pages: [{ content, more }] }))).groups).toEqual([]);
});

test("an SVG and a DXF have paths too; a picture has none, and says so", async () => {
  const svg = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="20mm" viewBox="0 0 40 20"><path id="cut" fill="none" stroke="#ff00ff" d="M1 1H39V19H1Z"/><path id="art" fill="#112233" d="M5 5H9V9Z"/></svg>',
  );
  const { widthMm, groups } = await pathsOf(svg);
  expect(widthMm).toBe(40);
  expect(groups.map((g) => [g.layer, g.cutting, g.closed])).toEqual([
    ["cut", true, 1],
    ["art", false, 1],
  ]);
  const png = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNgAAAAAgABSK+kcQAAAABJRU5ErkJggg==",
    "base64",
  );
  await expect(pathsOf(png)).rejects.toThrow("A PNG is made of pixels and has no paths.");
});

test.each([
  ["plain", Buffer.from("%!PS\n%%BoundingBox: 0 0 10 10\n")],
  ["behind a small picture", Buffer.from([0xc5, 0xd0, 0xd3, 0xc6, 30, 0, 0, 0])],
])("an EPS, %s, is refused with what to do instead", async (_what, file) => {
  await expect(takeIn(file)).rejects.toThrow(
    "An EPS or PostScript file is not read. Save it as PDF from the program that made it: its shapes stay shapes.",
  );
});

describe("layers", () => {
  const hidden = CATALOG.replace("/D <<", "/D << /OFF [100 0 R]");
  const hiding = pdfOf({
    pages: [{ content: CONTENT, more: RESOURCES }],
    objects: [...LAYERS],
    catalog: hidden,
  });
  /** Whether the outline, the art and the fold are drawn. */
  const drawn = async (file: Buffer, layers?: string[]): Promise<[boolean[], readonly string[]]> => {
    const intake = await takeIn(file, { page: 1, box: "crop", ...(layers && { layers }) });
    const { data, width } = await intake.pixels(144);
    const places = [
      [20, 4],
      [13, 23],
      [36, 20],
    ];
    return [places.map(([x, y]) => data[(y * 2 * width + x * 2) * 4 + 3] > 100), intake.notes];
  };

  test("are told for each page: shown or not, and cut along", async () => {
    const [page] = await pagesOf(hiding);
    expect(page.layers).toEqual([
      { name: "Art", drawn: false, cut: false },
      { name: "Outline 3", drawn: false, cut: true },
      { name: "Folds", drawn: true, cut: false },
    ]);
    expect((await pagesOf(pdfOf({ pages: [{ content: "0 0 9 9 re f" }] })))[0].layers).toEqual([]);
  });

  test("are drawn as the file shows them, but for what is cut", async () => {
    expect(await drawn(layered(CONTENT))).toEqual([[false, true, true], expect.anything()]);
    expect(await drawn(hiding)).toEqual([[false, false, true], expect.anything()]);
  });

  test("are drawn as they are asked for, hidden ones too, and that is said", async () => {
    const [seen, notes] = await drawn(hiding, ["Art", "Outline 3"]);
    expect(seen).toEqual([true, true, false]);
    expect(notes).toEqual(
      expect.arrayContaining(["layers left out: Folds", "layers shown that the file hides: Art"]),
    );
    expect((await drawn(layered(CONTENT), []))[0]).toEqual([false, false, false]);
  });

  test("make another artwork of the same file, whatever the order they are named in", async () => {
    const of = async (layers?: string[]) =>
      (await takeIn(hiding, { page: 1, box: "crop", ...(layers && { layers }) })).facts.sha256;
    expect(await of(["Folds", "Art"])).toBe(await of(["Art", "Folds"]));
    expect(await of(["Art"])).toMatch(/#page=1&layers=Art$/);
    expect(await of()).not.toContain("#");
  });

  test("that the page has not are refused with those that it has", async () => {
    await expect(takeIn(hiding, { page: 1, box: "crop", layers: ["Gold"] })).rejects.toThrow(
      'layers has "Gold"; page 1 has Art, Outline 3, Folds.',
    );
  });
});
