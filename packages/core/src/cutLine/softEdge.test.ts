import { runToEnd } from "../maths/work";
import { coverOfPolygon } from "../path/cover";
import { ringsOf } from "../path/flatten";
import { pathSetOf } from "../path/pathSet";
import { evenOdd } from "../polygon/clip";
import { offset } from "../polygon/offset";
import { type Ring } from "../polygon/rings";
import { newRgba } from "../raster/types";
import { asItIs } from "../result/finish";
import { artBase } from "./base";
import { cutAround, type CutWish } from "./cutLine";

const SIDE = 300; // of pixels of a tenth of a millimetre
type Point = readonly [number, number];

const around = (count: number, radius: (k: number) => number, turn: number): Point[] =>
  Array.from({ length: count }, (_, k) => {
    const a = turn + (2 * Math.PI * k) / count;
    return [151.3 + radius(k) * Math.cos(a), 149.6 + radius(k) * Math.sin(a)] as const;
  });
const SHAPES: Readonly<Record<string, readonly Point[]>> = {
  triangle: around(3, () => 100, 0.4),
  heptagon: around(7, () => 92, 1.1),
  star: around(10, (k) => (k % 2 ? 55 : 90), 0.23),
  flower: around(720, (k) => 80 + 25 * Math.sin((6 * Math.PI * k) / 720), 0),
  bean: around(720, (k) => 85 + 22 * Math.sin((4 * Math.PI * k) / 720 + 1), 0),
};
const WISH: CutWish = {
  gaps: { fillSmallerThanMm2: 0, keep: [], fill: [] },
  parts: { keep: "all", smallestMm2: 0, bridgeMm: 0 },
  ...{ smoothMm: 0, offsetMm: 0, join: "round", tab: null, way: "clockwise" },
};

const dense = (ring: Ring): Point[] => {
  const points: Point[] = [];
  for (let k = 0; k < ring.length; k += 2) {
    const [ax, ay, bx, by] = [ring[k], ring[k + 1], ring[(k + 2) % ring.length], ring[(k + 3) % ring.length]];
    const parts = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / 0.03));
    for (let s = 0; s < parts; s++) points.push([ax + ((bx - ax) * s) / parts, ay + ((by - ay) * s) / parts]);
  }
  return points;
};

/** Under which 99 of 100 points of one outline lie from another. */
function p99(from: readonly Ring[], to: readonly Ring[]): number {
  const off = from.flatMap(dense).map(([x, y]) => {
    let best = Infinity;
    for (const ring of to)
      for (let k = 0; k < ring.length; k += 2) {
        const [ax, ay] = [ring[k], ring[k + 1]];
        const [dx, dy] = [ring[(k + 2) % ring.length] - ax, ring[(k + 3) % ring.length] - ay];
        const whole = dx * dx + dy * dy;
        const t = whole > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / whole)) : 0;
        best = Math.min(best, Math.hypot(x - ax - t * dx, y - ay - t * dy));
      }
    return best;
  });
  return off.sort((a, b) => a - b)[Math.floor(0.99 * (off.length - 1))];
}

test.each(
  Object.entries(SHAPES).flatMap(([name, outline]) => [0, 1, 2].map((by) => [name, by, outline] as const)),
)(
  "a border round soft art lies where its outline says: %s, %i mm out, within 0.05 mm",
  (_name, offsetMm, outline) => {
    const cover = runToEnd(
      coverOfPolygon(
        outline.map(([x, y]): [number, number] => [x, y]),
        SIDE,
        SIDE,
      ),
    );
    const art = newRgba(SIDE, SIDE);
    cover.forEach((c, i) => (art.data[4 * i + 3] = c));
    const base = runToEnd(artBase(art, 128, asItIs({ width: SIDE, height: SIDE })));
    const cut = runToEnd(cutAround(base, { ...WISH, offsetMm }));
    const found = ringsOf(pathSetOf({ name: "cut", use: "through", colour: 0 }, cut.paths), 0.0005);
    const wanted = offset(evenOdd([Float64Array.from(outline.flat().map((v) => v / 10))]), offsetMm, "round");
    expect(Math.max(p99(found, wanted), p99(wanted, found))).toBeLessThan(0.05);
  },
);

test("art whose alpha is either none or all gets no steps", () => {
  const art = newRgba(SIDE, SIDE);
  for (let i = 0; i < SIDE * SIDE; i++) {
    const [x, y] = [(i % SIDE) + 0.5, Math.floor(i / SIDE) + 0.5];
    art.data[4 * i + 3] = Math.hypot(x - 150.3, y - 149.8) < 100 ? 255 : 0;
  }
  const base = runToEnd(artBase(art, 128, asItIs({ width: SIDE, height: SIDE })));
  const { paths } = runToEnd(cutAround(base, WISH));
  // A circle is a handful of curves; its steps would be hundreds.
  expect(paths[0].knots.length).toBeLessThan(20);
});
