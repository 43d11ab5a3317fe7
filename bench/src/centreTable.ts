import { Noise } from "@hardline/demo";
import { runToEnd } from "@hardline/core/maths/work";
import { coverOfRings } from "@hardline/core/path/cover";
import { flattened } from "@hardline/core/path/flatten";
import { type PathSet } from "@hardline/core/path/pathSet";
import { type Gray } from "@hardline/core/raster/types";
import { traceBlack } from "@hardline/core/stage/trace/black";
import { traceSettings } from "@hardline/core/stage/trace/settings";

/*
 * Strokes one to five pixels wide, drawn with soft edges, and the lines that are traced along their middles. Of a third of
 * the drawings nothing was known while rules were set.
 */

const [W, H] = [160, 120];
/** Strokes up to so many pixels wide are traced along their middles. */
const WIDEST = 8;
const PER_MM = 10;

type Point = readonly [number, number];
type Line = readonly Point[];

/** A drawing of strokes: each is to come out as one line. */
export interface Strokes {
  readonly kind: string;
  readonly wide: number;
  readonly lines: readonly Line[];
  /** Of strokes that end where they meet, two may come out as one: so many lines at least. */
  readonly least: number;
  readonly unseen: boolean;
}

const around = (m: Point, angle: number, far: number): Point => [
  m[0] + far * Math.cos(angle),
  m[1] + far * Math.sin(angle),
];
const through = (m: Point, angle: number, half: number): Line => [
  around(m, angle + Math.PI, half),
  around(m, angle, half),
];

/** What can be drawn, by a name: lines by chance, and how many are to come out at least. */
const KINDS: Readonly<Record<string, (noise: Noise, wide: number) => readonly Line[]>> = {
  one: (noise) => [through(middle(noise), noise.random() * Math.PI, 25 + 20 * noise.random())],
  cross: (noise) => {
    const [m, a] = [middle(noise), noise.random() * Math.PI];
    return [through(m, a, 42), through(m, a + Math.PI / 3 + noise.random(), 42)];
  },
  "shallow cross": (noise) => {
    const [m, a] = [middle(noise), noise.random() * Math.PI];
    return [through(m, a, 50), through(m, a + 0.3 + 0.4 * noise.random(), 50)];
  },
  T: (noise) => {
    const [m, a] = [middle(noise), noise.random() * Math.PI];
    return [through(m, a, 40), [m, around(m, a + Math.PI / 2 + 0.5 * (noise.random() - 0.5), 40)]];
  },
  Y: (noise) => {
    const [m, a] = [middle(noise), noise.random() * Math.PI];
    return [0, 1, 2].map((k) => [m, around(m, a + 2.1 * k + 0.3 * noise.random(), 40)]);
  },
  zigzag: (noise) => {
    const step = 14 + 10 * noise.random();
    const tall = 18 + 25 * noise.random();
    const count = 1 + Math.floor(110 / step);
    const x = 20 + 5 * noise.random();
    const turn = 0.3 * (noise.random() - 0.5);
    return [
      Array.from({ length: count }, (_, k): Point => {
        const [u, v] = [k * step - 55, (k % 2 === 0 ? 0.5 : -0.5) * tall];
        return [
          x + 60 + u * Math.cos(turn) - v * Math.sin(turn),
          60 + u * Math.sin(turn) + v * Math.cos(turn),
        ];
      }),
    ];
  },
  "zigzag, mitred": (noise) => KINDS.zigzag(noise, 0),
  "parallel, 1 px apart": (noise, wide) => {
    const [m, a] = [middle(noise), noise.random() * Math.PI];
    return [-2, -1, 0, 1, 2].map((k) => through(around(m, a + Math.PI / 2, k * (wide + 1)), a, 35));
  },
  grid: (noise, wide) => {
    const [m, a] = [middle(noise), noise.random() * Math.PI];
    const apart = 3 * wide + 8 * noise.random() + 5;
    return [0, 1].flatMap((way) =>
      [-1, 0, 1].map((k) =>
        through(around(m, a + ((way + 1) * Math.PI) / 2, k * apart), a + (way * Math.PI) / 2, apart + 12),
      ),
    );
  },
  wave: (noise) => {
    const [tall, long, from] = [8 + 8 * noise.random(), 35 + 20 * noise.random(), 6 * noise.random()];
    return [
      Array.from({ length: 121 }, (_, k): Point => [
        20 + k,
        60 + tall * Math.sin((2 * Math.PI * k) / long + from),
      ]),
    ];
  },
  short: (noise, wide) =>
    [30, 60, 90, 120].map((x, k) =>
      through(
        [x + 3 * noise.random(), 40 + 14 * k],
        noise.random() * Math.PI,
        1.5 * wide + 2 + 2 * noise.random(),
      ),
    ),
};
export const CENTRE_KINDS = Object.keys(KINDS);

const middle = (noise: Noise): Point => [
  W / 2 + 8 * (noise.random() - 0.5),
  H / 2 + 8 * (noise.random() - 0.5),
];

/** So many drawings of every kind. */
export function drawnStrokes(each: number): Strokes[] {
  return CENTRE_KINDS.flatMap((kind, row) =>
    Array.from({ length: each }, (_, k): Strokes => {
      const noise = new Noise(7001 + 101 * row + k);
      const wide = 1 + (4 * ((k * 7) % each)) / Math.max(1, each - 1);
      const lines = KINDS[kind](noise, wide);
      return { kind, wide, lines, least: kind === "Y" ? 2 : lines.length, unseen: k % 3 === 2 };
    }),
  );
}

export function pictureOf({ kind, lines, wide }: Strokes): Gray {
  const rings = lines.flatMap((line) => [
    ...line.slice(1).map((p, k) => strokeRing(line[k], p, wide)),
    ...(kind.endsWith("mitred") ? line.slice(2).map((p, k) => mitre(line[k], line[k + 1], p, wide)) : []),
  ]);
  const data = new Uint8Array(W * H).fill(255);
  // A pixel is as dark as the share of it that any stroke covers.
  const cover = coverOfAny(rings);
  for (let i = 0; i < data.length; i++) data[i] = 255 - Math.round(cover[i]);
  return { width: W, height: H, data };
}

/** Every ring runs the same way round, so that what lies in two is covered once. */
function coverOfAny(rings: readonly Float64Array[]): Float64Array {
  const cover = new Float64Array(W * H);
  const FINE = 8;
  for (const ring of rings) {
    const own = runToEnd(coverOfRings([ring.map((v) => v * FINE)], W * FINE, H * FINE));
    fine ??= new Uint8Array(W * FINE * H * FINE);
    for (let i = 0; i < own.length; i++) if (own[i] > fine[i]) fine[i] = own[i];
  }
  for (let y = 0; y < H * FINE; y++)
    for (let x = 0; x < W * FINE; x++)
      cover[Math.floor(y / FINE) * W + Math.floor(x / FINE)] += fine![y * W * FINE + x] / (FINE * FINE);
  fine!.fill(0);
  return cover;
}
let fine: Uint8Array | null = null;

function strokeRing([ax, ay]: Point, [bx, by]: Point, wide: number): Float64Array {
  const along = Math.atan2(by - ay, bx - ax);
  const cap = (x: number, y: number, from: number): number[] =>
    Array.from({ length: 17 }, (_, k) => {
      const a = from + (Math.PI * k) / 16;
      return [x + (wide / 2) * Math.cos(a), y + (wide / 2) * Math.sin(a)];
    }).flat();
  return Float64Array.from([...cap(bx, by, along - Math.PI / 2), ...cap(ax, ay, along + Math.PI / 2)]);
}

/** The pointed outer corner of a bend. */
function mitre(a: Point, b: Point, c: Point, wide: number): Float64Array {
  const unit = (p: Point, q: Point): Point => {
    const d = Math.hypot(q[0] - p[0], q[1] - p[1]);
    return [(q[0] - p[0]) / d, (q[1] - p[1]) / d];
  };
  const [u, v] = [unit(a, b), unit(b, c)];
  const side = u[0] * v[1] - u[1] * v[0] > 0 ? 1 : -1;
  const out = (w: Point): Point => [b[0] + (side * w[1] * wide) / 2, b[1] - (side * w[0] * wide) / 2];
  const bend: Point = [u[0] - v[0], u[1] - v[1]];
  const long = Math.hypot(...bend);
  const far = wide / 2 / Math.sqrt(Math.max(0.02, (1 + u[0] * v[0] + u[1] * v[1]) / 2));
  const tip: Point = [b[0] + (bend[0] / long) * far, b[1] + (bend[1] / long) * far];
  return Float64Array.from([...b, ...out(u), ...tip, ...out(v)]);
}

export interface CentreResult {
  readonly count: number;
  /** Whether as many lines came out as strokes were drawn. */
  readonly exact: boolean;
  /** Distance of the lines' places from the strokes' middles, in pixels, that 99 of 100 keep. */
  readonly off: number;
  /** Share of the strokes' middles that no line comes within a pixel of. */
  readonly missed: number;
}

export function tracedStrokes(strokes: Strokes): {
  readonly result: CentreResult;
  readonly sets: readonly PathSet[];
} {
  const settings = traceSettings.parse({ centreMm: WIDEST / PER_MM, smallestMm2: 0, smallestHoleMm2: 0 });
  const scale = { perMm: PER_MM, tolerance: 0.3, edge: 3, enlarged: 1 };
  const { sets } = runToEnd(traceBlack(pictureOf(strokes), settings, scale));
  const lines = sets.filter((s) => s.use === "score").flatMap((s) => flattened(s, 0.002));
  const places = lines.flatMap(({ points }) => along(points, PER_MM));
  const truth = strokes.lines.map((line) => Float64Array.from(line.flat()));
  const off = places.map((p) => nearest(truth, p)).sort((a, b) => a - b);
  const found = lines.map(({ points }) => points.map((v) => v * PER_MM));
  const known = truth.flatMap((line) => along(line, 1));
  const missed = known.filter((p) => nearest(found, p) > 1).length / known.length;
  // What is traced round, and not along, is a miss of its own.
  const count = lines.length + sets.reduce((n, s) => n + (s.use === "score" ? 0 : s.closed.length), 0);
  const exact = count <= strokes.lines.length && count >= strokes.least;
  return {
    sets,
    result: {
      count,
      exact,
      off: off.length > 0 ? off[Math.floor(0.99 * (off.length - 1))] : Infinity,
      missed,
    },
  };
}

/** A place every half pixel along a line. */
function along(points: Float64Array, times: number): Point[] {
  const out: Point[] = [];
  for (let k = 2; k < points.length; k += 2) {
    const [ax, ay, bx, by] = [0, 1, 2, 3].map((d) => points[k - 2 + d] * times);
    const steps = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / 0.5));
    for (let s = 0; s <= steps; s++) out.push([ax + ((bx - ax) * s) / steps, ay + ((by - ay) * s) / steps]);
  }
  return out;
}

function nearest(lines: readonly Float64Array[], [x, y]: Point): number {
  let least = Infinity;
  for (const points of lines)
    for (let k = 2; k < points.length; k += 2) {
      const [ax, ay, bx, by] = [points[k - 2], points[k - 1], points[k], points[k + 1]];
      const [dx, dy] = [bx - ax, by - ay];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
      least = Math.min(least, Math.hypot(ax + t * dx - x, ay + t * dy - y));
    }
  return least;
}
