import { USUAL_LIMITS } from "../inspect/limits";
import { runToEnd } from "../maths/work";
import { bitAt } from "../raster/types";
import { alphaAt, artFrom, clearingFrom, clearSettings, pictureOf } from "../testing/clearings";
import { stageById } from "../stage/stages";
import { coverOfPolygon } from "../path/cover";
import { polygonOf, rectangleKnots, roundKnots } from "../path/outline";
import { as, type Picture } from "../result/result";
import { inspectStage, runStage } from "../testing/running";
import { moveEdge, tidy } from "./edge";
import { takeGaps } from "./gaps";
import { coverOfStrokes } from "./strokes";

const cleared = (art: Picture, given: object): Picture => as(runStage("clear", art, given), "picture");
const alpha = (art: Picture, x: number, y: number) => art.colour.data[(y * art.colour.width + x) * 4 + 3];

const [NAVY, CREAM, WHITE] = [
  [23, 58, 94],
  [239, 224, 184],
  [255, 255, 255],
] as const;
/** A navy ring with a cream outline of its own on white, edges softened over one pixel; and a small second ring. */
function rings(x: number, y: number): [number, number, number] {
  const cover = (d: number) => Math.min(1, Math.max(0, d + 0.5));
  let c: readonly number[] = WHITE;
  const over = (top: readonly number[], a: number) => (c = c.map((v, k) => v * (1 - a) + top[k] * a));
  const r = Math.hypot(x + 0.5 - 60, y + 0.5 - 60);
  over(CREAM, Math.min(cover(44 - r), cover(r - 20)));
  over(NAVY, Math.min(cover(40 - r), cover(r - 24)));
  const s = Math.hypot(x + 0.5 - 110, y + 0.5 - 110);
  over(NAVY, Math.min(cover(9 - s), cover(s - 3.2)));
  return c as [number, number, number];
}
const truth = (x: number, y: number): number => {
  const cover = (d: number) => Math.min(1, Math.max(0, d + 0.5));
  const r = Math.hypot(x + 0.5 - 60, y + 0.5 - 60);
  const s = Math.hypot(x + 0.5 - 110, y + 0.5 - 110);
  return Math.max(Math.min(cover(44 - r), cover(r - 20)), Math.min(cover(9 - s), cover(s - 3.2)));
};
const logo = pictureOf(124, 124, rings);
const PICK = { op: "pick", at: [0.01, 0.01], tolerance: 6 };

describe("gaps", () => {
  const found = (smallestPixels: number | null, but: [number, number][] = []) => {
    const clearing = clearingFrom(logo);
    return {
      clearing,
      ...runToEnd(takeGaps(clearing, { like: [0.01, 0.01], tolerance: 6, smallestPixels, but })),
    };
  };
  test("each enclosed island is found once, largest first; the surround is none", () => {
    const { gaps } = found(0);
    expect(gaps).toHaveLength(2);
    expect(gaps[0].pixels).toBeGreaterThan(gaps[1].pixels);
    expect(Math.abs(gaps[0].pixels - Math.PI * 20 ** 2)).toBeLessThan(40);
    expect(gaps.every((g) => g.taken)).toBe(true);
  });
  test("above a size, none, and one by one", () => {
    expect(found(100).gaps.map((g) => g.taken)).toEqual([true, false]);
    expect(found(null).gaps.map((g) => g.taken)).toEqual([false, false]);
    const small: [number, number] = [110 / 124, 110 / 124];
    const one = found(null, [small]);
    expect(one.gaps.map((g) => g.taken)).toEqual([false, true]);
    expect(one.gaps[1].by).toEqual([0]);
    expect([alphaAt(one.clearing, 60, 60), alphaAt(one.clearing, 110, 110)]).toEqual([255, 0]);
    expect(found(0, [[60 / 124, 60 / 124]]).gaps.map((g) => g.taken)).toEqual([false, true]);
  });
});

describe("a flat logo by pick and gaps", () => {
  const result = cleared(artFrom(logo), { ops: [PICK, { op: "gaps", tolerance: 6, smallestMm2: 0 }] });
  test("is cut to its true cover, outline and all", () => {
    let sum = 0;
    let worst = 0;
    for (let y = 0; y < 124; y++)
      for (let x = 0; x < 124; x++) {
        const error = Math.abs(alpha(result, x, y) / 255 - truth(x, y));
        sum += error;
        worst = Math.max(worst, error);
      }
    expect(sum / 124 ** 2).toBeLessThan(0.004);
    expect(worst).toBeLessThan(0.35);
  });
  test("keeps every colour to the bit where it is whole", () => {
    let whole = 0;
    for (let i = 0; i < 124 * 124; i++) {
      if (result.colour.data[i * 4 + 3] !== 255) continue;
      whole++;
      expect(Array.from(result.colour.data.subarray(i * 4, i * 4 + 3))).toEqual(
        Array.from(logo.data.subarray(i * 4, i * 4 + 3)),
      );
    }
    expect(whole).toBeGreaterThan(4000);
  });
  test("carries no white at the rim, as it does when the fringe is left", () => {
    const art = artFrom(logo);
    const rim = (given: object) => {
      const done = cleared(art, { ops: [PICK, { op: "gaps", tolerance: 6, smallestMm2: 0 }], ...given });
      const limits = { ...USUAL_LIMITS, strayMm2: 0.01 };
      const look = inspectStage("clear", done, { ops: [PICK] }, limits, art);
      return look.checks.find((c) => c.id === "edgeRim")!;
    };
    expect(rim({}).level).toBe("fine");
    const left = rim({ fringe: "none" });
    expect(left.level).toBe("look");
    expect(left.places.length).toBeGreaterThan(0);
    expect(left.value).toBeGreaterThan(4);
  });
});

describe("strokes", () => {
  const on = clearingFrom(pictureOf(100, 60, () => [0, 0, 0]));
  const area = (cover: Uint8Array) => cover.reduce((a, b) => a + b, 0) / 255;
  test("a dot has its size; a line its length; pressure thins it", () => {
    const dot = runToEnd(coverOfStrokes(on, [{ points: [[0.5, 0.5]], sizeMm: 3, softness: 0 }]));
    expect(Math.abs(area(dot) - Math.PI * 15 ** 2)).toBeLessThan(8);
    const line = runToEnd(
      coverOfStrokes(on, [
        {
          points: [
            [0.2, 0.5],
            [0.8, 0.5],
          ],
          sizeMm: 1,
          softness: 0,
        },
      ]),
    );
    expect(Math.abs(area(line) - (600 / 10) * 10 - Math.PI * 25)).toBeLessThan(8);
    const light = runToEnd(
      coverOfStrokes(on, [
        {
          points: [
            [0.2, 0.5, 0.5],
            [0.8, 0.5, 0.5],
          ],
          sizeMm: 1,
          softness: 0,
        },
      ]),
    );
    expect(area(light)).toBeLessThan(0.65 * area(line));
  });
  test("a soft stroke fades in a straight line from the middle", () => {
    const soft = runToEnd(coverOfStrokes(on, [{ points: [[0.5, 0.5]], sizeMm: 4, softness: 1 }]));
    const values = [0, 5, 10, 15].map((d) => soft[30 * 100 + 50 + d]);
    expect(values[0]).toBeGreaterThan(245);
    values.slice(1).forEach((v, k) => expect(v).toBeLessThan(values[k]));
  });
});

describe("outlines", () => {
  const area = (cover: Uint8Array) => cover.reduce((a, b) => a + b, 0) / 255;
  test("cover is the exact area, for shapes in, across and outside the picture", () => {
    expect(
      area(
        runToEnd(
          coverOfPolygon(
            [
              [2.5, 3.25],
              [10.75, 3.25],
              [10.75, 9],
              [2.5, 9],
            ],
            20,
            20,
          ),
        ),
      ),
    ).toBeCloseTo(8.25 * 5.75, 1);
    expect(
      area(
        runToEnd(
          coverOfPolygon(
            [
              [1, 1],
              [19, 1],
              [10, 18],
            ],
            20,
            20,
          ),
        ),
      ),
    ).toBeCloseTo(153, 0);
    expect(
      area(
        runToEnd(
          coverOfPolygon(
            [
              [-5, -5],
              [30, -5],
              [30, 10],
              [-5, 10],
            ],
            20,
            20,
          ),
        ),
      ),
    ).toBeCloseTo(200, 1);
    expect(
      area(
        runToEnd(
          coverOfPolygon(
            [
              [30, 3],
              [40, 3],
              [40, 9],
            ],
            20,
            20,
          ),
        ),
      ),
    ).toBe(0);
    expect(
      area(
        runToEnd(
          coverOfPolygon(
            [
              [-30, 3],
              [-20, 3],
              [-20, 9],
            ],
            20,
            20,
          ),
        ),
      ),
    ).toBe(0);
  });
  test("both ways round are the same", () => {
    const points: [number, number][] = [
      [3.2, 2.1],
      [17.7, 5.5],
      [11, 16.9],
      [4, 12.3],
    ];
    expect(runToEnd(coverOfPolygon(points, 20, 20))).toEqual(
      runToEnd(coverOfPolygon([...points].reverse(), 20, 20)),
    );
  });
  test("a round and a rounded one have their areas", () => {
    expect(
      area(runToEnd(coverOfPolygon(polygonOf(roundKnots(5, 10, 60, 40)), 80, 60))) / (Math.PI * 30 * 20),
    ).toBeCloseTo(1, 3);
    const rounded = area(runToEnd(coverOfPolygon(polygonOf(rectangleKnots(5, 5, 50, 40, 8, 8)), 60, 50)));
    expect(rounded / (2000 - (4 - Math.PI) * 64)).toBeCloseTo(1, 3);
  });
});

describe("the edge", () => {
  const disc = (radius: number) =>
    clearingFrom(
      pictureOf(80, 80, (x, y) => [
        200,
        40,
        40,
        255 * Math.min(1, Math.max(0, radius - Math.hypot(x + 0.5 - 40, y + 0.5 - 40) + 0.5)),
      ]),
    );
  const area = ({ data }: { data: Uint8Array }) =>
    data.reduce((a, v, i) => a + ((i & 3) === 3 ? v : 0), 0) / 255;
  test.each([[-3], [-0.5], [2], [5.5]])("moved by %d pixels a disc is the disc of that radius", (by) => {
    const clearing = disc(20);
    runToEnd(moveEdge(clearing, by, 0, true));
    expect(Math.sqrt(area(clearing) / Math.PI)).toBeCloseTo(20 + by, 0);
    expect(Math.abs(Math.sqrt(area(clearing) / Math.PI) - 20 - by)).toBeLessThan(0.25);
  });
  test("grown over the old background it takes the art's colour, or the picture's", () => {
    const white = pictureOf(30, 9, (x) => (x < 15 ? [20, 30, 200] : [255, 255, 255]));
    for (const [bleed, wanted] of [
      [true, [20, 30, 200]],
      [false, [255, 255, 255]],
    ] as const) {
      const clearing = clearingFrom(white);
      for (let i = 0; i < 270; i++) if (i % 30 >= 15) clearing.data[i * 4 + 3] = 0;
      runToEnd(moveEdge(clearing, 4, 0, bleed));
      expect(Array.from(clearing.data.subarray((4 * 30 + 17) * 4, (4 * 30 + 17) * 4 + 4))).toEqual([
        ...wanted,
        255,
      ]);
      expect(alphaAt(clearing, 20, 4)).toBe(0);
    }
  });
  test("feathered it fades inwards only", () => {
    const clearing = disc(25);
    runToEnd(moveEdge(clearing, 0, 10, true));
    const across = Array.from({ length: 30 }, (_, d) => alphaAt(clearing, 40 + d, 40));
    expect(across[0]).toBe(255);
    expect(across[27]).toBe(0);
    for (let d = 15; d < 25; d++) expect(across[d]).toBeGreaterThan(across[d + 1]);
    expect(Math.abs(across[20] - 255 * 0.5)).toBeLessThan(30);
  });
  test("specks go, pinholes are filled, and tint alone goes", () => {
    const picture = pictureOf(60, 40, () => [90, 90, 90]);
    const clearing = clearingFrom(picture);
    const set = (x: number, y: number, a: number) => (clearing.data[(y * 60 + x) * 4 + 3] = a);
    for (let y = 0; y < 40; y++) for (let x = 0; x < 60; x++) if (x >= 30) set(x, y, 0);
    for (const [x, y] of [
      [40, 10],
      [41, 10],
      [41, 11],
    ])
      set(x, y, 255); // a speck of 3
    for (let k = 0; k < 12; k++) set(40 + k, 20, 255); // a bit of 12
    for (let k = 0; k < 90; k++) set(35 + (k % 20), 28 + Math.floor(k / 20), 7); // tint
    for (const [x, y] of [
      [10, 10],
      [11, 10],
    ])
      set(x, y, 0); // a pinhole of 2
    for (let k = 0; k < 9; k++) set(15 + k, 25, 0); // a hole of 9
    set(0, 0, 0); // a bare corner, open to the picture's edge
    set(20, 39, 0);
    runToEnd(tidy(clearing, 5, 5));
    expect([alphaAt(clearing, 0, 0), alphaAt(clearing, 20, 39)]).toEqual([0, 0]);
    expect([alphaAt(clearing, 41, 10), alphaAt(clearing, 45, 20), alphaAt(clearing, 40, 29)]).toEqual([
      0, 255, 0,
    ]);
    expect([alphaAt(clearing, 10, 10), alphaAt(clearing, 18, 25)]).toEqual([255, 0]);
  });
});

describe("the stage", () => {
  const art = artFrom(logo);
  const strokeAt = (x: number, y: number, sizeMm = 1.4) => ({ points: [[x / 124, y / 124]], sizeMm });
  test("a hold holds against picks that come before and after it", () => {
    const hold = { op: "hold", strokes: [strokeAt(6, 60)] };
    for (const ops of [
      [PICK, hold],
      [hold, PICK],
    ]) {
      const done = cleared(art, { ops });
      expect(alpha(done, 6, 60)).toBe(255);
      expect(alpha(done, 3, 3)).toBe(0);
    }
  });
  test("brush and eraser go by their order", () => {
    const back = { op: "brush", paints: "back", strokes: [strokeAt(6, 6)] };
    const away = { op: "brush", paints: "away", strokes: [strokeAt(6, 6)] };
    expect(alpha(cleared(art, { ops: [PICK, back] }), 6, 6)).toBe(255);
    expect(alpha(cleared(art, { ops: [PICK, back, away] }), 6, 6)).toBe(0);
    expect(alpha(cleared(art, { ops: [away, back] }), 6, 6)).toBe(255);
  });
  test("a shape keeps its inside, or its outside", () => {
    const path = { op: "path", kind: "round", box: [0.25, 0.25, 0.5, 0.5] };
    const inside = cleared(art, { ops: [path] });
    const outside = cleared(art, { ops: [{ ...path, keep: "outside" }] });
    expect([
      alpha(inside, 62, 62),
      alpha(inside, 5, 5),
      alpha(outside, 62, 62),
      alpha(outside, 5, 5),
    ]).toEqual([255, 0, 0, 255]);
    const free = {
      op: "path",
      kind: "free",
      knots: [{ at: [0, 0] }, { at: [0.5, 0] }, { at: [0.5, 1] }, { at: [0, 1] }],
    };
    expect([
      alpha(cleared(art, { ops: [free] }), 20, 60),
      alpha(cleared(art, { ops: [free] }), 90, 60),
    ]).toEqual([255, 0]);
  });
  test("a pick everywhere takes the gaps too; picks of nothing there are nothing", () => {
    const everywhere = cleared(art, { ops: [{ ...PICK, joined: false }] });
    expect([alpha(everywhere, 60, 60), alpha(everywhere, 3, 3), alpha(everywhere, 60, 30)]).toEqual([
      0, 0, 255,
    ]);
    expect(cleared(art, { ops: [] }).colour.data).toEqual(logo.data);
  });
  test("says what was decided", () => {
    const says = (given: object) => stageById("clear").summary(clearSettings(given));
    expect(says({})).toBe("nothing taken away yet");
    expect(says({ ops: [PICK, { op: "gaps" }], edgeMm: -0.1 })).toBe(
      "pick ±6, gaps from 0.5 mm², edge −0.1 mm",
    );
    expect(
      says({ ops: [{ op: "lift", kept: 0.2, gone: 0.95, light: "uneven" }, PICK, { op: "hold" }] }),
    ).toBe("lift 20 to 95 %, light evened, pick ±6, 1 more");
    expect(says({ ops: [{ op: "lift" }] })).toBe("lift as found");
    expect(says({ ops: [{ op: "lift", gone: 0.9 }] })).toBe("lift found to 90 %");
  });
  test("cleared surround stays unmarked in both polarities", () => {
    for (const material of ["burns-dark", "burns-pale"])
      for (const method of [{ method: "line", threshold: 128 }, { method: "scatter" }]) {
        const done = cleared(art, { ops: [PICK] });
        const { bits } = as(runStage("blackWhite", done, { material, ...method }), "plates").plates[0];
        for (let y = 0; y < 124; y++)
          for (let x = 0; x < 124; x++) if (alpha(done, x, y) === 0) expect(bitAt(bits, x, y)).toBe(0);
      }
  });
  test.each<[object, RegExp]>([
    [{ ops: [{ op: "wipe" }] }, /"pick", "gaps", "lift"/],
    [{ ops: [{ op: "pick", at: [2, 0] }] }, /ops.0.at.0 is 2; allowed: 1 or less/],
    [{ ops: [{ op: "pick", at: [0, 0], tolerance: 101 }] }, /tolerance is 101; allowed: 100 or less/],
    [{ ops: [{ op: "lift", kept: 0.9, gone: 0.5 }] }, /gone is 0.5; allowed: above kept, which is 0.9/],
    [{ ops: [{ op: "lift", paper: "white" }] }, /paper is "white"; allowed: "auto" or "#rrggbb"/],
    [{ ops: [{ op: "gaps" }] }, /like is .*; allowed: a pick on this route/],
    [{ ops: [PICK, { op: "gaps", like: 1 }] }, /like is 1; allowed: a pick's number, 0 to 0/],
    [{ edgeMm: 50 }, /edgeMm is 50; allowed: 20 or less/],
    [{ ops: [{ op: "hold", strokes: [{ points: [] }] }] }, /points is \[\]; allowed: at least 1/],
  ])("refuses %j", (given, words) => expect(() => clearSettings(given)).toThrow(words));
});
