import { runToEnd } from "../../maths/work";
import { flattened } from "../../path/flatten";
import { pathSetOf } from "../../path/pathSet";
import { type Gray } from "../../raster/types";
import { type Paths } from "../../result/result";
import { artFrom } from "../../testing/clearings";
import { disc, painted, stroke, type Pt } from "../../testing/drawing";
import { asRgba } from "../../testing/pictures";
import { inspectStage, runStage } from "../../testing/running";
import { USUAL_LIMITS } from "../../inspect/limits";
import { centreLines, type CentreLine } from "./centre";
import { strokesIn } from "./strokes";
import { thin } from "./thin";

const SIDE = 120;
const lines = (picture: Gray, most = 12): CentreLine[] =>
  runToEnd(
    centreLines(
      picture,
      128,
      picture.data.map((g) => +(g < 128)),
      1,
      { tolerance: 0.3, corners: 0.5 },
      most,
    ),
  );
const drawn = (strokes: readonly (readonly [Pt, Pt])[], wide: number) =>
  painted(
    SIDE,
    SIDE,
    strokes.map(([a, b]) => ({ ring: stroke(a, b, wide), grey: 0 })),
  );
/** Greatest distance of traced lines from the true ones. */
function stray(found: readonly CentreLine[], truth: readonly (readonly [Pt, Pt])[]): number {
  let worst = 0;
  for (const line of found)
    for (const { points } of flattened(pathSetOf({ name: "a", use: "score", colour: 0 }, [line]), 0.05))
      for (let k = 0; k < points.length; k += 2)
        worst = Math.max(worst, Math.min(...truth.map(([a, b]) => off(a, b, points[k], points[k + 1]))));
  return worst;
}
function off([ax, ay]: Pt, [bx, by]: Pt, x: number, y: number): number {
  const [dx, dy] = [bx - ax, by - ay];
  const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
  return Math.hypot(ax + t * dx - x, ay + t * dy - y);
}
const lengthOf = (found: readonly CentreLine[]): number =>
  found.reduce((sum, line) => {
    const [{ points }] = flattened(pathSetOf({ name: "a", use: "score", colour: 0 }, [line]), 0.05);
    for (let k = 2; k < points.length; k += 2)
      sum += Math.hypot(points[k] - points[k - 2], points[k + 1] - points[k - 1]);
    return sum;
  }, 0);

test.each([
  [
    "level",
    [
      [20.3, 40.6],
      [100.2, 40.6],
    ],
    5,
  ],
  [
    "slanting",
    [
      [20, 30],
      [95, 88],
    ],
    3.5,
  ],
  [
    "steep and wide",
    [
      [50, 15],
      [61, 100],
    ],
    9,
  ],
] as const)("one stroke, %s, is one line along its middle, of its length and width", (_, [a, b], wide) => {
  const found = lines(drawn([[a, b]], wide));
  expect(found).toHaveLength(1);
  expect(found[0].knots).toHaveLength(2);
  expect(stray(found, [[a, b]])).toBeLessThan(0.3);
  expect(lengthOf(found)).toBeCloseTo(Math.hypot(b[0] - a[0], b[1] - a[1]), -0.5);
  expect(found[0].wide).toBeCloseTo(wide, 0);
});

test.each([
  [
    "a cross",
    [
      [
        [20, 20],
        [100, 90],
      ],
      [
        [25, 95],
        [90, 22],
      ],
    ],
    2,
  ],
  [
    "a T",
    [
      [
        [20, 30],
        [100, 34],
      ],
      [
        [60, 32],
        [57, 100],
      ],
    ],
    2,
  ],
  [
    "a Y",
    [
      [
        [60, 60],
        [58, 105],
      ],
      [
        [60, 60],
        [22, 20],
      ],
      [
        [60, 60],
        [98, 22],
      ],
    ],
    3,
  ],
] as const)("where strokes meet in %s, their lines go on straight to one place", (_, strokes, most) => {
  const truth = strokes as unknown as readonly (readonly [Pt, Pt])[];
  const found = lines(drawn(truth, 6));
  expect(found.length).toBeLessThanOrEqual(most);
  expect(stray(found, truth)).toBeLessThan(0.7);
  const whole = truth.reduce((sum, [a, b]) => sum + Math.hypot(a[0] - b[0], a[1] - b[1]), 0);
  expect(Math.abs(lengthOf(found) - whole)).toBeLessThan(6);
});

/** Lines of a drawing as Trace finds them: parted into strokes at a finer scale first. */
function traced(picture: Gray, widest = 8): CentreLine[] {
  const { fine, times, mask } = runToEnd(strokesIn(picture, 128, widest));
  return runToEnd(centreLines(fine, 128, mask, times, { tolerance: 0.3, corners: 0.5 }, widest));
}

test.each([1, 1.2, 1.6, 2.4])(
  "a slanting stroke of %d px hangs together: one line along its middle",
  (wide) => {
    for (const [a, b] of [
      [
        [20.3, 30.2],
        [95.7, 61.4],
      ],
      [
        [31.5, 12.5],
        [52.5, 104.5],
      ],
      [
        [15.5, 40.5],
        [100.5, 40.5],
      ],
    ] as const) {
      const found = traced(drawn([[a, b]], wide));
      expect(found).toHaveLength(1);
      expect(stray(found, [[a, b]])).toBeLessThan(0.3);
      expect(lengthOf(found)).toBeCloseTo(Math.hypot(b[0] - a[0], b[1] - a[1]), -0.5);
    }
  },
);

test("strokes one pixel apart are as many lines", () => {
  const truth = [-2, -1, 0, 1, 2].map((k): [Pt, Pt] => [
    [20 - 2.2 * k, 30 + 3.3 * k],
    [95 - 2.2 * k, 80 + 3.3 * k],
  ]);
  const found = traced(drawn(truth, Math.hypot(2.2, 3.3) - 1));
  expect(found).toHaveLength(5);
  expect(stray(found, truth)).toBeLessThan(0.3);
});

test.each([
  [24, 0.5],
  [35, 0.3],
  [50, 0.3],
])("two strokes that cross at %d degrees are two straight lines", (degrees, most) => {
  const half = (degrees * Math.PI) / 360;
  const [u, v] = [50 * Math.cos(half), 50 * Math.sin(half)];
  const truth: [Pt, Pt][] = [
    [
      [60 - u, 60.3 - v],
      [60 + u, 60.3 + v],
    ],
    [
      [60 - u, 60.3 + v],
      [60 + u, 60.3 - v],
    ],
  ];
  const found = traced(drawn(truth, 4));
  expect(found).toHaveLength(2);
  expect(stray(found, truth)).toBeLessThan(most);
});

test("a bent stroke is one line with its corners where the middles of its sides meet; a wave has none", () => {
  const bent: Pt[] = [
    [15, 85],
    [35, 35],
    [60, 90],
    [80, 30],
    [105, 80],
  ];
  const sides = bent.slice(1).map((p, k): [Pt, Pt] => [bent[k], p]);
  const found = traced(drawn(sides, 4));
  expect(found).toHaveLength(1);
  expect(stray(found, sides)).toBeLessThan(0.35);
  for (const [x, y] of bent.slice(1, -1))
    expect(Math.min(...found[0].knots.map(({ at }) => Math.hypot(at[0] - x, at[1] - y)))).toBeLessThan(0.5);
  const wave = Array.from({ length: 91 }, (_, k): Pt => [15 + k, 60 + 10 * Math.sin(k / 7)]);
  const steps = wave.slice(1).map((p, k): [Pt, Pt] => [wave[k], p]);
  const [line, ...more] = traced(drawn(steps, 3));
  expect(more).toHaveLength(0);
  expect(stray([line], steps)).toBeLessThan(0.45);
});

test("dots are no strokes, however small, and a short stroke is one beside a wide shape", () => {
  const dots = painted(SIDE, SIDE, [
    { ring: disc(40, 40, 2), grey: 0 },
    { ring: disc(60, 40, 3.5), grey: 0 },
    { ring: stroke([30, 80], [38, 80], 2), grey: 0 },
    { ring: disc(85, 80, 15), grey: 0 },
  ]);
  expect(traced(dots)).toHaveLength(1);
});

test("a ring of a stroke is one closed line", () => {
  const ring = painted(SIDE, SIDE, [
    { ring: disc(60.4, 59.7, 40), grey: 0 },
    { ring: disc(60.4, 59.7, 35), grey: 255 },
  ]);
  const [line, ...more] = lines(ring);
  expect(more).toHaveLength(0);
  expect(line.closed).toBe(true);
  for (const { at } of line.knots) expect(Math.hypot(at[0] - 60.4, at[1] - 59.7)).toBeCloseTo(37.5, 0);
  expect(line.wide).toBeCloseTo(5, 0);
});

test("bumps of a stroke's edge make no line of their own", () => {
  const picture = drawn(
    [
      [
        [15, 60],
        [105, 60],
      ],
    ],
    8,
  );
  for (const [x, y] of [
    [40, 55],
    [60, 64],
    [80, 55],
  ])
    picture.data[y * SIDE + x] = picture.data[(y + 1) * SIDE + x] = 0;
  expect(lines(picture)).toHaveLength(1);
});

test("a scrawl whose thinned lines close up within two pixels is met without a fall", () => {
  const rows = [
    "##..##..",
    ".###....",
    "#####.#.",
    "#..####.",
    ".##.###.",
    "####.#..",
    "##...#..",
    "#..####.",
  ];
  const picture = drawn([], 1);
  rows.forEach((row, y) =>
    [...row].forEach((c, x) => c === "#" && (picture.data[(40 + y) * SIDE + 40 + x] = 0)),
  );
  expect(lines(picture).every(({ knots }) => knots.length > 1)).toBe(true);
});

test("thinning keeps what hangs together together, and leaves lines of one pixel", () => {
  const mask = drawn(
    [
      [
        [20, 20],
        [100, 90],
      ],
      [
        [25, 95],
        [90, 22],
      ],
    ],
    9,
  ).data.map((g) => +(g < 128));
  const before = parts(mask);
  runToEnd(thin(mask, SIDE, SIDE));
  expect(parts(mask)).toBe(before);
  for (let i = SIDE + 1; i < mask.length - SIDE - 1; i++)
    expect(mask[i] && mask[i + 1] && mask[i + SIDE] && mask[i + SIDE + 1]).toBeFalsy();
});
function parts(mask: Uint8Array): number {
  const known = new Uint8Array(mask.length);
  let count = 0;
  for (let i = 0; i < mask.length; i++) {
    if (!mask[i] || known[i]) continue;
    count++;
    const stack = [i];
    while (stack.length > 0) {
      const p = stack.pop()!;
      for (const d of [-1, 1, -SIDE, SIDE, -SIDE - 1, -SIDE + 1, SIDE - 1, SIDE + 1])
        if (mask[p + d] && !known[p + d]) stack.push(((known[p + d] = 1), p + d));
    }
  }
  return count;
}

test("the stage scores strokes along their middle and outlines what is wider", () => {
  const picture = painted(SIDE, SIDE, [
    { ring: stroke([20, 30], [60, 30], 5), grey: 0 },
    { ring: disc(80, 75, 25), grey: 0 },
    { ring: stroke([20, 80], [60, 76], 5), grey: 0 },
  ]);
  const art = artFrom(asRgba(picture));
  const settings = { centreMm: 0.9 };
  const paths = runStage("trace", art, settings) as Paths;
  expect(paths.sets.map((s) => [s.name, s.use, s.closed.length])).toEqual([
    ["trace", "fill", 1],
    ["lines", "score", 2],
  ]);
  const { readings, checks } = inspectStage("trace", paths, settings, USUAL_LIMITS, art);
  expect(readings.thinnestLine).toBeCloseTo(0.5, 1);
  expect(checks.map((c) => c.level)).toEqual(["fine", "fine", "fine"]);
});
