import { runToEnd } from "../maths/work";
import { type Quarter } from "../turn/turn";
import { turned } from "../turn/turned";
import { type Rgba } from "../raster/types";
import { ringsOf } from "../path/flatten";
import { coverOfRings } from "../path/cover";
import { scaledPath } from "../path/scaled";
import { knotPathsOf, pathSetOf, type PathSet } from "../path/pathSet";
import { evenOdd } from "../polygon/clip";
import { as } from "../result/result";
import { last, picture, ROUTE, sourceOf } from "../testing/patchwork";
import { STAGES } from "../stage/stages";
import { planOf } from "./plan";
import { Runner } from "./runner";
import { readRoute, settingsOf, type Route } from "./route";
import { routeTurnedOn as turnedOnPiece } from "./turning";

const routeTurnedOn = (route: Route, further: Quarter, p: Rgba = picture(80, 60)): Route =>
  turnedOnPiece(route, further, planOf(route, sourceOf(p).facts).place.finish);

test.each(["right", "left", "mirrored", "upside down"] as const)(
  "turned %s, the piece is the same piece, turned",
  async (further) => {
    const p = picture(80, 60);
    const before = await last(ROUTE, p);
    const route = routeTurnedOn(ROUTE, further);
    const after = await last(route, p);
    const { straighten, turn, mirror } = settingsOf(route, "size")!;
    const wanted = runToEnd(turned(before.colour, { straighten, turn, mirror }));
    expect([after.colour.width, after.colour.height]).toEqual([wanted.width, wanted.height]);
    let off = 0;
    for (let i = 3; i < wanted.data.length; i += 4)
      if (Math.abs(wanted.data[i] - after.colour.data[i]) > 40) off++;
    // strokes and outlines are laid on whole pixels from the other side
    expect(off / (wanted.width * wanted.height)).toBeLessThan(0.01);
    expect(wanted.data.some((v, i) => i % 4 === 3 && v === 0)).toBe(true);
    expect(wanted.data.some((v, i) => i % 4 === 3 && v === 255)).toBe(true);
  },
);

test("turned four times it is what it was; mirrored twice too", () => {
  let route = ROUTE;
  for (let k = 0; k < 4; k++) route = routeTurnedOn(route, "right");
  for (let k = 0; k < 2; k++) route = routeTurnedOn(route, "mirrored");
  expect(settingsOf(route, "size")).toEqual(settingsOf(ROUTE, "size"));
  expect(route.stages[1]).toMatchObject({
    ops: [{ op: "pick", at: [expect.closeTo(0.12, 9), expect.closeTo(0.07, 9)] }, {}, {}],
  });
});

test("a straightened artwork has room for its corners, and the finish follows", async () => {
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "A" },
    stages: [{ stage: "size", dotsPerInch: 254, straighten: 30 }],
  });
  const out = await last(route, picture(100, 50));
  // 100 cos 30 + 50 sin 30 by 100 sin 30 + 50 cos 30
  expect([out.colour.width, out.colour.height]).toEqual([112, 94]);
  expect(out.colour.data[3]).toBe(0);
});

test.each([
  ["turn", 45, /turn is 45; allowed: 0, 90, 180, 270/],
  ["straighten", 50, /straighten is 50; allowed: 45 or less/],
  ["mirror", "yes", /mirror/],
])("%s %p is refused", (setting, value, reason) => {
  const file = {
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage: "size", [setting]: value }],
  };
  expect(() => readRoute(file)).toThrow(reason);
});

/*
 * Over all stages: every setting of any stage that is a place, a box, an offset or path data, found in the stages' own
 * schemas, turns with the artwork; and what comes of a route with all of them is the same piece, turned.
 */
const STARTS = (x: number, y: number) => [x, y] as const;
const PATHS_BY_HAND = [
  {
    edit: "draw",
    closed: true,
    knots: [
      { at: STARTS(0.2, 0.25), out: [0.4, 0.1] },
      { at: [0.4, 0.28], in: [0, -0.3] },
      { at: [0.3, 0.4] },
    ],
  },
  { edit: "draw", closed: false, knots: [{ at: [0.65, 0.75] }, { at: [0.8, 0.8] }] },
  { edit: "circle", at: [0.7, 0.3], diameterMm: 1 },
  { edit: "rectangle", at: [0.3, 0.75], widthMm: 1.6, heightMm: 0.8 },
  { edit: "line", at: [0.2, 0.85], to: [0.45, 0.9] },
  { edit: "move", at: [0.3, 0.75 - 0.4 / 6], byMm: [0.3, -0.1] },
  { edit: "moveHandle", at: [0.2, 0.25], side: "out", byMm: [0.5, -0.4] },
  { edit: "movePoint", at: [0.3, 0.4], to: [0.26, 0.42] },
  { edit: "addPoint", at: [0.7, 0.3 - 0.5 / 6] },
  { edit: "box", at: [0.7 + 0.5 / 8, 0.3], xMm: 5.2, yMm: 1.2, widthMm: 1.3, heightMm: 0.7 },
  { edit: "level", at: [0.65, 0.75], with: [0.8, 0.8], way: "horizontally" },
  { edit: "point", at: [0.4, 0.28], as: "corner" },
  { edit: "segment", at: [0.4, 0.28], as: "straight" },
  {
    edit: "rub",
    along: [
      [0.21, 0.26],
      [0.25, 0.3],
    ],
    reachMm: 0.1,
  },
  { edit: "simplify", at: [0.26, 0.42], withinMm: 0.02 },
  { edit: "split", at: [0.26, 0.42] },
  { edit: "dropPoint", at: [0.8, 0.775] },
  { edit: "joinEnds", at: [0.2, 0.85], with: [0.45, 0.9] },
  { edit: "combine", at: [0.2, 0.25], with: [0.7, 0.3], how: "join" },
  { edit: "fill", at: [0.52, 0.47] },
  { edit: "delete", at: [0.01, 0.01] },
];
/** What is done to whole shapes, and words; that each does the same to the same is in edit/transform.test.ts. */
const [HERE, THERE, BEYOND] = [STARTS(0.3, 0.7), STARTS(0.62, 0.31), STARTS(0.44, 0.52)];
const SHAPES_BY_HAND = [
  {
    ...{ edit: "transform", at: [HERE], about: [0.4, 0.6], byMm: [0.3, 0.2] },
    ...{ copies: 1, rows: 1, rowByMm: [0.1, 0.4] },
  },
  { edit: "weld", at: [HERE, THERE] },
  { edit: "align", at: [HERE, THERE], side: "left" },
  { edit: "distribute", at: [HERE, THERE, BEYOND], way: "across" },
  { edit: "outline", at: HERE, widthMm: 0.2 },
  { edit: "centre", at: HERE, widthMm: 0.2 },
  { edit: "bridges", at: HERE, widthMm: 0.2 },
  { edit: "text", text: "A", at: HERE },
  { edit: "text", text: "A", at: HERE, along: { kind: "path", at: THERE } },
];
const EVERY: Readonly<Record<string, object>> = {
  size: {
    ...ROUTE.stages[0],
    shape: {
      kind: "path",
      box: [0.1, 0.03, 0.75, 0.9],
      d: "M0.3 0.2H7.1L7.6 5A2 1 30 0 1 4 6.5C3 7 1 6 0.3 4Z",
    },
  },
  clear: {
    ...ROUTE.stages[1],
    ops: [
      ...(ROUTE.stages[1] as unknown as { ops: object[] }).ops,
      { op: "gaps", like: 0, but: [[0.3, 0.4]] },
      { op: "through", at: [[0.2, 0.6]] },
      {
        op: "back",
        at: [
          [0.35, 0.45],
          [0.6, 0.3],
        ],
      },
      { op: "hold", strokes: [{ points: [[0.6, 0.2]], sizeMm: 0.5 }] },
      { op: "cutOut", keep: [{ points: [[0.4, 0.4]] }], away: [{ points: [[0.05, 0.05, 0.5]] }] },
      { op: "path", kind: "round", box: [0.2, 0.1, 0.65, 0.7] },
    ],
  },
  colour: { areas: [{ at: [0.35, 0.6], colour: "#c8352e", shade: { colour: "#2f5aa8", to: [0.4, 0.7] } }] },
  trace: {
    stage: "trace",
    drawing: { sets: [{ name: "art", colour: "#102030", d: "M1 1L5 2L3 7Z" }], widthMm: 16, heightMm: 12 },
    edits: [...PATHS_BY_HAND, ...SHAPES_BY_HAND],
  },
  cutLine: {
    stage: "cutLine",
    gaps: { keep: [[0.3, 0.4]], fill: [[0.6, 0.55]] },
    tab: { at: [0.8, 0.1] },
    drawing: { d: "M1 2L7 2.5L6 9A1 2 20 0 1 3 8Z", widthMm: 16, heightMm: 12 },
    edits: [...PATHS_BY_HAND, ...SHAPES_BY_HAND],
  },
};
/** Settings that are pairs of numbers and no places: tones in, tones out; and those on the artwork as supplied. */
const NO_PLACES = [
  ...["tone curve[]", "blackWhite gain[]", "films inks[] gain[]"],
  ...["size paper corners", "size paper curled top", "size paper curled foot"],
];

/** Schemas and settings as they are walked here. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type Loose = any;

/** Names of the settings of a schema that are tuples of numbers, or named as path data. */
function placesOf(schema: Loose, name: string, found: Set<string>): Set<string> {
  const def = schema?.def ?? schema?._zod?.def;
  const inside = (next: Loose, as = name) => placesOf(next, as, found);
  if (schema?.behind) inside(schema.behind);
  if (!def) return found;
  if (def.type === "tuple") found.add(name);
  else if (def.type === "object")
    for (const [key, value] of Object.entries<Loose>(def.shape)) {
      const kind = def.shape.edit ?? def.shape.op ?? def.shape.kind;
      const of = kind?.def?.values ? ` ${kind.def.values[0]}` : "";
      if (key === "d") found.add(`${name}${of} d`);
      else if (/^[xy]Mm$/.test(key)) found.add(`${name}${of} ${key}`);
      inside(value, `${name}${of} ${key}`);
    }
  else if (def.type === "array") inside(def.element, `${name}[]`);
  else if (def.type === "union") for (const option of def.options) inside(option);
  else for (const next of [def.innerType, def.in, def.out, def.schema]) if (next) inside(next);
  return found;
}
const PLACES = STAGES.flatMap((stage) => [...placesOf(stage.settings, stage.id, new Set())]).filter(
  // What is placed on a thing, or on a photograph of one, is placed on no artwork.
  (name) => !NO_PLACES.includes(name) && !name.startsWith("mockUp "),
);
/** What a route has at such a setting, as numbers, or as words for path data. */
function valuesAt(value: Loose, parts: readonly string[]): unknown[] {
  if (value === undefined || value === "top") return [];
  if (parts.length === 0) return [value];
  const [part, ...rest] = parts;
  if (Array.isArray(value) && part === "[]") return value.flatMap((v) => valuesAt(v, rest));
  if (typeof value !== "object") return [];
  // Words are both the name of an edit and what it says.
  if ([value.edit, value.op, value.kind].includes(part)) return valuesAt(value, rest);
  return part in value ? valuesAt(value[part], rest) : [];
}
const at = (route: Route, name: string): unknown[] => {
  const [stage, ...parts] = name.replaceAll("[]", " []").split(" ");
  return valuesAt(
    route.stages.find((s) => s.stage === stage),
    parts,
  );
};
const EVERYTHING = readRoute({
  format: "hard-line-route",
  version: 1,
  name: "A",
  stages: Object.entries(EVERY).map(([stage, settings]) => ({ ...settings, stage })),
});

test("the stages have places to turn, and the sample has every one of them", () => {
  expect(PLACES.length).toBeGreaterThan(30);
  const SHAPES = /^size shape (round|rectangle|rounded) box$/; // a piece has one shape; paths stand for all
  expect(PLACES.filter((name) => !SHAPES.test(name) && at(EVERYTHING, name).length === 0)).toEqual([]);
});

test.each(["right", "left", "mirrored", "upside down"] as const)(
  "turned %s, every place of every stage turns, and turned back all is as it was",
  (further) => {
    const back = {
      right: "left",
      left: "right",
      mirrored: "mirrored",
      "upside down": "upside down",
    } as const;
    const once = routeTurnedOn(EVERYTHING, further);
    const stayed = PLACES.filter((name) => at(EVERYTHING, name).length > 0).filter(
      (name) => JSON.stringify(at(once, name)) === JSON.stringify(at(EVERYTHING, name)),
    );
    // Mirrored, one of two coordinates stays.
    const oneSided = { mirrored: /yMm$/, "upside down": /xMm$/, left: /^$/, right: /^$/ }[further];
    expect(stayed.filter((name) => !oneSided.test(name))).toEqual([]);
    const twice = routeTurnedOn(once, back[further]);
    for (const name of PLACES.filter((n) => !n.endsWith(" d")))
      expect([name, at(twice, name)]).toEqual([
        name,
        JSON.parse(JSON.stringify(at(EVERYTHING, name)), (_, v: unknown) =>
          typeof v === "number" ? expect.closeTo(v, 7) : v,
        ),
      ]);
  },
);

/** Dots of 0.05 mm. */
const PER_MM = 20;

/** What a route's paths cover, each set by itself. */
async function covered(route: Route, p: Rgba): Promise<Rgba> {
  const results = await new Runner().run(route, sourceOf(p));
  const { sets, finish: size } = as(results[results.length - 1].result, "paths");
  const [width, height] = [size.widthMm, size.heightMm].map((v) => Math.round(v * PER_MM));
  const data = new Uint8Array(width * height * 4);
  sets
    .filter((s) => s.use !== "print")
    .forEach((set, k) => {
      const closed = knotPathsOf(set).map((path) => scaledPath({ ...path, closed: true }, PER_MM));
      const look: PathSet = pathSetOf({ name: "", use: "fill", colour: 0 }, closed);
      const cover = runToEnd(coverOfRings(evenOdd(ringsOf(look, 0.01)), width, height));
      cover.forEach((v, i) => (data[4 * i + (k % 4)] ^= v));
    });
  return { width, height, data };
}

/** Shapes that no turn and no mirror leaves as they are, on white. */
function shapes(): Rgba {
  const [width, height] = [160, 120];
  const data = new Uint8Array(width * height * 4).fill(255);
  const dark = (x: number, y: number) =>
    (x > 30 && x < 130 && y > 50 && y < 100 && !((x - 70) ** 2 + (y - 78) ** 2 < 200)) ||
    (x - 110) ** 2 + (y - 25) ** 2 < 250 ||
    (x > 20 && x < 60 && y > 12 && y - 12 < (x - 20) / 2);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (dark(x, y)) data.fill(20, (y * width + x) * 4, (y * width + x) * 4 + 3);
  return { width, height, data };
}

const SIZE = { stage: "size", widthMm: 16, dotsPerInch: 254, resample: "box" };
const HANDS = [
  {
    edit: "draw",
    closed: true,
    knots: [{ at: [0.1, 0.85], out: [1.5, -1] }, { at: [0.3, 0.95] }, { at: [0.15, 0.97] }],
  },
  { edit: "moveHandle", at: [0.1, 0.85], side: "out", byMm: [1, -2] },
  { edit: "move", at: [110 / 160, 9.2 / 120], byMm: [1.2, 0.4] },
  { edit: "fill", at: [70 / 160, 78 / 120] },
  { edit: "box", at: [40 / 160, 12 / 120], xMm: 1, yMm: 0.5, widthMm: 5, heightMm: 3 },
  { edit: "rectangle", at: [0.9, 0.75], widthMm: 1.5, heightMm: 3, cornerMm: 0.4 },
];
test.each([
  ["trace", [{ stage: "trace", edits: HANDS }]],
  [
    "cut line",
    [
      { stage: "trace" },
      {
        stage: "cutLine",
        from: "trace",
        offsetMm: 0.4,
        gaps: { keep: [[70 / 160, 78 / 120]] },
        tab: { at: [0.15, 0.5], holeMm: 1, ringMm: 2 },
        edits: HANDS.slice(0, 2),
      },
    ],
  ],
  ["a piece with a shape of its own", [{ stage: "cutLine", from: "shape" }]],
] as const)("what hands placed on %s is on the same things, turned", async (name, stages) => {
  const p = shapes();
  const shape = name.startsWith("a piece")
    ? { shape: { kind: "path", box: [0.05, 0.1, 0.8, 0.85], d: "M1 1L14 2A3 3 0 0 1 14 8L9 9.5Q5 6 1 8Z" } }
    : {};
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ ...SIZE, ...shape }, ...stages],
  });
  const before = await covered(route, p);
  const total = before.data.reduce((sum, v) => sum + v, 0);
  expect(total).toBeGreaterThan(255 * 10000);
  for (const further of ["right", "left", "mirrored", "upside down"] as const) {
    const then = routeTurnedOn(route, further, p);
    const after = await covered(then, p);
    const { straighten, turn, mirror } = settingsOf(then, "size")!;
    const wanted = runToEnd(turned(before, { straighten, turn, mirror }));
    expect([after.width, after.height]).toEqual([wanted.width, wanted.height]);
    const off = wanted.data.reduce((sum, v, i) => sum + Math.abs(v - after.data[i]), 0);
    expect([further, off / total < 0.01, off / total]).toEqual([further, true, expect.anything()]);
  }
});
