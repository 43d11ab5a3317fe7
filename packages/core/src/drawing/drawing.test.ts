import DxfParser from "dxf-parser";
import fc from "fast-check";
import { PDFDocument } from "pdf-lib";
import { unzlibSync } from "fflate";
import { writeDxf } from "../format/dxf";
import { PLOTTER_MM, writeHpgl } from "../format/hpgl";
import { packedPlanes } from "../format/pack";
import { writePathsPdf } from "../format/pathsPdf";
import { writePathsSvg } from "../format/svg";
import { runToEnd } from "../maths/work";
import { flattened, ringsOf } from "../path/flatten";
import { rectangleKnots, roundKnots } from "../path/outline";
import { boxWith, knotPathsOf, pathSetOf, type KnotPath, type PathSet } from "../path/pathSet";
import { areaOf, ringArea } from "../polygon/rings";
import { arcKnots } from "./arcs";
import { DrawingError } from "./drawing";
import { readDxfDrawing } from "./readDxf";
import { readSvgDrawing } from "./readSvg";

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const cut = pathSetOf(
  { name: "cut", use: "kiss", colour: 0x1f45c4, pass: { name: "cut", power: 40, speed: 12.5 } },
  [
    { knots: roundKnots(-3.3333, 5, 40.123, 30), closed: true },
    { knots: rectangleKnots(5, 8, 11.1111, 7), closed: true },
    {
      knots: [
        { at: [1, 1], out: [4, 0] },
        { at: [9, 3], in: [0, -2] },
      ],
      closed: false,
    },
  ],
);
const box = boxWith([cut], 50, 50);

/** Greatest distance of any flattened point of one set from the lines of another. */
function strayOf(a: PathSet, b: PathSet): number {
  const lines = (set: PathSet) => flattened(set, 0.0002).map((line) => line.points);
  const others = lines(b);
  let stray = 0;
  lines(a).forEach((ring, k) => {
    for (let i = 0; i < ring.length; i += 6)
      stray = Math.max(stray, distanceTo(others[k], ring[i], ring[i + 1]));
  });
  return stray;
}
function distanceTo(ring: Float64Array, x: number, y: number): number {
  let best = Infinity;
  for (let k = 0; k + 3 < ring.length; k += 2) {
    const [dx, dy] = [ring[k + 2] - ring[k], ring[k + 3] - ring[k + 1]];
    const t = Math.max(
      0,
      Math.min(1, ((x - ring[k]) * dx + (y - ring[k + 1]) * dy) / (dx * dx + dy * dy || 1)),
    );
    best = Math.min(best, Math.hypot(ring[k] + t * dx - x, ring[k + 1] + t * dy - y));
  }
  return best;
}

describe("our own files come back the same within a micrometre", () => {
  test("SVG, with its size, use and pass", () => {
    const { widthMm, sets } = readSvgDrawing(
      text(runToEnd(writePathsSvg([cut], box.width, box.height, box.x, box.y))),
    );
    expect(widthMm).toBeCloseTo(box.width, 3);
    expect(sets).toMatchObject([
      { name: "cut", use: "kiss", colour: 0x1f45c4, pass: { power: 40, speed: 12.5 } },
    ]);
    expect(Array.from(sets[0].closed)).toEqual([1, 1, 0]);
    const moved = { ...sets[0], points: sets[0].points.map((v, k) => v + (k % 2 ? box.y : box.x)) };
    expect(strayOf(cut, moved)).toBeLessThan(0.001);
    expect(moved.points).toHaveLength(cut.points.length);
  });
  test("DXF, as another reader sees it too", () => {
    const written = text(runToEnd(writeDxf([cut], box)));
    const { widthMm, heightMm, sets } = readDxfDrawing(written);
    expect([widthMm, heightMm]).toEqual([expect.closeTo(box.width, 4), expect.closeTo(box.height, 4)]);
    expect(sets.map((s) => s.name)).toEqual(["CUT"]);
    // An open path comes first or last; compare each with its like.
    const order = [...sets[0].closed.keys()].sort((a, b) => sets[0].closed[b] - sets[0].closed[a]);
    expect(order.map((k) => sets[0].closed[k])).toEqual([1, 1, 0]);
    const moved = pathSetOf(
      sets[0],
      order.map((k) => shifted(knotPathsOf(sets[0])[k], box.x, box.y)),
    );
    expect(strayOf(cut, moved)).toBeLessThan(0.001);
    const { header, entities } = new DxfParser().parseSync(written)!;
    expect(header.$INSUNITS).toBe(4);
    expect(entities.map((e) => e.layer)).toEqual(["CUT", "CUT", "CUT"]);
  });
});
const shifted = ({ knots, closed }: KnotPath, x: number, y: number): KnotPath => ({
  closed,
  knots: knots.map((k) => ({ ...k, at: [k.at[0] + x, k.at[1] + y] as const })),
});

test("HP-GL is in whole plotter units, y upwards, and goes on past the beginning by the overcut", () => {
  const plot = text(runToEnd(writeHpgl([cut, { ...cut, name: "two" }], box)));
  expect(plot.startsWith("IN;\nSP1;\nPU")).toBe(true);
  expect(plot).toContain("SP2;");
  const strokes = [...plot.matchAll(/PU([-\d]+),([-\d]+);\nPD([-\d,]+);/g)].slice(0, 3);
  const square = strokes[1][3].split(",").map(Number);
  // From the top left of the rectangle, 5 and 8 mm from the piece's; the page is taller and wider by what lies outside.
  const unit = (mm: number) => Math.round(mm / PLOTTER_MM);
  expect(strokes[1].slice(1, 3).map(Number)).toEqual([unit(5 - box.x), unit(box.y + box.height - 8)]);
  expect(square.slice(0, 2)).toEqual([unit(16.1111 - box.x), unit(box.y + box.height - 8)]);
  expect(square.slice(-2)).toEqual(strokes[1].slice(1, 3).map(Number));
  const over = [...text(runToEnd(writeHpgl([{ ...cut, overcutMm: 2 }], box))).matchAll(/PD([-\d,]+);/g)][1][1]
    .split(",")
    .map(Number);
  expect(over.slice(-2)).toEqual([unit(7 - box.x), unit(box.y + box.height - 8)]);
});

test("a PDF has every set as a spot colour on a layer that says its processing step", async () => {
  const picture = { width: 2, height: 1, data: Uint8Array.from([255, 0, 0, 255, 0, 0, 255, 128]) };
  const packed = runToEnd(packedPlanes(picture));
  expect(Array.from(unzlibSync(packed.colour))).toEqual([255, 0, 0, 0, 0, 255]);
  expect(Array.from(unzlibSync(packed.alpha))).toEqual([255, 128]);
  const under = { picture, ...packed, x: 0, y: 0, width: 20, height: 10 };
  const fill = { ...cut, name: "black", use: "fill" as const };
  const bytes = await writePathsPdf([cut, { ...cut, name: "hole", use: "through" }, fill], box, under);
  const pdf = await PDFDocument.load(bytes);
  expect(pdf.getPage(0).getWidth()).toBeCloseTo((box.width * 72) / 25.4, 3);
  const raw = Buffer.from(bytes).toString("latin1");
  expect([...raw.matchAll(/GTS_ProcStepsType \/(\w+)/g)].map((m) => m[1])).toEqual([
    "PartialCutting",
    "Cutting",
  ]);
  expect([...raw.matchAll(/\/Separation \/(\w+) \/DeviceRGB/g)].map((m) => m[1])).toEqual([
    "cut",
    "hole",
    "black",
  ]);
});

describe("drawings of others", () => {
  const svg = (body: string, head = 'width="100mm" height="50mm" viewBox="0 0 200 100"') =>
    readSvgDrawing(`<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" ${head}>${body}</svg>`);
  test.each([
    ['<rect x="10" y="10" width="40" height="20"/>', 20 * 10],
    ['<rect x="10" y="10" width="40" height="20" rx="10"/>', 10 * 10 + Math.PI * 25],
    ['<circle cx="50" cy="50" r="20"/>', Math.PI * 100],
    ['<ellipse cx="50" cy="50" rx="20" ry="10"/>', Math.PI * 50],
    ['<polygon points="0,0 40,0 0,40"/>', 200],
    ['<g transform="translate(10 5) scale(2)"><path d="M0 0h10v10h-10z"/></g>', 100],
    ['<path d="m10 10 20 0q10 0 10 10t-10 10l-20 0z"/>', 10 * 10 + (100 - 50 / 3) / 2],
    [
      '<g style="display:none"><rect width="9" height="9"/></g><rect width="20" height="20" fill="#FF0000"/>',
      100,
    ],
    ['<defs><rect width="99" height="99"/></defs><rect width="20" height="20"/>', 100],
  ])("SVG: %s", (body, area) => {
    const { widthMm, heightMm, sets } = svg(body);
    expect([widthMm, heightMm]).toEqual([100, 50]);
    expect(Math.abs(areaOf(sets.flatMap((s) => ringsOf(s, 0.0005)))) / area).toBeCloseTo(1, 3);
  });
  test("SVG: lines are lines, groups are sets, sizes come in any unit", () => {
    const { sets, widthMm } = svg(
      '<g id="a" fill="none" stroke="#123456"><line x1="0" y1="0" x2="10" y2="0"/></g><g id="b"><circle r="4"/></g>',
      'width="2in" height="1in"',
    );
    expect(widthMm).toBeCloseTo(50.8, 6);
    expect(sets).toMatchObject([
      { name: "a", use: "through", colour: 0x123456 },
      { name: "b", use: "fill" },
    ]);
    expect(Array.from(sets[0].points.subarray(6))[0]).toBeCloseTo((10 * 25.4) / 96, 6);
  });
  const dxf = (...lines: (string | number)[]) =>
    readDxfDrawing(["0", "SECTION", "2", "ENTITIES", ...lines, "0", "ENDSEC", "0", "EOF"].join("\n"));
  test("DXF: lines and arcs that meet are one closed path; circles and ellipses come out round", () => {
    const line = (x1: number, y1: number, x2: number, y2: number) => [
      0,
      "LINE",
      8,
      "A",
      10,
      x1,
      20,
      y1,
      11,
      x2,
      21,
      y2,
    ];
    const { sets, widthMm, heightMm } = dxf(
      ...line(0, 0, 20, 0),
      ...line(20, 10, 0, 10),
      ...[0, "ARC", 8, "A", 10, 20, 20, 5, 40, 5, 50, 270, 51, 90],
      ...line(0, 10, 0, 0),
      ...[0, "CIRCLE", 8, "B", 10, 8, 20, 5, 40, 2],
      ...[0, "ELLIPSE", 8, "C", 10, 8, 20, 5, 11, 3, 21, 0, 40, 0.5, 41, 0, 42, 2 * Math.PI],
    );
    expect([widthMm, heightMm]).toEqual([expect.closeTo(25, 3), expect.closeTo(10, 3)]);
    const areas = sets.map((s) => ringsOf(s, 0.0005).map((r) => Math.abs(ringArea(r))));
    expect(areas[0]).toEqual([expect.closeTo(200 + (Math.PI * 25) / 2, 1)]);
    expect(areas[1][0]).toBeCloseTo(Math.PI * 4, 2);
    expect(areas[2][0]).toBeCloseTo(Math.PI * 3 * 1.5, 2);
  });
  test.each([
    [1, Math.PI * 50],
    [-1, -Math.PI * 50],
    [0.4142136, (Math.PI * 50) / 2 - 50],
  ])("DXF: a bulge of %d is an arc of the right size, to the right side", (bulge, area) => {
    // Two points 20 apart (10 root 2 for a quarter); the arc leaves to the right of the way for a bulge above 0.
    const x = Math.abs(bulge) === 1 ? 20 : 10 * Math.SQRT2;
    const { sets } = dxf(...[0, "LWPOLYLINE", 8, "A", 90, 2, 70, 1, 10, 0, 20, 0, 42, bulge, 10, x, 20, 0]);
    const [ring] = ringsOf(sets[0], 0.0005);
    expect(-ringArea(ring)).toBeCloseTo(area, 1);
  });
  test("DXF: units, and a spline by its control points", () => {
    const spline = [
      0,
      "SPLINE",
      8,
      "A",
      70,
      8,
      71,
      3,
      72,
      8,
      73,
      4,
      ...[0, 0, 0, 0, 1, 1, 1, 1].flatMap((k) => [40, k]),
    ];
    const at = [
      [0, 0],
      [0, 10],
      [10, 10],
      [10, 0],
    ].flatMap(([x, y]) => [10, x, 20, y]);
    const inches = ["0", "SECTION", "2", "HEADER", "9", "$INSUNITS", "70", "1", "0", "ENDSEC"];
    const drawing = readDxfDrawing(
      [...inches, 0, "SECTION", 2, "ENTITIES", ...spline, ...at, 0, "ENDSEC", 0, "EOF"].join("\n"),
    );
    expect(drawing.widthMm).toBeCloseTo(254, 1);
    expect(drawing.heightMm).toBeCloseTo(7.5 * 25.4, 1);
  });
  test("what is none, or has no size or shapes, is refused in words", () => {
    for (const [read, given] of [
      [readSvgDrawing, "no drawing"],
      [readSvgDrawing, "<svg></svg>"],
      [readSvgDrawing, '<svg width="10mm" height="10mm"><path d="M0 0 L nonsense"/></svg>'],
      [readSvgDrawing, '<svg width="0" height="10mm"/>'],
      [readDxfDrawing, ""],
      [readDxfDrawing, "no drawing\nat all"],
      [readDxfDrawing, "0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF"],
    ] as const)
      expect(() => read(given)).toThrow(DrawingError);
  });
});

test("arcs stay on their ellipse", () => {
  fc.assert(
    fc.property(
      fc.double({ min: -2, max: 2, noNaN: true }),
      fc.double({ min: 0.05, max: 2, noNaN: true }),
      (from, turn) => {
        const knots = arcKnots([1, 2], [30, 0], [0, 30], from, from + turn);
        const set = pathSetOf(cut, [{ knots, closed: false }]);
        for (let k = 0; k < set.points.length; k += 6)
          expect(Math.hypot(set.points[k] - 1, set.points[k + 1] - 2)).toBeCloseTo(30, 9);
        const [line] = ringsOf({ ...set, closed: Uint8Array.of(1) }, 0.001);
        for (let k = 0; k < line.length; k += 2)
          expect(Math.abs(Math.hypot(line[k] - 1, line[k + 1] - 2) - 30)).toBeLessThan(0.01);
      },
    ),
  );
});
