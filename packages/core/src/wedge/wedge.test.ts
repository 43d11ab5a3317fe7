import { answered, ANSWERS_OF, type MaterialAnswer } from "../simulator/answer";
import { photographed } from "../simulator/photograph";
import { runToEnd } from "../maths/work";
import { newRgba, type Bits, type Gray } from "../raster/types";
import { burnedWedge, trueShares, WOOD } from "../testing/burnedWedge";
import { settingsOf } from "../route/route";
import { curveThrough, type CurvePoint } from "../tone/curve";
import { fitResponse } from "./fitResponse";
import { homographyOf, seenAt } from "../maths/homography";
import { BARE, drawWedge, STEPS } from "./layout";
import { readReadings } from "./readings";
import { readWedge, WedgeError } from "./readPhoto";
import { wedgeRoute } from "./wedge";

const colours = { bare: 0xdcbf94, marked: 0x5a3a20 };

test("four places onto four: the map and its inverse, by hand", () => {
  const h = homographyOf(
    [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ],
    [
      [10, 10],
      [20, 12],
      [18, 24],
      [9, 20],
    ],
  )!;
  expect(seenAt(h, 1, 1)).toEqual([expect.closeTo(18, 9), expect.closeTo(24, 9)]);
  expect(seenAt(h, 0, 1)).toEqual([expect.closeTo(9, 9), expect.closeTo(20, 9)]);
  expect(
    homographyOf(
      [
        [0, 0],
        [1, 0],
        [2, 0],
        [3, 0],
      ],
      [
        [0, 0],
        [1, 0],
        [2, 0],
        [3, 0],
      ],
    ),
  ).toBeNull();
});

describe("a curve through readings", () => {
  const made = STEPS.map((p) => p / 100);
  test("readings on a smooth curve are kept, and noise is evened out", () => {
    const truth = (x: number) => Math.pow(x, 0.7);
    let seed = 5;
    const noise = () => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) * 0.04;
    const clean = fitResponse(made.map((m) => [m, truth(m)]));
    expect(clean.mostPercent).toBeLessThan(2);
    const noisy = fitResponse(made.map((m): CurvePoint => [m, m === 0 || m === 1 ? m : truth(m) + noise()]));
    const curve = curveThrough(noisy.points);
    const off = made.filter((m) => m > 0.1).map((m) => Math.abs(curve(m) - truth(m)));
    expect(Math.max(...off)).toBeLessThan(0.02);
    expect(noisy.errorPercent).toBeGreaterThan(0.3);
  });

  test("it rises everywhere, whatever was read", () => {
    const { points } = fitResponse([
      [0.1, 0.5],
      [0.2, 0.3],
      [0.5, 0.9],
      [0.7, 0.6],
      [0.9, 1.1],
    ]);
    for (let k = 1; k < points.length; k++) expect(points[k][1]).toBeGreaterThan(points[k - 1][1]);
    expect([points[0], points.at(-1)]).toEqual([
      [0, 0],
      [1, 1],
    ]);
  });

  test("a step that is read twice, or nearer than a tenth of a percent to another, is refused by its name", () => {
    const read = (...made: number[]) => readReadings(made.map((m) => [m, m]));
    expect(() => read(10, 30, 50, 30)).toThrow(/each step once; 30 % is there twice/);
    expect(() => read(10, 30.05, 30, 50)).toThrow(/30\.05 % is there twice, or nearer than 0\.1 %/);
    expect(read(10, 30.1, 30, 50).map(([made]) => made)).toEqual([0.1, 0.3, 0.301, 0.5]);
  });

  test("two readings are too few", () => {
    expect(() =>
      fitResponse([
        [0.2, 0.3],
        [0.5, 0.4],
      ]),
    ).toThrow("2 readings between bare and full; 3 or more are needed");
  });
});

describe("a wedge through the simulated machine and its material", () => {
  let bits: Bits;
  beforeAll(async () => {
    bits = await burnedWedge();
  });

  test.each([
    ["wood", 1],
    ["usual", 4],
  ] as const)(
    "a photograph of it on %s, held as %i, is read within 1.5 %% of what is on the material",
    (kind, seed) => {
      const marks = runToEnd(answered(bits, WOOD.dotsPerInch, ANSWERS_OF[kind]));
      const photo = runToEnd(photographed(marks, colours, 1000, seed));
      const { steps } = readWedge(photo, WOOD.dotsPerInch, false);
      const truth = trueShares(marks);
      for (const [made, seen] of steps)
        expect(Math.abs(seen - truth.get(Math.round(100 * made))!)).toBeLessThan(0.015);
    },
  );

  test("of what burns pale too, and upside down", () => {
    const marks = runToEnd(answered(bits, WOOD.dotsPerInch, ANSWERS_OF.slate));
    const photo = runToEnd(photographed(marks, { bare: 0x3f444a, marked: 0xb9bcbc }, 1400, 5));
    const turned = { ...photo, data: new Uint8Array(photo.data.length) };
    for (let i = 0; i < photo.data.length; i += 4)
      turned.data.set(photo.data.subarray(i, i + 4), photo.data.length - 4 - i);
    const truth = trueShares(marks);
    for (const [made, seen] of readWedge(turned, WOOD.dotsPerInch, true).steps)
      expect(Math.abs(seen - truth.get(Math.round(100 * made))!)).toBeLessThan(0.02);
  });

  test.each(["wood"] as const)(
    "with its curve taken off, tone in against tone burned on %s is straight within 2 %%; without it is not",
    async (kind) => {
      const answer: MaterialAnswer = ANSWERS_OF[kind];
      const before = runToEnd(answered(bits, WOOD.dotsPerInch, answer));
      const photo = runToEnd(photographed(before, colours, 1600, 11));
      const { points } = fitResponse(readWedge(photo, WOOD.dotsPerInch, false).steps);
      const after = runToEnd(answered(await burnedWedge(points), WOOD.dotsPerInch, answer));
      const worst = (marks: Gray) =>
        Math.max(...[...trueShares(marks)].map(([p, share]) => Math.abs(share - p / 100)));
      expect(worst(before)).toBeGreaterThan(0.08);
      expect(worst(after)).toBeLessThan(0.02);
    },
  );

  test("lone dots that are lost are told from those that hold", () => {
    const held = (answer: MaterialAnswer) => {
      const marks = runToEnd(answered(bits, WOOD.dotsPerInch, answer));
      return readWedge(runToEnd(photographed(marks, colours, 1400, 3)), WOOD.dotsPerInch, false).held;
    };
    expect(held({ spreadMm: 0.02, begins: 0.1, full: 0.5 })).toEqual({ dot: 1, line: 1, gap: 1 });
    const wide = held({ spreadMm: 0.12, begins: 0.3, full: 0.8 });
    expect(wide.dot).toBeGreaterThan(1);
    expect(wide.line).toBeGreaterThan(1);
    expect(wide.line!).toBeLessThanOrEqual(wide.dot!);
  });

  test("places that are bare by the layout are bare on the wedge, all over it", () => {
    const gray = drawWedge(WOOD.dotsPerInch);
    const perMm = WOOD.dotsPerInch / 25.4;
    for (const [x, y] of BARE)
      for (const [dx, dy] of [
        [0, 0],
        [-0.5, -0.5],
        [0.5, -0.5],
        [-0.5, 0.5],
        [0.5, 0.5],
      ])
        expect([
          x,
          y,
          gray.data[Math.round((y + dy) * perMm) * gray.width + Math.round((x + dx) * perMm)],
        ]).toEqual([x, y, 255]);
    expect(Math.max(...BARE.map(([, y]) => y))).toBeGreaterThan(70);
  });

  test.each(["slate", "usual"] as const)(
    "what held on %s is told the same in even light and near a lamp",
    (kind) => {
      const marks = runToEnd(answered(bits, WOOD.dotsPerInch, ANSWERS_OF[kind]));
      const held = (strength: number) =>
        readWedge(
          runToEnd(photographed(marks, colours, 1300, 6, { lamp: { strength, x: 0.1, y: 0.1 } })),
          WOOD.dotsPerInch,
          false,
        ).held;
      expect(held(0.6)).toEqual(held(0));
      expect(held(0).gap).not.toBeNull();
    },
  );

  test("a faint wedge, turned and on a pale table by a near lamp, is read as it is", () => {
    const marks = runToEnd(answered(bits, WOOD.dotsPerInch, ANSWERS_OF.wood));
    const photo = runToEnd(
      photographed(marks, { bare: 0x6a4a32, marked: 0x543a26 }, 1200, 9, {
        ...{ turnDegrees: 40, tilt: 0.06, tint: [1, 0.8, 0.6], table: { colour: 0xf2efe9, margin: 0.05 } },
        lamp: { strength: 0.5, x: 0.2, y: 0.8 },
      }),
    );
    const curve = curveThrough(fitResponse(readWedge(photo, WOOD.dotsPerInch, false).steps).points);
    for (const [percent, share] of trueShares(marks))
      expect(Math.abs(curve(percent / 100) - share)).toBeLessThan(0.02);
  });

  test("a reflection over some of the steps is told, not read", () => {
    const marks = runToEnd(answered(bits, WOOD.dotsPerInch, ANSWERS_OF.usual));
    const photo = runToEnd(photographed(marks, colours, 1000, 4));
    for (let y = 250; y < 330; y++)
      for (let x = 300; x < 620; x++)
        for (const c of [0, 1, 2]) {
          const o = 4 * (y * photo.width + x) + c;
          photo.data[o] = Math.min(255, photo.data[o] + 60);
        }
    expect(() => readWedge(photo, WOOD.dotsPerInch, false)).toThrow(/off a smooth curve; 2 % is the most/);
  });

  test("what is no wedge is said to be none", () => {
    const marks = runToEnd(answered(bits, WOOD.dotsPerInch, ANSWERS_OF.wood));
    const photo = runToEnd(photographed(marks, colours, 1000, 3));
    const cut = { width: 700, height: photo.height, data: new Uint8Array(700 * photo.height * 4) };
    for (let y = 0; y < photo.height; y++)
      cut.data.set(photo.data.subarray(4 * y * 1000, 4 * (y * 1000 + 700)), 4 * 700 * y);
    expect(() => readWedge(cut, WOOD.dotsPerInch, false)).toThrow(WedgeError);
    expect(() => readWedge(newRgba(300, 200), WOOD.dotsPerInch, false)).toThrow(WedgeError);
    expect(() => readWedge(runToEnd(photographed(marks, colours, 200, 3)), WOOD.dotsPerInch, false)).toThrow(
      /pixels wide/,
    );
  });
});

test("a photograph full of spots of a mark's size is answered, not tried for good", () => {
  const photo = newRgba(1600, 1200);
  photo.data.fill(200);
  let seed = 7;
  const upTo = (most: number) => most * ((seed = (seed * 16807) % 2147483647) / 2147483647);
  for (let k = 0; k < 900; k++) {
    const [cx, cy, r] = [Math.floor(upTo(1560)), Math.floor(upTo(1160)), Math.floor(14 + upTo(4))];
    for (let y = cy; y < cy + 2 * r; y++)
      for (let x = cx; x < cx + 2 * r; x++)
        if ((x - cx - r) ** 2 + (y - cy - r) ** 2 < r * r)
          photo.data.fill(60, 4 * (y * 1600 + x), 4 * (y * 1600 + x) + 3);
  }
  // Minutes, where every four is tried.
  expect(() => readWedge(photo, WOOD.dotsPerInch, false)).toThrow(/No four of the marks/);
}, 30000);

test("the wedge's route is the material's pattern without a curve", () => {
  const route = wedgeRoute(WOOD);
  expect(settingsOf(route, "blackWhite")).toMatchObject({
    method: "scatter",
    gain: [
      [0, 0],
      [1, 1],
    ],
  });
  expect(route.material).toBe("pale-wood");
});
