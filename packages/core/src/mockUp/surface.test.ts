import { cylinderSurface } from "./cylinder";
import { clothSurface, planeSurface } from "./plane";
import { flatSurface, roundSurface, type Point, type Surface } from "./surface";

/** Both ways are the same way. */
function agree(surface: Surface, places: readonly Point[], near = 1e-6): void {
  const into = new Float64Array(2);
  for (const [x, y] of places) {
    const [u, v] = surface.seen(x, y)!;
    expect(surface.at(u, v, into)).toBe(true);
    expect(Math.hypot(into[0] - x, into[1] - y)).toBeLessThan(near);
  }
}

const PLACES: Point[] = [
  [0, 0],
  [-20, 5],
  [18, 40],
  [9, 70],
];

test("flat: moved and turned", () => {
  agree(flatSurface([100, 50], 30), PLACES);
  // A quarter turn clockwise: what is to the right of the origin is seen below it.
  expect(
    flatSurface([10, 20], 90)
      .seen(5, 0)!
      .map((v) => Math.round(v * 1e9) / 1e9),
  ).toEqual([10, 25]);
});

test("round: a quarter of the way about is seen at the edge, and nothing behind", () => {
  const mug = roundSurface({ origin: [100, 20], radiusMm: 40, facing: 0, sagMm: 6 });
  agree(mug, PLACES);
  const quarter = (Math.PI * 40) / 2;
  expect(mug.seen(quarter - 1e-9, 0)![0]).toBeCloseTo(140, 6);
  expect(mug.seen(quarter + 1, 0)).toBeNull();
  // A third of a quarter turn: 40 sin 30 = 20.
  expect(mug.seen(quarter / 3, 0)![0]).toBeCloseTo(120, 9);
  expect(mug.at(141, 30, new Float64Array(2))).toBe(false);
});

/** A camera with its eye at the origin, looking along z. */
const camera =
  (focal: number, width: number, height: number) =>
  ([x, y, z]: readonly number[]): Point => [width / 2 + (focal * x) / z, height / 2 + (focal * y) / z];

test("plane: a rectangle in the room, seen askew", () => {
  const eye = camera(1800, 2000, 1500);
  const [c, s] = [Math.cos(0.6), Math.sin(0.6)];
  const inRoom = (x: number, y: number) => [c * x - 40, y - 90, 900 + s * x + 0.1 * y];
  const corners = [
    [-120, 0],
    [120, 0],
    [120, 160],
    [-120, 160],
  ].map(([x, y]) => eye(inRoom(x, y)));
  const surface = planeSurface({ corners, widthMm: 240, heightMm: 160 })!;
  agree(surface, PLACES);
  for (const [x, y] of PLACES) {
    const [want, got] = [eye(inRoom(x, y)), surface.seen(x, y)!];
    expect(Math.hypot(want[0] - got[0], want[1] - got[1])).toBeLessThan(1e-6);
  }
  expect(
    planeSurface({ corners: [corners[0], corners[0], corners[2], corners[3]], widthMm: 1, heightMm: 1 }),
  ).toBeNull();
});

test.each([
  [1900, 420, 0.25, 0.06],
  [1500, 260, 0.4, -0.1],
  [3200, 900, 0.1, 0],
])("round, by two curves: focal %d, %d mm away, tilted %d and %d", (focal, away, tilt, lean) => {
  const [width, height, radius, tall] = [2000, 1500, 41, 95];
  const eye = camera(focal, width, height);
  const down = [lean, Math.sqrt(1 - tilt * tilt - lean * lean), tilt];
  const top = [-20, -45, away];
  const dot = (a: readonly number[], b: readonly number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  /** Where a place round the wall lies: degrees from what faces the eye, mm down. */
  const wall = (radians: number, y: number): number[] => {
    const across = top.map((v, k) => v - dot(top, down) * down[k]);
    const far = Math.sqrt(dot(across, across));
    const ahead = across.map((v) => -v / far);
    const right = [
      ahead[1] * down[2] - ahead[2] * down[1],
      ahead[2] * down[0] - ahead[0] * down[2],
      ahead[0] * down[1] - ahead[1] * down[0],
    ];
    return top.map(
      (v, k) => v + y * down[k] + radius * (Math.cos(radians) * ahead[k] + Math.sin(radians) * right[k]),
    );
  };
  const far = Math.hypot(...top.map((v, k) => v - dot(top, down) * down[k]));
  const end = Math.acos(radius / far);
  const curve = (y: number) => [-end, 0.13, end].map((t) => eye(wall(t, y))) as [Point, Point, Point];
  expect(curve(0)[2][0]).toBeGreaterThan(curve(0)[0][0]); // its right end is on the right
  const found = cylinderSurface(
    { upper: curve(0), lower: curve(tall), diameterMm: 2 * radius },
    { width, height },
  )!;
  expect(Math.abs(found.heightMm - tall)).toBeLessThan(0.3);
  agree(found.surface, PLACES, 1e-4);
  for (let degrees = -70; degrees <= 70; degrees += 10)
    for (const y of [5, 30, 60, 90]) {
      const radians = (degrees * Math.PI) / 180;
      const [want, got] = [eye(wall(radians, y)), found.surface.seen(radians * radius, y)!];
      expect(Math.hypot(want[0] - got[0], want[1] - got[1])).toBeLessThan(1);
    }
});

test("cloth: through all nine points, and bent between them", () => {
  const eye = camera(1800, 2000, 1500);
  const inRoom = (x: number, y: number) => [
    0.9 * x,
    0.97 * y - 100,
    800 + 0.3 * x + 14 * Math.sin(x / 70) + 8 * Math.cos(y / 60),
  ];
  const points = [0, 1, 2].flatMap((j) => [0, 1, 2].map((i) => eye(inRoom((i - 1) * 90, j * 100))));
  const cloth = clothSurface({ points, widthMm: 180, heightMm: 200 })!;
  points.forEach(([x, y], k) => {
    const [u, v] = cloth.seen(((k % 3) - 1) * 90, Math.floor(k / 3) * 100)!;
    expect(Math.hypot(u - x, v - y)).toBeLessThan(1e-6);
  });
  agree(cloth, PLACES);
  for (let x = -80; x <= 80; x += 20)
    for (let y = 10; y <= 190; y += 20) {
      const [want, got] = [eye(inRoom(x, y)), cloth.seen(x, y)!];
      expect(Math.hypot(want[0] - got[0], want[1] - got[1])).toBeLessThan(1.5);
    }
  expect(cloth.at(-5000, -5000, new Float64Array(2))).toBe(false);
});

test("curves that make no sense are refused", () => {
  const point: Point = [10, 10];
  const flatCurve: [Point, Point, Point] = [point, point, point];
  expect(
    cylinderSurface({ upper: flatCurve, lower: flatCurve, diameterMm: 80 }, { width: 100, height: 100 }),
  ).toBeNull();
});
