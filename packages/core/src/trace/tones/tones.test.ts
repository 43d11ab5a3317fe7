import { ringsOf } from "../../path/flatten";
import { type PathSet } from "../../path/pathSet";
import { areaOf } from "../../polygon/rings";
import { common, evenOdd, joined } from "../../polygon/clip";
import { readSvgDrawing } from "../../drawing/readSvg";
import { type Paths } from "../../result/result";
import { artFrom } from "../../testing/clearings";
import { disc, painted, stroke, type Pt } from "../../testing/drawing";
import { asRgba } from "../../testing/pictures";
import { deliveredBy, runStage } from "../../testing/running";

const SIDE = 200;
const area = (set: PathSet) => areaOf(evenOdd(ringsOf(set, 0.0005)));
/** In pixels; ten are a millimetre. */
const PX2 = 100;
const badge = painted(SIDE, SIDE, [
  { ring: disc(100, 100, 80), grey: 150 },
  {
    ring: [
      [60.3, 60.7],
      [140.2, 60.7],
      [140.2, 139.4],
      [60.3, 139.4],
    ],
    grey: 10,
  },
  { ring: disc(100, 100, 15), grey: 150 },
]);
const trace = (given: object, picture = badge) => runStage("trace", artFrom(asRgba(picture)), given) as Paths;

test("every tone is its own set, in its own grey, of its own area; nothing is left along the edge of the darkest", () => {
  const { sets } = trace({ tones: 2 });
  expect(sets.map((s) => s.name)).toEqual(["tone-1", "tone-2"]);
  expect(sets.map((s) => s.colour & 255)).toEqual([expect.closeTo(10, -1), expect.closeTo(150, -1)]);
  const square = 79.9 * 78.7 - Math.PI * 15 ** 2;
  expect(area(sets[0]) * PX2).toBeCloseTo(square, -1.5);
  expect(area(sets[1]) * PX2).toBeCloseTo(Math.PI * 80 ** 2 - square, -1.5);
  expect(sets.map((s) => s.closed.length)).toEqual([2, 3]);
});

test("a dark shape on white beside a grey one leaves no thread of grey round it", () => {
  const apart = painted(SIDE, SIDE, [
    { ring: disc(60, 100, 40), grey: 0 },
    { ring: disc(150, 100, 30), grey: 140 },
  ]);
  const { sets } = trace({ tones: 2, smallestMm2: 0 }, apart);
  expect(sets.map((s) => s.closed.length)).toEqual([1, 1]);
  expect(area(sets[0]) * PX2).toBeCloseTo(Math.PI * 1600, -1.5);
});

test("they abut exactly: no gap and no overlap between them", () => {
  const parts = painted(SIDE, SIDE, [
    {
      ring: [
        [20, 20],
        [180, 20],
        [180, 180],
        [20, 180],
      ],
      grey: 200,
    },
    {
      ring: [
        [20, 20],
        [110, 20],
        [70, 180],
        [20, 180],
      ],
      grey: 100,
    },
    { ring: disc(90, 100, 35), grey: 0 },
  ]);
  const { sets } = trace({ tones: 3, smallestMm2: 0.05 }, parts);
  const areas = sets.map((s) => evenOdd(ringsOf(s, 0.0005)));
  const all = areas.reduce((a, b) => joined(a, b), []);
  expect(areaOf(all)).toBeCloseTo(
    areas.reduce((sum, a) => sum + areaOf(a), 0),
    2,
  );
  expect(areaOf(all) * PX2).toBeCloseTo(160 * 160, -2);
  expect(all).toHaveLength(1); // one outline round all three: no gap between them
});

test("with a trap the lighter reaches under the darker, and outside all stays as it is", () => {
  const [plain, trapped] = [trace({ tones: 2 }), trace({ tones: 2, trapMm: 0.3 })];
  expect(area(trapped.sets[0])).toBeCloseTo(area(plain.sets[0]), 6);
  const overlap = areaOf(
    common(evenOdd(ringsOf(trapped.sets[1], 0.001)), evenOdd(ringsOf(trapped.sets[0], 0.001))),
  );
  // Along the sides of the square and of the hole in it.
  expect(overlap).toBeCloseTo(0.3 * (2 * (7.99 + 7.87) + 2 * Math.PI * 1.5), 0);
  const all = ({ sets }: Paths) =>
    areaOf(sets.map((s) => evenOdd(ringsOf(s, 0.001))).reduce((a, b) => joined(a, b), []));
  expect(Math.abs(all(trapped) - all(plain))).toBeLessThan(0.1); // fitted anew, within 8 micrometres along 60 mm
});

test("colours that are picked each have their shapes, and each set is handed over alone as well", async () => {
  const colour = asRgba(badge);
  for (let i = 0; i < SIDE * SIDE; i++) {
    // Grey 150 becomes red, 10 blue, and what lies between a mixture.
    const t = (badge.data[i] - 10) / 140;
    const [r, g, b] =
      badge.data[i] > 150
        ? [255, (badge.data[i] - 150) * 2.43, (badge.data[i] - 150) * 2.43]
        : [255 * t, 0, 255 * (1 - t)];
    colour.data.set([r, g, b].map(Math.round), 4 * i);
  }
  const tones = ["#0000ff", "#ff0000"];
  const result = runStage("trace", artFrom(colour), { tones }) as Paths;
  expect(result.sets.map((s) => s.colour)).toEqual([0x0000ff, 0xff0000]);
  expect(area(result.sets[0]) * PX2).toBeCloseTo(79.9 * 78.7 - Math.PI * 225, -2);
  const files = await deliveredBy("trace", result, { tones });
  expect(Object.keys(files).filter((f) => f.endsWith("svg"))).toEqual([
    "trace.svg",
    "trace-tone-1.svg",
    "trace-tone-2.svg",
  ]);
});

test("a thin grey line on white is no edge, and stays", () => {
  const line = painted(SIDE, SIDE, [
    { ring: disc(100, 60, 40), grey: 0 },
    {
      ring: [
        [20, 150],
        [180, 150],
        [180, 152],
        [20, 152],
      ],
      grey: 130,
    },
    { ring: disc(100, 185, 10), grey: 130 },
  ]);
  const { sets } = trace({ tones: 2, smallestMm2: 0.05 }, line);
  expect(area(sets[1]) * PX2).toBeGreaterThan(300 + Math.PI * 90);
});

test("two tones that lie near each other are two, and none is spent on greys that no area has", () => {
  const near = painted(SIDE, SIDE, [
    { ring: disc(50, 50, 45), grey: 0 },
    { ring: disc(150, 50, 45), grey: 130 },
    { ring: disc(100, 150, 45), grey: 200 },
  ]);
  const { sets } = trace({ tones: 3 }, near);
  expect(sets.map((s) => s.colour & 255)).toEqual([0, 130, 200]);
  for (const set of sets) expect(area(set) * PX2).toBeCloseTo(Math.PI * 45 ** 2, -2);
});

test("more tones than the picture has greys leave the rest without a shape", () => {
  const two = painted(SIDE, SIDE, [{ ring: disc(100, 100, 40), grey: 0 }]);
  expect(trace({ tones: 4, smallestMm2: 0.05 }, two).sets[0].closed.length).toBe(1);
  const plain = painted(SIDE, SIDE, []);
  expect(trace({ tones: 4 }, plain).sets.map((s) => s.closed.length)).toEqual([0, 0, 0, 0]);
});

test("small strokes between dark shapes stay, each of one piece, and the shapes' edges leave none", () => {
  const ends: [Pt, Pt][] = [];
  for (let k = 0; k < 12; k++) {
    // Round two dark discs, half a pixel to five pixels beside their edge, at any slant.
    const [around, beside, slant] = [(k * Math.PI) / 6, 3 + (k % 4), k * 0.7];
    const [x, y] = [100 + (46 + beside) * Math.cos(around), 100 + (46 + beside) * Math.sin(around)];
    const [dx, dy] = [2 * Math.cos(slant), 2 * Math.sin(slant)];
    ends.push([
      [x - dx, y - dy],
      [x + dx, y + dy],
    ]);
  }
  const dashes = ends.map(([a, b]) => ({ ring: stroke(a, b, 1.8), grey: 200 }));
  const discs = [
    { ring: disc(100, 100, 40), grey: 0 },
    { ring: disc(20, 20, 14), grey: 130 },
    { ring: disc(180, 180, 14), grey: 200 },
  ];
  const { sets, dropped } = trace({ tones: 3, smallestMm2: 0 }, painted(SIDE, SIDE, [...discs, ...dashes]));
  expect(sets.map((s) => s.closed.length)).toEqual([1, 1, 13]);
  expect(dropped).toEqual({ specks: 0, pinholes: 0 });
});

test("patches under a size go to what lies around them, and are counted", () => {
  const specked = painted(SIDE, SIDE, [
    { ring: disc(100, 100, 80), grey: 150 },
    { ring: disc(60, 60, 30), grey: 10 },
    { ring: disc(130, 130, 3), grey: 10 },
    { ring: disc(20, 20, 2), grey: 10 },
  ]);
  const { sets, dropped } = trace({ tones: 2, smallestMm2: 0.5 }, specked);
  expect(dropped).toEqual({ specks: 2, pinholes: 0 });
  expect(sets.map((s) => s.closed.length)).toEqual([1, 1]); // the large dark disc reaches out of the grey one
});

test("a tone is run as a pass of its own: by name, kind, power and speed, in its order, and handed over alone", async () => {
  const passes = [
    { set: "tone-1", name: "Deep lines", power: 80, speed: 20, order: 2 },
    { set: "tone-2", name: "shadow", use: "score", power: 12.5, speed: 300, order: 1 },
  ];
  const result = trace({ tones: 2, passes });
  expect(result.sets.map((s) => [s.name, s.use, s.pass?.power])).toEqual([
    ["tone-2", "score", 12.5],
    ["tone-1", "fill", 80],
  ]);
  const files = await deliveredBy("trace", result, { tones: 2, passes });
  expect(Object.keys(files)).toEqual(
    ["trace", "trace-shadow", "trace-Deep-lines"].flatMap((name) =>
      ["svg", "dxf", "plt", "pdf"].map((extension) => `${name}.${extension}`),
    ),
  );
  const shadow = readSvgDrawing(new TextDecoder().decode(files["trace-shadow.svg"]));
  expect(shadow.sets).toMatchObject([{ name: "tone-2", use: "score", pass: { power: 12.5, speed: 300 } }]);
  expect(() => trace({ passes: [{ set: "tone-1", name: "../up" }] })).toThrow(/letters, digits/);
});
