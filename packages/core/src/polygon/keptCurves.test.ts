import { runToEnd } from "../maths/work";
import { ringsOf } from "../path/flatten";
import { rectangleKnots, roundKnots } from "../path/outline";
import { pathSetOf, type KnotPath } from "../path/pathSet";
import { joined, without } from "./clip";
import { bridgesOf, gapsOf, holesOf } from "./islands";
import { keptCurves, traceable } from "./keptCurves";
import { areaOf, ringArea, type Ring } from "./rings";

const disc = (x: number, y: number, d: number): KnotPath => ({ knots: roundKnots(x, y, d, d), closed: true });
const square = (x: number, y: number, side: number): KnotPath => ({
  knots: rectangleKnots(x, y, side, side),
  closed: true,
});
const areaIn = (paths: readonly KnotPath[]) =>
  ringsOf(pathSetOf({ name: "", use: "fill", colour: 0 }, paths), 0.0001).reduce(
    (sum, ring) => sum + ringArea(ring),
    0,
  );
/** Two paths put together by a boolean operation, with their own curves. */
function made(a: KnotPath, b: KnotPath, how: (a: readonly Ring[], b: readonly Ring[]) => Ring[]): KnotPath[] {
  const from = traceable([a, b]);
  return runToEnd(keptCurves(how([from.rings[0]], [from.rings[1]]), from));
}

test("what nothing crosses keeps its knots to the bit", () => {
  const [a, b] = [disc(0, 0, 10), square(20, 0, 5)];
  const out = made(a, b, joined);
  expect(out.map((p) => p.knots.length).sort()).toEqual([4, 4]);
  for (const own of [...a.knots, ...b.knots])
    expect(
      out.flatMap((p) => p.knots).some((k) => Math.hypot(k.at[0] - own.at[0], k.at[1] - own.at[1]) < 1e-4),
    ).toBe(true);
});

test("two discs joined are two arcs of few curves, whose area is known", () => {
  // Circles of radius 5, middles 6 apart: the lens has 2 r² acos(d / 2r) − d / 2 √(4r² − d²).
  const out = made(disc(0, 0, 10), disc(6, 0, 10), joined);
  const lens = 2 * 25 * Math.acos(0.6) - 3 * Math.sqrt(100 - 36);
  expect(out).toHaveLength(1);
  expect(out[0].knots.length).toBeLessThan(11);
  expect(areaIn(out)).toBeCloseTo(2 * Math.PI * 25 - lens, 1);
});

test("a square out of a disc: corners where lines cross, curves elsewhere", () => {
  const out = made(disc(0, 0, 10), square(5, 5, 10), without);
  expect(out).toHaveLength(1);
  expect(areaIn(out)).toBeCloseTo(Math.PI * 25 * 0.75, 1);
  const straight = out[0].knots.filter((k) => !k.in && !k.out);
  expect(straight).toHaveLength(1); // the square's own corner
});

test("any two shapes at any place: area as of their polygons, and few knots", () => {
  let seed = 7;
  const next = (): number => (seed = (seed * 16807) % 2147483647) / 2147483647;
  for (let k = 0; k < 60; k++) {
    const [a, b] = [
      disc(0, 0, 10),
      (k % 2 ? disc : square)(12 * next() - 6, 12 * next() - 6, 3 + 8 * next()),
    ];
    for (const how of [joined, without]) {
      const from = traceable([a, b]);
      const rings = how([from.rings[0]], [from.rings[1]]);
      const out = runToEnd(keptCurves(rings, from));
      expect(Math.abs(Math.abs(areaIn(out)) - Math.abs(areaOf(rings)))).toBeLessThan(0.12);
      expect(out.reduce((n, p) => n + p.knots.length, 0)).toBeLessThan(20);
    }
  }
});

test("a hole's bridges go from it to the other side, up and down", () => {
  const area = [Float64Array.of(0, 0, 10, 0, 10, 10, 0, 10), Float64Array.of(3, 3, 3, 7, 7, 7, 7, 3)];
  expect(holesOf(area)).toHaveLength(1);
  const bars = bridgesOf(area, 1);
  expect(bars).toHaveLength(2);
  const cut = without(area, bars);
  expect(holesOf(cut)).toEqual([]);
  // Two bars of 1 by 3 are left standing.
  expect(areaOf(cut)).toBeCloseTo(100 - 16 - 6, 1);
});

test("the gaps of a piece are what its lines enclose and is not of it", () => {
  const piece = [Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20), Float64Array.of(5, 5, 5, 15, 15, 15, 15, 5)];
  expect(gapsOf(piece)).toEqual([piece[1]]);
});
