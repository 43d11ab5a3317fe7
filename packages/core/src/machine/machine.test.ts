import { seeded } from "../maths/seeded";
import { runToEnd } from "../maths/work";
import { rectangleKnots, roundKnots } from "../path/outline";
import { pathSetOf, type KnotPath, type PathUse } from "../path/pathSet";
import { flattened } from "../path/flatten";
import { newBits, type Bits } from "../raster/types";
import { goneOn } from "../path/goneOn";
import { draggedEdge } from "../simulator/draggedEdge";
import { holderPath } from "./blade";
import { type Job } from "./job";
import { type BedLaser } from "./kinds/bedLaser/profile";
import { type FilmPrinter } from "./kinds/filmPrinter/profile";
import { type KnifeCutter } from "./kinds/knifeCutter/profile";
import { machineKindOf, profileNumbers, USUAL_MACHINES } from "./machine";
import { COMMON_NUMBERS } from "./profile";
import { ordered, travelOf, type Line } from "./order";
import { planRun } from "./plan";
import { gridOf, simulate } from "../simulator/simulate";
import { secondsIn, timelineOf } from "./timeline";
import { MoveList } from "./moves";
import { runWish } from "./wish";

const [laser, knife, printer] = USUAL_MACHINES as unknown as readonly [BedLaser, KnifeCutter, FilmPrinter];
const wish = runWish.parse({});

function someDots(width: number, height: number, share: (x: number, y: number) => number, seed = 1): Bits {
  const chance = seeded(seed);
  const bits = newBits(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (chance() < share(x / width, y / height)) bits.data[y * bits.stride + (x >> 3)] |= 128 >> (x & 7);
  return bits;
}

const jobOfBits = (bits: Bits, dotsPerInch = 254): Job => ({
  ...{ name: "Test piece", sets: [], bitmaps: [{ name: "engrave", bits, dotsPerInch }] },
  ...{ widthMm: (bits.width * 25.4) / dotsPerInch, heightMm: (bits.height * 25.4) / dotsPerInch },
});

const jobOfPaths = (use: PathUse, paths: readonly KnotPath[]): Job => ({
  ...{ name: "Test piece", bitmaps: [], widthMm: 100, heightMm: 100 },
  sets: [pathSetOf({ name: "cut", use, colour: 0 }, paths)],
});

/** Distance from a place to the nearest point of lines. */
function offLines(lines: readonly { readonly points: Float64Array }[], x: number, y: number): number {
  let least = Infinity;
  for (const { points } of lines)
    for (let k = 2; k < points.length; k += 2) {
      const [ax, ay] = [points[k - 2], points[k - 1]];
      const [dx, dy] = [points[k] - ax, points[k + 1] - ay];
      const length = dx * dx + dy * dy;
      const t = length > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / length)) : 0;
      least = Math.min(least, Math.hypot(ax + t * dx - x, ay + t * dy - y));
    }
  return least;
}

describe("when a head is where", () => {
  const motion = { accelMmPerS2: 1000, cornerMm: 0.02 };
  const straight = (...lengths: number[]) => {
    const moves = new MoveList(0, 0);
    let x = 0;
    for (const length of lengths)
      moves.add({ x: (x += length), y: 0, power: 0, speed: 100, pause: 0, line: 1 });
    return moves.done();
  };

  test("one move: up, along and down, by hand", () => {
    // 5 mm up to 100 mm/s in 0.1 s, the same down; 20 mm at 100 mm/s between
    expect(secondsIn(runToEnd(timelineOf(straight(30), motion)))).toBeCloseTo(0.1 + 0.2 + 0.1, 9);
  });

  test("too short to come to its speed: a triangle", () => {
    // v² = a l = 4000
    expect(secondsIn(runToEnd(timelineOf(straight(4), motion)))).toBeCloseTo((2 * Math.sqrt(4000)) / 1000, 9);
  });

  test("cut into pieces a straight move takes as long", () => {
    const whole = secondsIn(runToEnd(timelineOf(straight(30), motion)));
    const pieces = secondsIn(runToEnd(timelineOf(straight(...Array<number>(300).fill(0.1)), motion)));
    expect(pieces).toBeCloseTo(whole, 9);
  });

  test("back again: it stops between", () => {
    const moves = new MoveList(0, 0);
    for (const x of [30, 0]) moves.add({ x, y: 0, power: 0, speed: 100, pause: 0, line: 1 });
    expect(secondsIn(runToEnd(timelineOf(moves.done(), motion)))).toBeCloseTo(0.8, 9);
  });
});

describe("rows of a bitmap on a bed laser", () => {
  const pictures: [string, Bits][] = [
    ["scattered dots", someDots(417, 60, (x) => x)],
    ["a round piece", someDots(300, 300, (x, y) => (Math.hypot(x - 0.5, y - 0.5) < 0.5 ? 0.5 : 0))],
    ["lone dots far apart", someDots(900, 40, () => 0.002)],
    ["solid", someDots(200, 20, () => 1)],
  ];
  for (const [name, bits] of pictures)
    for (const bothWays of [true, false])
      test(`${name}, ${bothWays ? "there and back" : "one way"}: burned is the bitmap, dot for dot, each once`, () => {
        const job = jobOfBits(bits);
        const plan = runToEnd(planRun(job, laser, { ...wish, bothWays }));
        const grid = gridOf(job.bitmaps[0], plan.program.at, laser);
        const made = runToEnd(simulate(plan.program.moves, laser, [grid]));
        expect(Buffer.from(made.dots[0].bits.data).equals(Buffer.from(bits.data))).toBe(true);
        expect(made.dots[0].twice).toBe(0);
        expect(made.lines).toEqual([]);
        expect(Math.abs(plan.seconds / made.seconds - 1)).toBeLessThan(0.02);
      });

  test("a beam that answers late, and is not told early, would shift every second row", () => {
    const bits = someDots(100, 10, () => 0.5);
    const job = jobOfBits(bits);
    const plan = runToEnd(planRun(job, { ...laser, responseMs: 0 }, wish));
    const grid = gridOf(job.bitmaps[0], plan.program.at, laser);
    const made = runToEnd(simulate(plan.program.moves, { ...laser, responseMs: 0.4 }, [grid]));
    expect(Buffer.from(made.dots[0].bits.data).equals(Buffer.from(bits.data))).toBe(false);
  });

  test("a head without run-up would be told by shifted dots: marks are made at full speed alone", () => {
    const bits = someDots(400, 4, () => 0.5);
    const { program } = runToEnd(planRun(jobOfBits(bits), laser, wish));
    const { moves, entry } = runToEnd(timelineOf(program.moves, laser));
    for (let k = 0; k < moves.count; k++)
      if (moves.power[k] > 0) expect([entry[k], entry[k + 1]]).toEqual([laser.burnMmPerS, laser.burnMmPerS]);
  });

  test("rows without a mark are skipped, and the corners of a round piece cost nothing", () => {
    const round = pictures[1][1];
    const plan = runToEnd(planRun(jobOfBits(round), laser, wish));
    // A disc fills pi / 4 of its square: the rest, 90 mm x 90 mm at 0.1 mm and 300 mm/s, is about 19 s of 30 mm rows
    expect(plan.cornersSeconds).toBeGreaterThan(0.15 * ((300 * 30) / 300));
    expect(plan.cornersSeconds).toBeLessThan(0.25 * ((300 * 30) / 300));
    const sparse = newBits(80, 100);
    sparse.data[40 * sparse.stride] = 255;
    expect(runToEnd(planRun(jobOfBits(sparse), laser, wish)).program.passes[0].rows).toBe(1);
  });

  test("another line pitch than the machine's is refused with what it has", () => {
    expect(() =>
      runToEnd(
        planRun(
          jobOfBits(
            someDots(40, 40, () => 1),
            200,
          ),
          laser,
          wish,
        ),
      ),
    ).toThrow(
      "The finish's resolution is 200 dots per inch; Bed laser, 600 x 400 runs 127, 254, 300, 500, 508, 1016: set one of them under Size",
    );
  });

  test("a run-up beyond the bed is refused with where", () => {
    const job = jobOfBits(someDots(40, 40, () => 1));
    expect(() => runToEnd(planRun(job, laser, { ...wish, at: [3, 3] }))).toThrow(
      /reaches 2 to 598 mm across/,
    );
  });

  test("nothing to run is said", () => {
    expect(() => runToEnd(planRun(jobOfBits(newBits(8, 8)), laser, { ...wish, passes: ["other"] }))).toThrow(
      "What is to be run is nothing",
    );
  });
});

test("a line that is cut along a row is no dot of it", () => {
  const bits = someDots(100, 40, () => 0.3);
  const middle = 2.05; // of row 20
  const line = { knots: [{ at: [1, middle] as const }, { at: [9, middle] as const }], closed: false };
  const job = { ...jobOfBits(bits), sets: [pathSetOf({ name: "cut", use: "through", colour: 0 }, [line])] };
  const plan = runToEnd(planRun(job, laser, wish));
  const made = runToEnd(
    simulate(plan.program.moves, laser, [gridOf(job.bitmaps[0], plan.program.at, laser)]),
  );
  expect(Buffer.from(made.dots[0].bits.data).equals(Buffer.from(bits.data))).toBe(true);
  expect(made.lines).toHaveLength(1);
});

describe("lines in order", () => {
  const square = (x: number, y: number, side: number): Line => ({
    points: Float64Array.of(x, y, x + side, y, x + side, y + side, x, y + side, x, y),
    closed: true,
  });

  test("what lies inside goes first, at every depth", () => {
    const lines = [
      square(0, 0, 50),
      square(10, 10, 30),
      square(20, 20, 5),
      square(100, 0, 20),
      square(105, 5, 4),
    ];
    const { lines: out } = runToEnd(ordered(lines, [0, 0]));
    const sides = out.map(
      ({ points }) =>
        Math.max(...points.filter((_, k) => k % 2 === 0)) - Math.min(...points.filter((_, k) => k % 2 === 0)),
    );
    expect(sides.indexOf(5)).toBeLessThan(sides.indexOf(30));
    expect(sides.indexOf(30)).toBeLessThan(sides.indexOf(50));
    expect(sides.indexOf(4)).toBeLessThan(sides.indexOf(20));
    expect(new Set(sides)).toEqual(new Set([4, 5, 20, 30, 50]));
  });

  test("two hundred squares by chance: far less travel than given, never more, all of them there", () => {
    const chance = seeded(7);
    const lines = Array.from({ length: 200 }, () => square(500 * chance(), 300 * chance(), 2));
    const { lines: out, givenMm, travelMm } = runToEnd(ordered(lines, [0, 0]));
    expect(out).toHaveLength(200);
    expect(givenMm).toBeCloseTo(travelOf(lines, [0, 0]), 9);
    expect(travelMm).toBeLessThan(0.15 * givenMm);
    // A tour through n places by chance in an area A is about 0.7124 sqrt(n A) long (Beardwood, Halton & Hammersley 1959).
    expect(travelMm).toBeLessThan(1.15 * 0.7124 * Math.sqrt(200 * 500 * 300));
  });

  test("closed lines stay closed and keep their corners", () => {
    const { lines } = runToEnd(ordered([square(10, 10, 5)], [100, 100]));
    expect([...lines[0].points]).toEqual([15, 15, 10, 15, 10, 10, 15, 10, 15, 15]);
  });
});

describe("a blade that trails behind its holder", () => {
  test("a square, by hand: the holder goes ahead by the offset and swings round each corner", () => {
    const { places, facing } = holderPath(Float64Array.of(0, 0, 10, 0, 10, 10), 0.25, 0);
    expect(places[0]).toBeCloseTo(0.25, 12);
    expect(places[1]).toBeCloseTo(0, 12);
    expect(places.at(-2)).toBeCloseTo(10, 12);
    expect(places.at(-1)).toBeCloseTo(10.25, 12);
    expect(facing).toBeCloseTo(0.5, 12);
    for (let k = 0; k < places.length; k += 2)
      if (places[k] > 10.0001 && places[k + 1] > 0.0001 && places[k + 1] < 0.2499)
        expect(Math.hypot(places[k] - 10, places[k + 1])).toBeCloseTo(0.25, 9);
  });

  test("an overcut goes on along the beginning", () => {
    expect([...goneOn(Float64Array.of(0, 0, 4, 0, 0, 0), 1)]).toEqual([0, 0, 4, 0, 0, 0, 1, 0]);
  });

  for (const [name, knots] of [
    ["a square", rectangleKnots(20, 20, 30, 20)],
    ["a circle", roundKnots(20, 20, 25, 25)],
    ["a narrow wedge", [{ at: [20, 20] }, { at: [60, 24] }, { at: [20, 28] }]],
  ] as const)
    test(`${name}: what the edge cuts lies on the line, within 0.01 mm, and all of the line is cut`, () => {
      const job = jobOfPaths("kiss", [{ knots: knots as KnotPath["knots"], closed: true }]);
      const plan = runToEnd(planRun(job, knife, wish));
      const { lines } = runToEnd(simulate(plan.program.moves, knife));
      const [dx, dy] = plan.program.at;
      const wanted = flattened(job.sets[0], 0.0005).map(({ points }) => ({
        points: points.map((v, k) => (k % 2 === 0 ? v + dx : knife.bed.heightMm - v - dy)),
      }));
      const edge = draggedEdge(lines[0], knife.bladeOffsetMm, 0).points;
      let off = 0;
      for (let k = 0; k < edge.length; k += 2) off = Math.max(off, offLines(wanted, edge[k], edge[k + 1]));
      expect(off).toBeLessThan(0.01);
      for (const { points } of wanted)
        for (let k = 0; k < points.length; k += 2)
          expect(offLines([{ points: edge }], points[k], points[k + 1])).toBeLessThan(0.01);
    });
});

describe("cutting on a bed laser", () => {
  test("what was cut is the line, within 0.01 mm; inside before outside", () => {
    const job = jobOfPaths("through", [
      { knots: roundKnots(10, 10, 60, 60), closed: true },
      { knots: roundKnots(30, 30, 10, 12), closed: true },
    ]);
    const plan = runToEnd(planRun(job, laser, wish));
    const { lines } = runToEnd(simulate(plan.program.moves, { ...laser, responseMs: 0 }));
    expect(lines).toHaveLength(2);
    const [dx, dy] = plan.program.at;
    const wanted = flattened(job.sets[0], 0.0005).map(({ points }) => ({
      points: points.map((v, k) => (k % 2 === 0 ? v + dx : laser.bed.heightMm - v - dy)),
    }));
    for (const line of lines)
      for (let k = 0; k < line.length; k += 2)
        expect(offLines(wanted, line[k], line[k + 1])).toBeLessThan(0.01);
    const width = (line: Float64Array) =>
      Math.max(...line.filter((_, k) => k % 2 === 0)) - Math.min(...line.filter((_, k) => k % 2 === 0));
    expect(width(lines[0])).toBeCloseTo(10, 1);
    expect(width(lines[1])).toBeCloseTo(60, 1);
  });
});

test.each(["bed-laser", "knife-cutter"] as const)(
  "a border that reaches beyond its piece is within reach on the %s",
  (key) => {
    const job = {
      ...jobOfPaths("through", [{ knots: roundKnots(-8, -6, 40, 40), closed: true }]),
      widthMm: 24,
      heightMm: 24,
    };
    const plan = runToEnd(planRun(job, key === "bed-laser" ? laser : knife, wish));
    expect(plan.travels.x).toBeGreaterThanOrEqual(2);
    expect(plan.travels.width).toBeCloseTo(40, 0);
  },
);

describe("a film printer", () => {
  test("takes a TIFF of its own dots, swath by swath", () => {
    const bits = someDots(720, 720, () => 0.3);
    const plan = runToEnd(planRun(jobOfBits(bits, 720), printer, wish));
    expect(plan.program.mediaType).toBe("image/tiff");
    expect(new TextDecoder("latin1").decode(plan.program.bytes.subarray(0, 2))).toBe("II");
    expect(plan.program.moves.count).toBe(4 * 4);
  });

  test("refuses other dots and wider films", () => {
    expect(() =>
      runToEnd(
        planRun(
          jobOfBits(
            someDots(8, 8, () => 1),
            600,
          ),
          printer,
          wish,
        ),
      ),
    ).toThrow("The film's resolution is 600 dots per inch; Film printer, 330 wide prints 720, 1440");
    expect(() => runToEnd(planRun(jobOfBits(newBits(9400, 1), 720), printer, wish))).toThrow(
      /prints 324.2 mm/,
    );
  });
});

test.each(printer.dotsPerInch)(
  "a film at %d dots an inch is read from its bytes as it was planned",
  (dotsPerInch) => {
    const bits = someDots(700, 500, (x) => (x < 0.3 ? 0.4 : 0.02), 5);
    const plate = { name: "black", bits, dotsPerInch };
    const [widthMm, heightMm] = [bits.width, bits.height].map((v) => (v * 25.4) / dotsPerInch);
    const job: Job = { name: "Film", widthMm, heightMm, bitmaps: [plate], sets: [] };
    const { program } = runToEnd(planRun(job, printer, wish));
    const kind = machineKindOf(printer);
    const film = runToEnd(kind.film!(program.bytes, printer));
    expect([film.dotsPerInch, film.swathDots]).toEqual([dotsPerInch, printer.swathDots]);
    expect(Buffer.from(film.bits.data).equals(Buffer.from(bits.data))).toBe(true);
    expect(runToEnd(kind.moves(program.bytes, printer))).toEqual(program.moves);
    // The film lies on the bed, its top left where the plan says.
    const {
      travels,
      program: { at },
    } = runToEnd(planRun(job, printer, wish));
    expect(travels.y).toBeGreaterThanOrEqual(at[1] - 1e-9);
    expect(travels.y).toBeLessThan(at[1] + heightMm);
  },
);

test("every number of a kind's profile has a range, and the machine a shop starts with is within it", () => {
  for (const machine of USUAL_MACHINES) {
    const numbers = profileNumbers(machine);
    expect(numbers.length).toBeGreaterThan(COMMON_NUMBERS.length);
    for (const { of, min, max } of numbers) {
      const value = of
        .split(".")
        .reduce<unknown>((at, name) => (at as Record<string, unknown>)[name], machine);
      expect([of, typeof value]).toEqual([of, "number"]);
      expect([of, Number.isFinite(min) && Number.isFinite(max)]).toEqual([of, true]);
      expect(value as number).toBeGreaterThanOrEqual(min);
      expect(value as number).toBeLessThanOrEqual(max);
    }
  }
});
